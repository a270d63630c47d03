import { parse, parseDocument } from 'yaml'
import { playerRegistry } from '../server/players'
import { SettingsError } from '../server/settings-file'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'

export interface Ranks {
  /** Whether a player is given or denied a node; null where nobody says anything of it. */
  verdict(player: string, node: string): boolean | null
  grant(player: string, node: string): void
  rankOf(player: string): string
}

interface Group {
  readonly weight?: number
  readonly inherits?: readonly string[]
  readonly nodes?: readonly string[]
}
/** A node by itself, or with when it ends. */
type Held = string | { readonly node: string; readonly until: string }
interface Player {
  readonly name?: string
  readonly groups?: readonly string[]
  readonly nodes?: readonly Held[]
}

const RECORD = 'players.yml'
const UNITS: Readonly<Record<string, number>> = { m: 60_000, h: 3_600_000, d: 86_400_000 }
const nodeOf = (held: Held): string => (typeof held === 'string' ? held : held.node)

/** A node as it is written, and all that stand for it, the nearest first: `a.b.c`, `a.b.*`, `a.*`, `*`. */
function spellings(node: string): string[] {
  const parts = node.split('.')
  const wider = parts.slice(0, -1).map((_part, i) => [...parts.slice(0, parts.length - 1 - i), '*'].join('.'))
  return [node, ...wider, '*']
}

/** When something that lasts for a term ends; null for never, undefined for no term. */
function untilOf(term: string, now: Date): string | null | undefined {
  if (term === '') return null
  const [, amount, unit] = /^(\d+)([mhd])$/.exec(term) ?? []
  return unit === undefined ? undefined : new Date(now.getTime() + Number(amount) * UNITS[unit]!).toISOString()
}

/** What is known of single players, as it stands in a record that only this plugin writes while it runs. */
class RankRecord {
  private players: Readonly<Record<string, Player | null>> = {}

  constructor(private readonly host: Pick<Host, 'recorded' | 'record'>) {
    this.read()
  }

  private read(): void {
    const record = parse(this.host.recorded(RECORD) ?? '') as { players?: Record<string, Player | null> | null } | null
    this.players = record?.players ?? {}
  }

  private idOf(player: string): string {
    const known = Object.entries(this.players).find(([id, one]) => one?.name === player || id === player)?.[0]
    return known ?? playerRegistry([player])[0]?.id ?? player
  }

  of(player: string): Player {
    return this.players[this.idOf(player)] ?? {}
  }

  /** Changes a list of one player, and writes the record with all else as it stands. */
  change(player: string, key: 'groups' | 'nodes', to: (list: readonly Held[]) => readonly Held[]): void {
    const document = parseDocument(this.host.recorded(RECORD) ?? 'players: {}\n')
    const id = this.idOf(player)
    if (!(id in this.players) && id !== player) document.setIn(['players', id, 'name'], player)
    document.setIn(['players', id, key], to((this.of(player)[key] ?? []) as readonly Held[]))
    this.host.record(RECORD, document.toString({ lineWidth: 0 }))
    this.read()
  }
}

/** Groups of nodes; who is in which stands in a record; grants to single players are kept over reloads. */
export function ranks(host: Host, loaded: Loaded, before: unknown): Running {
  const groups = loaded.used['groups'] as Record<string, Group | null>
  const first = String(loaded.used['default'])
  if (!groups[first]) throw new SettingsError(1, `newcomers.group names ${first}, which is no group`)
  const own = before instanceof Map ? (before as Map<string, Set<string>>) : new Map<string, Set<string>>()
  const record = new RankRecord(host)

  const lightFirst = (names: readonly string[]): string[] => [...names].sort((a, b) => (groups[a]?.weight ?? 0) - (groups[b]?.weight ?? 0))
  /** A group behind all it inherits from; what is named twice counts where it is named first. */
  const withParents = (name: string, above: readonly string[] = []): string[] =>
    !groups[name] || above.includes(name)
      ? []
      : [...lightFirst(groups[name].inherits ?? []).flatMap((parent) => withParents(parent, [...above, name])), name]
  const groupsOf = (player: string): string[] => {
    const named = (record.of(player).groups ?? []).filter((name) => groups[name])
    return lightFirst(named.length > 0 ? named : [first])
  }
  const lasts = (held: Held): boolean => typeof held === 'string' || new Date(held.until) > host.date()
  const given = (player: string): readonly string[] => [
    ...(record.of(player).nodes ?? []).filter(lasts).map(nodeOf),
    ...(own.get(player) ?? []),
  ]

  /** Asks the nearest first: the player, then the groups back to the farthest. */
  const verdict = (player: string, node: string): boolean | null => {
    const line = [...new Set(groupsOf(player).flatMap((name) => withParents(name)))].reverse()
    for (const nodes of [given(player), ...line.map((name) => groups[name]?.nodes ?? [])])
      for (const name of spellings(node)) {
        if (nodes.includes(`-${name}`)) return false
        if (nodes.includes(name)) return true
      }
    return null
  }
  const rankOf = (player: string): string => groupsOf(player).at(-1)!
  const service: Ranks & { state: unknown } = {
    state: own,
    verdict,
    rankOf,
    grant: (player, node) => void own.set(player, (own.get(player) ?? new Set()).add(node)),
  }
  const heldBy = (player: string): string[] => [
    ...groupsOf(player).flatMap((name) => withParents(name).flatMap((one) => groups[one]?.nodes ?? [])),
    ...given(player),
  ]
  /** `rank isolde +hampers.claim 7d`, `rank isolde -…`, `rank isolde =…`, `rank isolde into warden`, `rank isolde from warden`. */
  const change = ([player, what = '', group = '']: readonly string[]): string => {
    if (!player || what === '') return 'no rank: rank <player> +|-|=<node> [<term>], into <group>, from <group>'
    if (what === 'into' || what === 'from') {
      // one that is gone can still be left
      const isIn = record.of(player).groups?.includes(group) ?? false
      if (!groups[group] && !(what === 'from' && isIn)) return `no rank: there is no group ${group}`
      record.change(player, 'groups', (list) => [...list.filter((one) => one !== group), ...(what === 'into' ? [group] : [])])
      return `rank: ${player} is in ${record.of(player).groups?.join(', ') || first} now`
    }
    const [sign, node, term] = [what[0]!, what.slice(1), group]
    const until = untilOf(term, host.date())
    if (!'+-='.includes(sign) || node === '' || until === undefined)
      return `no rank: ${[what, term].join(' ').trim()} is nothing that can be given`
    const spelt = sign === '-' ? `-${node}` : node
    const held: Held = until ? { node: spelt, until } : spelt
    record.change(player, 'nodes', (list) => [
      ...list.filter((one) => ![node, `-${node}`].includes(nodeOf(one))),
      ...(sign === '=' ? [] : [held]),
    ])
    const said = { '+': 'is granted', '-': 'is denied', '=': 'has nothing said alone of' }[sign]
    return `rank: ${player} ${said} ${node}${until ? ` until ${until}` : ''}`
  }
  return {
    summary: `${Object.keys(groups).length} groups`,
    service,
    asPlayer: (player, words) => (words[0] === 'rank' ? [plainText(`You are a ${rankOf(player)}. ${heldBy(player).join(', ')}`)] : null),
    asConsole: (words) => (words[0] === 'rank' ? [change(words.slice(1))] : null),
  }
}
