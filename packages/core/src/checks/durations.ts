import { amountOf } from '../tree/compare'
import { locate } from '../tree/pointer'
import { defineCheck } from './check'
import { looksOf, type ValueLook } from './looks'
import type { WorkspaceFile } from './workspace'

/** How many of a smaller unit a larger one has, with both: what is so many times the author's was most likely meant in the other. */
const CHANGES: Readonly<Record<string, readonly { readonly by: number; readonly other: string }[]>> = {
  tick: [{ by: 1 / 20, other: 'second' }],
  second: [
    { by: 20, other: 'tick' },
    { by: 1000, other: 'millisecond' },
    { by: 1 / 60, other: 'minute' },
  ],
  minute: [
    { by: 60, other: 'second' },
    { by: 60_000, other: 'millisecond' },
    { by: 1 / 60, other: 'hour' },
  ],
  hour: [
    { by: 60, other: 'minute' },
    { by: 3600, other: 'second' },
    { by: 1 / 24, other: 'day' },
  ],
  day: [
    { by: 24, other: 'hour' },
    { by: 86_400, other: 'second' },
  ],
  millisecond: [{ by: 1 / 1000, other: 'second' }],
}

/** Amounts of time that are exactly as many times the author's as another unit is: seconds where ticks are meant, and the like. */
export const sensibleTimes = defineCheck({
  id: 'sensible-times',
  scope: 'file',
  codes: ['odd-duration'],
  *run(_workspace, file) {
    for (const value of looksOf(file).values) {
      const { rule, node } = value
      if (rule?.means !== 'duration' || !rule.unit || value.isShipped) continue
      const [now, shipped] = [amountOf(file.document, node), shippedAmount(file, value)]
      if (now === null || shipped === null || shipped === 0) continue
      const change = CHANGES[rule.unit]?.find(({ by }) => isAbout(now / shipped, by) && isFar(now, shipped))
      if (!change) continue
      const message =
        `“${value.entry.key}” is in ${rule.unit}s, and ${value.text} is ${times(change.by)} the author’s ${shipped}, ` +
        `as if it were ${change.other}s. Write ${shown(now / change.by)} if that is what you mean.`
      const insert = shown(now / change.by)
      yield {
        code: 'odd-duration',
        severity: 'warning',
        from: node.from,
        to: node.to,
        message,
        ...(node.style === 'plain' ? { fix: { label: insert, edits: [{ from: node.from, to: node.to, insert }] } } : {}),
      }
    }
  },
})

const isAbout = (ratio: number, by: number): boolean => Math.abs(ratio / by - 1) < 0.001
/** Small numbers are so many times each other by chance. */
const isFar = (now: number, shipped: number): boolean => Math.max(now, shipped) >= 40
const shown = (amount: number): string => String(Number(amount.toPrecision(6)))
const times = (by: number): string => (by >= 1 ? `${by} times` : `a ${Math.round(1 / by)}th of`)

function shippedAmount({ factory }: WorkspaceFile, { keys }: ValueLook): number | null {
  const node = factory && locate(factory, keys)?.entry.value
  return factory && node ? amountOf(factory, node) : null
}
