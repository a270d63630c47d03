import { SettingsError } from '../server/settings-file'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'
import type { Ranks } from './ranks'

interface Crew {
  readonly weight?: number
  readonly parents?: readonly string[]
  readonly permissions?: Readonly<Record<string, boolean>>
}
interface Hand {
  readonly name?: string
  readonly crews?: readonly string[]
  readonly permissions?: Readonly<Record<string, boolean>>
}

/** Whether a written node stands for another: itself, `a.*` for all below `a`, `*` for all. */
const standsFor = (written: string, node: string): boolean =>
  written === node || written === '*' || (written.endsWith('.*') && node.startsWith(written.slice(0, -1)))

/** The word of one holder on a node: the longest that stands for it; null for none. */
function wordOf(permissions: Readonly<Record<string, boolean>> = {}, node: string): boolean | null {
  const [longest] = Object.keys(permissions)
    .filter((written) => standsFor(written, node))
    .sort((a, b) => Number(b === node) - Number(a === node) || b.length - a.length)
  return longest === undefined ? null : permissions[longest]!
}

/** Crews and those in them stand in the settings; whatever anybody in the line denies is denied. */
export function crews(host: Host, loaded: Loaded): Running {
  const all = loaded.used['crews'] as Readonly<Record<string, Crew>>
  const staff = loaded.used['staff'] as Readonly<Record<string, Hand>>
  const first = String(loaded.used['first'])
  if (!all[first]) throw new SettingsError(1, `newcomers names ${first}, which is no crew`)
  const granted = new Set<string>()
  const handOf = (player: string): Hand => Object.entries(staff).find(([id, { name }]) => name === player || id === player)?.[1] ?? {}
  const crewsOf = (player: string): string[] => {
    const named = (handOf(player).crews ?? []).filter((name) => all[name])
    return named.length > 0 ? named : [first]
  }
  const lineOf = (player: string): Set<string> => {
    const line = new Set<string>()
    const open = crewsOf(player)
    for (let name = open.pop(); name !== undefined; name = open.pop())
      if (all[name] && !line.has(name)) {
        line.add(name)
        open.push(...(all[name]!.parents ?? []))
      }
    return line
  }
  const verdict = (player: string, node: string): boolean | null => {
    const words = [...lineOf(player)].map((name) => wordOf(all[name]?.permissions, node))
    words.push(wordOf(handOf(player).permissions, node), granted.has(`${player} ${node}`) || null)
    return words.includes(false) ? false : words.includes(true) ? true : null
  }
  const rankOf = (player: string): string =>
    crewsOf(player)
      .sort((a, b) => (all[a]!.weight ?? 0) - (all[b]!.weight ?? 0))
      .at(-1)!
  const service: Ranks = { verdict, rankOf, grant: (player, node) => void granted.add(`${player} ${node}`) }
  const mayOpen = (player: string): boolean => host.hasNode(player, String(loaded.used['node']))
  const greet = (player: string): string =>
    mayOpen(player) ? String(loaded.used['greeting']).replaceAll('%{player}', player) : 'The desk is for wardens.'
  return {
    summary: `${Object.keys(all).length} crews, ${Object.keys(staff).length} of staff`,
    service,
    asPlayer: (player, words) => (words[0] === 'desk' ? [plainText(greet(player))] : null),
  }
}
