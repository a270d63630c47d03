import { codesIn } from '../choices'
import { boundsIn, timeUnitIn, timeUnitOfFile } from '../said'
import { timeUnit } from '../units'
import { endsWith, hasWord, type Detector, type Look } from './look'

const numberOf = (look: Look): number => Number(look.texts[0])

/** Numbers that say off and on. */
export const numericSwitch: Detector = (look) => {
  if (look.kind !== 'number' || look.isList || !['0', '1'].includes(look.texts[0]!)) return null
  const { comment } = look
  const saysSo =
    /\b(?:0 or 1|1 or 0|0\/1|1\/0)\b/.test(comment) ||
    (/\b0\s*(?:=|:|is|for|means|to)\s*(?:off|no|false|disabled?|never|none|hidden|closed)\b/i.test(comment) &&
      /\b1\s*(?:=|:|is|for|means|to)\s*(?:on|yes|true|enabled?|always|shown|open)\b/i.test(comment))
  const isNamedSo =
    /^(?:enabled?|disabled?|is|has|show|hide|allow|use|can|should|open|play|display|send)$/.test(look.words[0] ?? '') &&
    look.words.length > 1
  if (codesIn(comment, look.texts[0]!).length > 2) return null
  return saysSo || (isNamedSo && !/\d{2}|\bhow\b|\bseconds?|ticks?/i.test(comment) && !/\b[2-9]\b/.test(comment))
    ? { means: 'switch' }
    : null
}

/** Codes that stand for something each. */
export const codes: Detector = (look) => {
  if (look.kind !== 'number' || look.isList) return null
  const listed = codesIn(look.comment, look.texts[0]!)
  return listed.length > 2 || (listed.length === 2 && !listed.every(({ value }) => ['0', '1'].includes(value)))
    ? { means: 'choice', choices: listed.map(({ value }) => value), said: listed }
    : null
}

/** Whether it stands beside what may be at most. */
const hasMost = ({ around }: Look): boolean => around.names.has('max') || around.names.has('Max')

/** The words of a name that say what is counted, and no time: `max-seconds-per-day` is, `ticks-per-draw` is not. */
const unitInName = (look: Look): string | null => {
  const at = look.words.findLastIndex(
    (word) => timeUnit(word) !== null && !(word === 'min' && look.words[0] === 'min' && (look.words.length > 1 || hasMost(look))),
  )
  if (at < 0) return null
  const word = look.words[at]!
  // a rate, and the day of a schedule, are no stretches of time
  if (at > 0 && ['per', 'a', 'each'].includes(look.words[at - 1]!)) return null
  if (['per', 'rate', 'count', 'limit', 'speed'].includes(look.words[at + 1] ?? '')) return null
  if (
    ['day', 'week', 'hour', 'minute', 'second', 'min'].includes(word) &&
    at < look.words.length - 1 &&
    !['delay', 'interval', 'cooldown'].includes(look.words[at + 1]!)
  )
    return null
  return timeUnit(word)
}

const LASTS =
  /^(?:every|interval|delay|cooldown|timeout|duration|period|pause|refresh|refill|keep|expire|expiry|wait|time|lasts?|spare|warn|remind|after|before|until|refresh|length|protected|grace|lead|age|ttl|spread|again|frequency)$/

export const duration: Detector = (look) => {
  if (look.kind !== 'number') return null
  const said = timeUnitIn(look.comment)
  const named = unitInName(look)
  // what the author says of it counts for more than what it is called
  if (said) return { means: 'duration', unit: said }
  const unit = named ?? look.unitAbove ?? (look.words.some((word) => LASTS.test(word)) ? timeUnitOfFile(look.head) : null)
  return unit ? { means: 'duration', unit } : null
}

export const port: Detector = (look) => {
  const value = numberOf(look)
  if (look.kind !== 'number' || !hasWord(look, 'port') || !Number.isInteger(value) || value < 0 || value > 65535) return null
  return { means: 'port', min: value === 0 || boundsIn(look.comment).min === 0 ? 0 : 1, max: 65535, wholeNumber: true }
}

export const angle: Detector = (look) => {
  if (look.kind !== 'number' || look.isList) return null
  const says = /\bdegrees?\b|°/i.test(look.comment) && !/\bcelsius|temperature|warm\b/i.test(look.comment)
  const isTurn = endsWith(look, 'heading', 'yaw', 'bearing', 'azimuth', 'rotation') || (endsWith(look, 'angle', 'facing') && says)
  const value = numberOf(look)
  const isTilt = endsWith(look, 'pitch') && (says || look.around.names.has('yaw'))
  return (isTurn || isTilt || says) && value >= -360 && value <= 360 ? { means: 'angle', unit: 'degree' } : null
}

export const slot: Detector = (look) => {
  if (look.kind !== 'number' || !look.texts.every((text) => /^\d{1,3}$/.test(text))) return null
  if (!endsWith(look, 'slot') && !(look.isList && hasWord(look, 'slot'))) return null
  // “rows of slots” and “how many slots” count them
  if (!look.isList && /\b(?:how many|number of|rows? of)\b/i.test(look.comment)) return null
  const first =
    /\b(?:counted|starting|starts|numbered|counting|count) (?:from|at|with) (\d|one|nought|zero)\b|\bfirst (?:slot )?is (\d|zero|one)\b/i.exec(
      look.comment,
    )
  const said = (first?.[1] ?? first?.[2])?.toLowerCase()
  return { means: 'slot', first: said === '1' || said === 'one' ? 1 : 0 }
}

const ODDS = /^(?:weight|weighted|chance|odds|yield|loot|rarity|probability|draw|drop)$/

/** A number among its like, each of which says how often one thing comes. */
export const weight: Detector = (look) => {
  if (look.kind !== 'number' || look.isList || numberOf(look) < 0) return null
  const { areAllNumbers } = look.around
  const section = look.around.wordsAbove.slice(-3)
  if (areAllNumbers && look.around.above.length > 0 && section.some((word) => ODDS.test(word)) && !/%|percent/i.test(look.comment))
    return { means: 'weight', min: 0 }
  return endsWith(look, 'weight') && /\b(?:chance|often|likely|drawn|share|sum|total)\b/i.test(look.comment)
    ? { means: 'weight', min: 0 }
    : null
}

/** Shares of a hundred. */
export const percent: Detector = (look) => {
  if (look.kind !== 'number') return null
  const named = hasWord(look, 'percent', 'percentage', 'pct')
  const said =
    /\b(?:in|as a|a|of) (?:percent|percentage|per cent)\b|\bpercent(?:age)? of\b|^\W*(?:the )?percent|\(%\)|\bin %|^\W*%|\d\s*(?:-|to|–)\s*100\s*%/i.test(
      look.comment,
    )
  return named || said ? { unit: 'percent' } : null
}
