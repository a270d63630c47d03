/** What stands for a placeholder whose value nobody knows yet, told from its name. */
const SAMPLES: readonly (readonly [RegExp, string])[] = [
  [/online|players|count|left|seats|slots|max/i, '18'],
  [/player|name$|who|nick|user/i, 'nessa'],
  [/balance|money|marks|purse/i, '1,240 marks'],
  [/price|cost|fee|amount|paid|tax|reward/i, '50 marks'],
  [/seconds?/i, '10'],
  [/wait|time|remaining|duration|until|tide|ebb|dusk/i, '12 min'],
  [/rank|group|prefix/i, 'ferryman'],
  [/place|world|where/i, 'delta'],
  [/item|goods?/i, 'Fired brick'],
  [/hamper|stall|pit|title/i, 'Angler’s hamper'],
]

/** A value for a placeholder, by its name without the marks around it. */
export const sampleFor = (name: string): string => SAMPLES.find(([pattern]) => pattern.test(name))?.[1] ?? name
