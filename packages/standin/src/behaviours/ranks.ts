import { parse } from 'yaml'
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
interface Player {
  readonly name?: string
  readonly groups?: readonly string[]
  readonly nodes?: readonly string[]
}

/** A node as it is written, and all that stand for it, the nearest first: `a.b.c`, `a.b.*`, `a.*`, `*`. */
function spellings(node: string): string[] {
  const parts = node.split('.')
  const wider = parts.slice(0, -1).map((_part, i) => [...parts.slice(0, parts.length - 1 - i), '*'].join('.'))
  return [node, ...wider, '*']
}

/** Groups of nodes; who is in which stands in a record; grants to single players are kept over reloads. */
export function ranks(host: Host, loaded: Loaded, before: unknown): Running {
  const groups = loaded.used['groups'] as Record<string, Group | null>
  const first = String(loaded.used['default'])
  if (!groups[first]) throw new SettingsError(1, `newcomers.group names ${first}, which is no group`)
  const own = before instanceof Map ? (before as Map<string, Set<string>>) : new Map<string, Set<string>>()
  const record = parse(host.recorded('players.yml') ?? '') as { players?: Record<string, Player | null> } | null
  const known = new Map(Object.entries(record?.players ?? {}).map(([id, player]) => [player?.name ?? id, player ?? {}]))

  const lightFirst = (names: readonly string[]): string[] => [...names].sort((a, b) => (groups[a]?.weight ?? 0) - (groups[b]?.weight ?? 0))
  /** A group behind all it inherits from; what is named twice counts where it is named first. */
  const withParents = (name: string, above: readonly string[] = []): string[] =>
    !groups[name] || above.includes(name)
      ? []
      : [...lightFirst(groups[name].inherits ?? []).flatMap((parent) => withParents(parent, [...above, name])), name]
  const groupsOf = (player: string): string[] => {
    const named = (known.get(player)?.groups ?? []).filter((name) => groups[name])
    return lightFirst(named.length > 0 ? named : [first])
  }
  const given = (player: string): readonly string[] => [...(known.get(player)?.nodes ?? []), ...(own.get(player) ?? [])]

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
  return {
    summary: `${Object.keys(groups).length} groups`,
    service,
    asPlayer: (player, words) => (words[0] === 'rank' ? [plainText(`You are a ${rankOf(player)}. ${heldBy(player).join(', ')}`)] : null),
  }
}
