import { SettingsError } from '../server/settings-file'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'

export interface Ranks {
  has(player: string, node: string): boolean
  grant(player: string, node: string): void
  rankOf(player: string): string
}

interface Group {
  readonly inherits: readonly string[]
  readonly nodes: readonly string[]
}

/** Groups of nodes; grants to single players are kept over reloads. */
export function ranks(_host: Host, loaded: Loaded, before: unknown): Running {
  const groups = loaded.used['groups'] as Record<string, Partial<Group> | null>
  const first = String(loaded.used['default'])
  if (!groups[first]) throw new SettingsError(1, `newcomers.group names ${first}, which is no group`)
  const own = before instanceof Map ? (before as Map<string, Set<string>>) : new Map<string, Set<string>>()
  const nodesOf = (name: string, seen: ReadonlySet<string> = new Set()): string[] => {
    const group = groups[name]
    if (!group || seen.has(name)) return []
    return [...(group.inherits ?? []).flatMap((parent) => nodesOf(parent, new Set([...seen, name]))), ...(group.nodes ?? [])]
  }
  const has = (player: string, node: string): boolean => {
    const held = [...nodesOf(first), ...(own.get(player) ?? [])]
    return held.includes(node) && !held.includes('-' + node)
  }
  const service: Ranks & { state: unknown } = {
    state: own,
    has,
    rankOf: () => first,
    grant: (player, node) => void own.set(player, (own.get(player) ?? new Set()).add(node)),
  }
  return {
    summary: `${Object.keys(groups).length} groups`,
    service,
    asPlayer: (player, words) =>
      words[0] === 'rank' ? [plainText(`You are a ${first}. ${[...nodesOf(first), ...(own.get(player) ?? [])].join(', ')}`)] : null,
  }
}
