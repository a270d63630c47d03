import { amountOf } from '../tree/compare'
import { getNode } from '../tree/pointer'
import { isContainer } from '../tree/nodes'
import { defineCheck } from './check'
import { looksOf, type ValueLook } from './looks'
import type { WorkspaceFile } from './workspace'

/** Amounts below nothing where the author has none, and prices that nobody can pay. */
export const sensibleAmounts = defineCheck({
  id: 'sensible-amounts',
  scope: 'file',
  codes: ['odd-amount'],
  *run(_workspace, file) {
    for (const value of looksOf(file).values) {
      const amount = value.isShipped ? null : amountOf(file.document, value.node)
      if (amount === null || isPlaced(value) || value.rule?.said?.some((said) => said.value === String(amount))) continue
      // what its own bounds say is told by them
      if (amount < (value.rule?.min ?? -Infinity) || amount > (value.rule?.max ?? Infinity)) continue
      const { from, to } = value.node
      const theirs = shippedBeside(file, value)
      if (theirs.length === 0) continue
      const add = (message: string) => ({
        code: 'odd-amount' as const,
        severity: 'warning' as const,
        from,
        to,
        message,
        cause: value.entry.key,
      })
      const most = Math.max(...theirs)
      if (amount < 0 && theirs[0]! >= 0 && !theirs.includes(amount))
        yield add(`“${value.entry.key}” is ${value.text}, and the author has nothing below 0 here. Take the minus out, if it is not meant.`)
      else if (amount >= 100_000 && isMoney(value) && most > 0 && amount >= most * 1000)
        yield add(`“${value.entry.key}” is ${value.text}, and the most the author has here is ${most}. Look whether that is meant.`)
    }
  },
})

const MONEY = new Set(['price', 'payout', 'fee', 'start-money'])
const isMoney = ({ rule }: ValueLook): boolean => rule?.role !== undefined && MONEY.has(rule.role)
const PLACED = /^(?:[xyz]|yaw|pitch|heading|offset|height|altitude|latitude|longitude|min|minimum|temperature|adjust|shift|rotation)$/i
const isPlaced = ({ rule, entry, keys, isItem }: ValueLook): boolean =>
  rule?.means === 'coordinates' ||
  rule?.means === 'angle' ||
  rule?.means === 'slot' ||
  PLACED.test(isItem ? (keys.at(-2) ?? '') : entry.key) ||
  isItem

/** The amount the author has in this place, or, in an entry of one's own, those in all of the others; nothing where there is none. */
function shippedBeside({ factory }: WorkspaceFile, { keys }: ValueLook): number[] {
  if (!factory) return []
  const own = getNode(factory, keys)
  const amount = own ? amountOf(factory, own) : null
  const group = getNode(factory, keys.slice(0, -2))
  const others =
    group && isContainer(group)
      ? group.entries.flatMap(({ value }) => {
          const node = isContainer(value) ? value.entries.find(({ key }) => key === keys.at(-1))?.value : undefined
          return node ? (amountOf(factory, node) ?? []) : []
        })
      : []
  return amount === null ? others : [amount, ...others.filter((one) => one !== amount)]
}
