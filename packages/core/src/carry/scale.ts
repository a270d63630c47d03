import { nameWords } from './likeness'
import type { Reason } from './reasons'

/** Units settings files speak of, in terms of the base of their kind: seconds, and shares of one. */
const UNITS: Readonly<Record<string, { kind: 'time' | 'share'; size: number }>> = {
  tick: { kind: 'time', size: 0.05 },
  ms: { kind: 'time', size: 0.001 },
  milli: { kind: 'time', size: 0.001 },
  millisecond: { kind: 'time', size: 0.001 },
  millis: { kind: 'time', size: 0.001 },
  sec: { kind: 'time', size: 1 },
  second: { kind: 'time', size: 1 },
  min: { kind: 'time', size: 60 },
  minute: { kind: 'time', size: 60 },
  hour: { kind: 'time', size: 3600 },
  day: { kind: 'time', size: 86400 },
  week: { kind: 'time', size: 604800 },
  percent: { kind: 'share', size: 0.01 },
  fraction: { kind: 'share', size: 1 },
  share: { kind: 'share', size: 1 },
}

/** The unit a setting is in, as its key or its comment says; null when neither does, or the comment speaks of several. */
export function unitOf(key: string, comment: string): string | null {
  const inKey = nameWords(key).filter((word) => word in UNITS)
  if (inKey.length > 0) return inKey[inKey.length - 1]!
  const said = nameWords(comment.replaceAll('%', ' percent '))
  const first = said.find((word) => word in UNITS)
  if (!first) return null
  const kinds = new Set(said.filter((word) => word in UNITS).map((word) => UNITS[word]!.size))
  if (kinds.size === 1) return first
  // "In ticks; 20 ticks are one second": the unit that is named first, right at the start or after "in", is meant
  const named = /(?:^|\bin )([a-z]+)/i.exec(comment)?.[1]
  const word = named ? nameWords(named)[0] : undefined
  return word !== undefined && word in UNITS ? word : first
}

export interface Scale {
  /** An amount in the old unit times this is the amount in the new one. */
  readonly factor: number
  readonly reason: Reason
}

/**
 * Whether a setting's unit or scale seems to have changed between two factory copies: their comments or keys name
 * different units, or the default was multiplied by 20 or 1000 (or divided), as from seconds to ticks or milliseconds.
 */
export function scaleChange(
  factory: { key: string; comment: string; value: number },
  update: { key: string; comment: string; value: number },
): Scale | null {
  const before = unitOf(factory.key, factory.comment)
  const after = unitOf(update.key, update.comment)
  if (before && after && before !== after) {
    const from = UNITS[before]!
    const to = UNITS[after]!
    if (from.kind === to.kind && from.size !== to.size)
      return { factor: round(from.size / to.size), reason: { code: 'unit-changed', from: before, to: after } }
  }
  if (factory.value === 0 || update.value === 0) return null
  const ratio = round(update.value / factory.value)
  for (const [factor, guess] of [
    [20, 'seconds to ticks'],
    [1000, 'seconds to milliseconds'],
    [0.05, 'ticks to seconds'],
    [0.001, 'milliseconds to seconds'],
  ] as const)
    if (ratio === factor && !(before && after && before === after))
      return { factor, reason: { code: 'scale-changed', before: factory.value, after: update.value, guess } }
  return null
}

/** An amount in the new unit, without the dust of floating point. */
export function convert(value: number, scale: Scale): number {
  return round(value * scale.factor)
}

function round(value: number): number {
  return Number(value.toPrecision(12))
}
