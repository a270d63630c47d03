import { isOver } from './term'
import type { Grant, PermissionGroup, PermissionNode, PermissionPlayer, Permissions, Subject } from './model'

/** Who has a word, from the general to the particular. */
export type Speaker = 'default' | 'group' | 'player' | 'operator'

/** One step of the way to an answer. */
export interface Step {
  readonly speaker: Speaker
  /** The group’s or player’s name; empty for the others. */
  readonly name: string
  /** What it says; null for nothing. */
  readonly word: 'granted' | 'denied' | null
  /** The setting that says so; null where none does. */
  readonly grant: Grant | null
  /** Whether the subject may, as far as it was gone. */
  readonly may: boolean
  /** Whether the answer is this step’s. */
  readonly decides: boolean
}

/** What is shown of one subject and one node. */
export interface PermissionCell {
  readonly may: boolean
  /** Where the answer comes from. */
  readonly by: 'own' | 'parent' | 'default' | 'operator' | 'nothing'
  readonly isWildcard: boolean
  /** Whose word it is; empty for nobody’s. */
  readonly from: string
  readonly grant: Grant | null
}

const NOTHING: PermissionCell = { may: false, by: 'nothing', isWildcard: false, from: '', grant: null }

/** How exactly a grant names a node: the letters it has in common, the whole node above all; -1 where it is about others. */
function closeness(grant: string, node: string): number {
  if (grant === node) return Number.MAX_SAFE_INTEGER
  if (grant === '*') return 0
  return grant.endsWith('.*') && node.startsWith(grant.slice(0, -1)) ? grant.length : -1
}

/** What some grants say of nodes, looked up by name: of those that fit the most exact counts, and of equals the denial. */
export class Words {
  private readonly exact = new Map<string, Grant>()
  private readonly many: Grant[] = []

  constructor(grants: readonly Grant[]) {
    for (const grant of grants) {
      if (grant.node === '*' || grant.node.endsWith('.*')) this.many.push(grant)
      else if (!this.exact.has(grant.node) || grant.isDenied) this.exact.set(grant.node, grant)
    }
  }

  of(node: string): Grant | null {
    const exact = this.exact.get(node)
    if (exact) return exact
    let best: Grant | null = null
    let most = -1
    for (const grant of this.many) {
      const close = closeness(grant.node, node)
      if (close > most || (close === most && close >= 0 && grant.isDenied)) [best, most] = [grant, close]
    }
    return best
  }
}

/** What some grants say of a node. */
export const wordOf = (grants: readonly Grant[], node: string): Grant | null => new Words(grants).of(node)

interface Source {
  readonly speaker: 'group' | 'player'
  readonly name: string
  readonly words: Words
}

function cellOf(subject: Subject, { speaker, name }: Source, grant: Grant, node: string): PermissionCell {
  const isOwn = 'group' in subject ? name === subject.group : speaker === 'player'
  return { may: !grant.isDenied, by: isOwn ? 'own' : 'parent', isWildcard: grant.node !== node, from: name, grant }
}

/**
 * Answers who may do what. The way goes from the general to the particular: what the plugin gives by itself, the groups from the
 * farthest parent to the nearest, lighter ones before heavier, and the player; operators may all. The last word counts, or, where the
 * family says so, any denial.
 */
export class PermissionBook {
  private readonly groups: ReadonlyMap<string, PermissionGroup>
  private readonly players: ReadonlyMap<string, PermissionPlayer>
  private readonly nodes: ReadonlyMap<string, PermissionNode>
  private readonly words = new Map<string, Words>()
  private readonly lines = new Map<string, readonly Source[]>()

  /** @param now what has ended by then counts no more, in milliseconds since 1970; without it, nothing has */
  constructor(
    readonly permissions: Permissions,
    nodes: readonly PermissionNode[],
    private readonly now: number | null = null,
  ) {
    this.groups = new Map(permissions.groups.map((group) => [group.name, group]))
    this.players = new Map(permissions.players.flatMap((player) => [[player.name, player] as const, [player.id, player] as const]))
    this.nodes = new Map(nodes.map((node) => [node.node, node]))
  }

  /** Whether a subject may do what a node opens. */
  may(subject: Subject, node: string): boolean {
    return this.cell(subject, node).may
  }

  /** The answer with where it comes from: that of the trace, found without writing it down. */
  cell(subject: Subject, node: string): PermissionCell {
    const line = this.lineOf(subject)
    const player = 'player' in subject ? this.players.get(subject.player) : undefined
    if (player?.isOperator) return { ...NOTHING, may: true, by: 'operator' }
    const said = this.permissions.wins === 'denial' ? this.firstDenial(line, node) : null
    for (let at = line.length - 1; at >= 0 && !said; at--) {
      const source = line[at]!
      const grant = source.words.of(node)
      if (grant) return cellOf(subject, source, grant, node)
    }
    if (said) return cellOf(subject, said.source, said.grant, node)
    return this.nodes.get(node)?.byDefault === 'everyone' ? { ...NOTHING, may: true, by: 'default' } : NOTHING
  }

