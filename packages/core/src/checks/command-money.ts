import { nameWords } from '../carry/likeness'
import { isCash, isFirst } from '../rules/infer/money-words'
import type { ValueLook } from './looks'
import type { Moves } from './stream-facts'

const GIVES = new Set(['give', 'add', 'grant', 'deposit', 'award', 'pay', 'reward'])
const TAKES = new Set(['take', 'remove', 'withdraw', 'charge', 'subtract', 'deduct'])
/** What somebody is called in a command who is not known yet: `{player}`, `%{player}`, `<name>`, `@p`. */
const SOMEBODY = /^(?:@\w+|[^\w\s]+\w*(?:player|name|user)\w*[^\w\s]*)$/i
const NUMBER = /^\d+(?:\.\d+)?$/
const IN_COMMANDS = /command|cmd|action|execute|console|run|reward|prize|bonus|gift/i

/**
 * Money that a console command pays or takes: `money give {player} 100`. Its first word is one of money, or the plugin that keeps it has
 * to be called so, which others know.
 * @returns null for what is no such command
 */
export function commandMoneyIn({ keys, rule, node, text, isItem }: ValueLook): Moves | null {
  if (node.kind !== 'text' || !/\d/.test(text)) return null
  const name = isItem ? (keys.at(-2) ?? '') : keys.at(-1)!
  if (rule?.means !== 'command' && !IN_COMMANDS.test(name)) return null
  const parts = [...text.matchAll(/\S+/g)]
  const start = parts.findIndex(([part]) => /^\/?[\p{L}_-]+$/u.test(part))
  const first = start < 0 ? null : parts[start]![0].replace(/^\//, '')
  const amount = parts.findLast(([part]) => NUMBER.test(part))
  if (first === null || !amount || !parts.some(([part]) => SOMEBODY.test(part))) return null
  const verbs = parts.slice(start, start + 3).flatMap(([part]) => nameWords(part))
  const way = verbs.some((word) => GIVES.has(word)) ? 'in' : verbs.some((word) => TAKES.has(word)) ? 'out' : null
  if (way === null) return null
  const isMoney = nameWords(first).some(isCash)
  if (!isMoney && GIVES.has(first.toLowerCase())) return null
  const at = amount.index
  return {
    way,
    amount: Number(amount[0]),
    says: Number(amount[0]),
    shareOf: null,
    isOnce: keys.some((key) => isFirst(nameWords(key))),
    around: { before: text.slice(0, at), after: text.slice(at + amount[0].length) },
    bound: null,
    paidBy: isMoney ? null : first.toLowerCase(),
  }
}
