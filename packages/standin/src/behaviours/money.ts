import { parse, stringify } from 'yaml'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'

export interface Money {
  balance(player: string): number
  /** Takes an amount; false when the player has too little. */
  take(player: string, amount: number): boolean
  give(player: string, amount: number): void
  show(amount: number): string
}

/** Accounts, kept over reloads. */
export function money(host: Host, loaded: Loaded, before: unknown): Running {
  const { used, text } = loaded
  const accounts = before instanceof Map ? (before as Map<string, number>) : recordedAccounts(host)
  const decimals = used['decimals'] as number
  const balance = (player: string): number => accounts.get(player) ?? (used['start'] as number)
  const show = (amount: number): string => `${amount.toFixed(decimals)} ${amount === 1 ? String(used['one']) : String(used['many'])}`
  const keep = (player: string, amount: number): void => {
    accounts.set(player, amount)
    host.record(RECORD, stringify({ accounts: Object.fromEntries(accounts) }))
  }
  const service: Money & { state: unknown } = {
    state: accounts,
    balance,
    show,
    give: (player, amount) => keep(player, balance(player) + amount),
    take(player, amount) {
      if (balance(player) < amount) return false
      keep(player, balance(player) - amount)
      return true
    },
  }
  return {
    summary: `newcomers start with ${show(used['start'] as number)}`,
    service,
    asPlayer: (player, words) => (words[0] === 'purse' ? [plainText(text('balance', { player, balance: show(balance(player)) }))] : null),
    asConsole(words) {
      const amount = Number(words[3])
      if (words[0] !== 'purse') return null
      if (words[1] !== 'give' || !words[2] || !Number.isFinite(amount)) return ['purse give <player> <amount>']
      service.give(words[2], amount)
      host.info(`${words[2]} has ${show(balance(words[2]))} now`)
      return []
    },
  }
}

const RECORD = 'accounts.yml'

/** What players had when the server ran last. */
function recordedAccounts(host: Host): Map<string, number> {
  const record = parse(host.recorded(RECORD) ?? '') as { accounts?: Record<string, number> | null } | null
  return new Map(Object.entries(record?.accounts ?? {}))
}
