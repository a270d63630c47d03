import { nameWords } from '../carry/likeness'
import { ROUNDS } from '../rules/infer/money-words'
import { SECONDS, timeUnit } from '../rules/units'
import { amountOf } from '../tree/compare'
import { isContainer, type Document } from '../tree/nodes'
import { getNode } from '../tree/pointer'
import { readDuration } from '../values/duration'
import type { ValueLook } from './looks'
import type { Sections } from './sections'
import { OFF } from './sleeping'
import type { WorkspaceFile } from './workspace'

/** What can be done but once counts like once in a month: no more comes of it to anybody in the days that are reckoned with. */
const ONCE = 30 * SECONDS['day']!

/** The seconds that one has to wait, where one of some settings says so. */
export function pauseIn({ document }: WorkspaceFile, siblings: readonly ValueLook[]): number | null {
  const pause = siblings.find(({ rule }) => rule?.role === 'cooldown')
  const seconds = pause ? secondsOf(document, pause) : null
  // less than nothing is never again
  if (pause) return seconds !== null && seconds < 0 ? ONCE : seconds
  return siblings.some(isOnce) ? ONCE : null
}

/** Whether it says that its entry is for once: `once: true`, `repeatable: false`. */
function isOnce({ keys, node, text, rule, isItem }: ValueLook): boolean {
  if (isItem || !(node.kind === 'bool' || rule?.means === 'switch')) return false
  const name = nameWords(keys.at(-1)!).join(' ')
  return OFF.test(text)
    ? /^(?:is )?(?:repeat|repeatable|repeating)$/.test(name)
    : /^(?:is |only )?(?:once|one time|onetime)(?: only)?$/.test(name)
}

const NAMED: Readonly<Record<string, string>> = { hourly: 'hour', daily: 'day', weekly: 'week', hour: 'hour', day: 'day', week: 'week' }

/** Sections that speak of all entries of a file. */
const FOR_ALL = new Set(['rule', 'setting', 'general', 'option', 'default', 'global'])
const AGAIN = new Set(['again', 'cooldown'])

/**
 * The pause that is said for all entries of a file: in a section around them, or in one of general settings.
 * @param entry the keys of the entry
 */
export function pauseForAll(file: WorkspaceFile, sections: Sections, entry: readonly string[]): number | null {
  if (entry.length < 2) return null
  const isForAll = ({ keys, rule }: ValueLook): boolean =>
    rule?.role === 'cooldown' && nameWords(keys.at(-1)!).some((word) => AGAIN.has(word))
  return pauseIn(file, saidAround(sections, entry).filter(isForAll))
}

/** What sections around an entry say, the nearest first, then those of general settings and the file itself. */
function saidAround(sections: Sections, entry: readonly string[]): readonly ValueLook[] {
  const around = entry.slice(0, -1).map((_, depth) => entry.slice(0, depth + 1))
  const beside = sections.inside([]).filter((key) => nameWords(key).every((word) => FOR_ALL.has(word)))
  return [...around.reverse(), ...beside.map((key) => [key]), []].flatMap((keys) => sections.own(keys))
}

/**
 * The seconds until a payment comes round again: its entry's pause, else the stretch of time that says how often it comes, beside it or by
 * its name for all (`paycheck-interval`), else what its own name or a section's says (`upkeep-per-day`, `daily: { money: 5 }`); null where
 * nobody says. Of entries by days (`day-1`, `day-2`) one comes each day, and each again after all of them.
 */
export function pauseOf(file: WorkspaceFile, sections: Sections, { keys }: ValueLook, beside: readonly ValueLook[]): number | null {
  const pause = pauseIn(file, beside)
  if (pause !== null) return pause
  const words = nameWords(keys.at(-1)!)
  // how often something else is done says nothing of it: `save-every`
  const isPaid = (word: string): boolean =>
    PAID.has(word) && (words.includes(word) || (WAGES.has(word) && words.some((own) => WAGES.has(own))))
  const isPeriod = (name: readonly string[]): boolean =>
    name.some((word) => ROUNDS.has(word) || isPaid(word)) &&
    name.every((word) => ROUNDS.has(word) || PAID.has(word) || timeUnit(word) !== null)
  const isTime = (value: ValueLook): boolean => value.rule?.means === 'duration' && isPeriod(nameWords(value.keys.at(-1)!))
  // what is paid again and again comes as often as a section around it says
  const isWage = words.some((word) => PAID.has(word))
  const isOfAll = (name: readonly string[]): boolean => isWage && name.every((word) => !PAID.has(word))
  const isOfIt = ({ keys: at }: ValueLook): boolean => nameWords(at.at(-1)!).some(isPaid) || isOfAll(nameWords(at.at(-1)!))
  const every = beside.find(isTime) ?? saidAround(sections, keys).find((value) => isTime(value) && isOfIt(value))
  const seconds = every ? secondsOf(file.document, every) : null
  if (seconds !== null && seconds > 0) return seconds
  const round = roundOf(file.document, keys)
  if (round !== null) return round
  const per = words[words.indexOf('per') + 1]
  const unit = words.includes('per') ? NAMED[per ?? ''] : oftenIn(words)
  return unit ? SECONDS[unit]! : null
}

/** Words for the same. */
const WAGES = new Set(['salary', 'wage', 'paycheck', 'income'])
const PAID = new Set([...WAGES, 'rent', 'interest', 'upkeep', 'tax', 'allowance', 'payout'])

/** How long a value says, in seconds: a number in its unit, or in words; null for what is no stretch of time. */
function secondsOf(document: Document, { node, rule, text }: ValueLook): number | null {
  const amount = amountOf(document, node)
  if (amount !== null) return amount * (SECONDS[rule?.unit ?? 'second'] ?? 1)
  return text === '' ? null : (readDuration(text, rule?.unit ?? null)?.seconds ?? null)
}

/** The unit a name says something comes in: `daily` the day. */
const oftenIn = (words: readonly string[]): string | undefined =>
  words.map((word) => (word.endsWith('ly') ? NAMED[word] : undefined)).find(Boolean)

/** A name that counts days, or weeks: `day-3`, `3`. */
const COUNTED = /^(?:(day|week)[\s_-]*)?(\d+)$/i

/** How long it takes until all entries of a calendar came round, or what the nearest section says of how often; null where none does. */
function roundOf(document: Document, keys: readonly string[]): number | null {
  for (let depth = keys.length - 1; depth >= 0; depth--) {
    const unit = oftenIn(nameWords(keys[depth - 1] ?? ''))
    const counted = COUNTED.exec(keys[depth]!)
    const of = counted?.[1]?.toLowerCase() ?? (counted ? unit : undefined)
    const section = of ? getNode(document, keys.slice(0, depth)) : null
    if (of && section && isContainer(section)) {
      const numbers = section.entries.flatMap(({ key }) => COUNTED.exec(key)?.[2] ?? []).map(Number)
      if (numbers.length > 1) return numbers.reduce((most, one) => Math.max(most, one), numbers.length) * SECONDS[of]!
    }
    if (unit) return SECONDS[unit]!
  }
  return null
}