  private firstDenial(line: readonly Source[], node: string): { readonly source: Source; readonly grant: Grant } | null {
    for (const source of line) {
      const grant = source.words.of(node)
      if (grant?.isDenied) return { source, grant }
    }
    return null
  }

  /** Whether a group has a word in what a subject may. */
  hears(subject: Subject, group: string): boolean {
    return this.lineOf(subject).some(({ speaker, name }) => speaker === 'group' && name === group)
  }

  /** Step by step how an answer comes about; the answer is that of the last. */
  trace(subject: Subject, node: string): readonly Step[] {
    const byDefault = this.nodes.get(node)?.byDefault ?? 'nobody'
    const player = 'player' in subject ? this.players.get(subject.player) : undefined
    const isOperator = player?.isOperator ?? false
    const isGiven = byDefault === 'everyone' || (byDefault === 'operators' && isOperator)
    const said: Omit<Step, 'may' | 'decides'>[] = [{ speaker: 'default', name: '', word: isGiven ? 'granted' : null, grant: null }]
    for (const { speaker, name, words } of this.lineOf(subject)) {
      const grant = words.of(node)
      said.push({ speaker, name, word: grant ? (grant.isDenied ? 'denied' : 'granted') : null, grant })
    }
    if (isOperator) said.push({ speaker: 'operator', name: '', word: 'granted', grant: null })
    return this.decided(said)
  }

  private decided(said: readonly Omit<Step, 'may' | 'decides'>[]): Step[] {
    const isFirst = this.permissions.wins === 'denial'
    // an operator's word stands above all denials
    const last = said.findLastIndex(({ word, speaker }) => word !== null && (!isFirst || speaker === 'operator'))
    const denial = isFirst && last < 0 ? said.findIndex(({ word }) => word === 'denied') : -1
    const decides = last >= 0 ? last : denial >= 0 ? denial : said.findLastIndex(({ word }) => word !== null)
    let may = false
    let isShut = false
    return said.map((step, i) => {
      if (step.word === 'granted' && (!isShut || step.speaker === 'operator')) may = true
      if (step.word === 'denied') may = false
      if (step.word === 'denied' && isFirst) isShut = true
      return { ...step, may, decides: i === decides }
    })
  }

  /** Groups whose words count for a subject, the farthest first, then the player. */
  private lineOf(subject: Subject): readonly Source[] {
    const key = 'group' in subject ? `group ${subject.group}` : `player ${subject.player}`
    const known = this.lines.get(key)
    if (known) return known
    const player = 'player' in subject ? this.players.get(subject.player) : undefined
    const own = 'group' in subject ? [subject.group] : this.groupsOf(player)
    const names = new Set<string>()
    for (const name of this.byWeight(own)) this.collect(name, names, new Set())
    const line: Source[] = [...names].map((name) => ({
      speaker: 'group',
      name,
      words: this.wordsOf(`group ${name}`, this.groups.get(name)!.grants),
    }))
    if (player) line.push({ speaker: 'player', name: player.name || player.id, words: this.wordsOf(`player ${player.id}`, player.grants) })
    this.lines.set(key, line)
    return line
  }

  /** The groups of a player; those of no other are in that of everybody. */
  groupsOf(player: PermissionPlayer | undefined): readonly string[] {
    const { everybody } = this.permissions
    const own = player?.groups.filter((name) => this.groups.has(name)) ?? []
    return own.length > 0 ? own : everybody === null ? [] : [everybody]
  }

  /** Parents before children; of a circle the first time counts. */
  private collect(name: string, found: Set<string>, above: ReadonlySet<string>): void {
    const group = this.groups.get(name)
    if (!group || above.has(name) || found.has(name)) return
    for (const parent of this.byWeight(group.inherits.map((one) => one.name))) this.collect(parent, found, new Set([...above, name]))
    found.add(name)
  }

  private byWeight(names: readonly string[]): readonly string[] {
    const weightOf = (name: string): number => this.groups.get(name)?.weight ?? 0
    return [...names].sort((a, b) => weightOf(a) - weightOf(b))
  }

  private wordsOf(key: string, grants: readonly Grant[]): Words {
    let words = this.words.get(key)
    if (!words) this.words.set(key, (words = new Words(this.inForce(grants))))
    return words
  }

  /** Those of some grants that have not ended. */
  inForce(grants: readonly Grant[]): readonly Grant[] {
    const { now } = this
    return now === null ? grants : grants.filter((grant) => !isOver(grant, now))
  }

  /** Whether one group inherits from another, over whichever others. */
  inherits(name: string, from: string): boolean {
    const seen = new Set<string>()
    const open = [name]
    for (let next = open.pop(); next !== undefined; next = open.pop())
      for (const parent of this.groups.get(next)?.inherits ?? []) {
        if (parent.name === from) return true
        if (!seen.has(parent.name)) {
          seen.add(parent.name)
          open.push(parent.name)
        }
      }
    return false
  }
}
