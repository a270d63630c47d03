import { defineCheck, type CheckResult } from './check'
import type { Fact, FileFacts, GroupFact } from './facts'
import { groupedBy } from './grouped'
import { fixTo, lettersOf } from './letters'
import { nearest } from './near'
import type { Knowledge } from './knowledge'

type Placed = CheckResult & { readonly file: string }

/** Nodes nobody declares or holds, staff nodes that everybody holds, and groups that inherit in a circle. */
export const nodesFit = defineCheck({
  id: 'nodes-fit',
  scope: 'server',
  codes: ['unknown-node', 'node-of-no-group', 'staff-node-for-all', 'groups-in-a-circle'],
  *run({ knowledge }, facts) {
    if (knowledge.plugins.length === 0) return
    // where the file of the groups is there and cannot be read, nobody knows who holds what
    const file = knowledge.groups?.file
    if (file !== undefined && knowledge.paths?.has(file) && !facts.has(file)) return
    const nodes = new Nodes(knowledge, [...facts.values()])
    yield* nodes.asked()
    yield* nodes.given()
    yield* nodes.ofEverybody()
    yield* nodes.circles()
  },
})

const STAFF = /(?:^|\.)(?:admin|administrator|op|operator|staff|moderator|bypass|reload|manage|kick|ban|mute|\*)$/i
/** Whether a node is meant for those who keep the server, as its name says. */
export const isForStaff = (node: string): boolean => STAFF.test(node)

/** So many other places of one finding are named. */
const MOST_RELATED = 20
const bare = (node: string): string => node.replace(/^-/, '')
/** Whether holding one gives the other. */
export const gives = (held: string, node: string): boolean =>
  held === node || held === '*' || (held.endsWith('.*') && node.startsWith(held.slice(0, -1)))

class Nodes {
  private readonly declared: ReadonlyMap<string, string>
  private readonly groups: readonly GroupFact[]
  private readonly file: string
  private readonly everybody: string | null
  private readonly wanted: ReadonlySet<string>
  private readonly held: readonly string[]

  constructor(
    { plugins, groups }: Knowledge,
    private readonly facts: readonly FileFacts[],
  ) {
    this.declared = new Map(plugins.flatMap(({ nodes }) => Object.entries(nodes)))
    this.file = groups?.file ?? ''
    const own = facts.find(({ path }) => path === this.file)
    this.groups = own?.groups ?? []
    this.everybody = own?.everybody ?? null
    this.wanted = new Set(facts.flatMap(({ nodes }) => nodes.filter(({ isGiven }) => !isGiven).map(({ text }) => bare(text))))
    const given = facts.flatMap(({ nodes }) => nodes.filter(({ isGiven }) => isGiven).map(({ text }) => text))
    this.held = [...this.groups.flatMap(({ nodes }) => nodes.map(({ text }) => text)), ...given].filter((node) => !node.startsWith('-'))
  }

  /** Nodes that settings ask for; one that no group holds is told where it stands first. */
  *asked(): Iterable<Placed> {
    const shut: { readonly path: string; readonly fact: Fact }[] = []
    for (const { path, nodes } of this.facts)
      for (const fact of nodes) {
        const node = bare(fact.text)
        if (fact.isGiven || this.isHeld(node)) continue
        if (!this.isDeclared(node) && !fact.isShipped) yield this.unknown(path, fact, 'No plugin here declares')
        else if (this.groups.length > 0) shut.push({ path, fact })
      }
    for (const [node, [first, ...others]] of groupedBy(shut, ({ fact }) => bare(fact.text))) {
      const where =
        others.length === 0 ? '' : ` ${others.length === 1 ? 'One other setting asks' : `${others.length} other settings ask`} for it, too.`
      yield {
        code: 'node-of-no-group',
        severity: 'warning',
        file: first!.path,
        from: first!.fact.from,
        to: first!.fact.to,
        message: `It asks for ${node}, which no group holds, so that it is open to nobody. Give it to a group.${where}`,
        cause: `held ${node}`,
        related: others
          .slice(0, MOST_RELATED)
          .map(({ path, fact: { from, to } }) => ({ file: path, from, to, why: `asks for ${node}, too` })),
      }
    }
  }

  /** Nodes that groups and rewards give. */
  *given(): Iterable<Placed> {
    const inGroups = this.groups.flatMap(({ nodes }) => nodes.map((fact) => ({ path: this.file, fact })))
    const elsewhere = this.facts.flatMap(({ path, nodes }) => nodes.filter(({ isGiven }) => isGiven).map((fact) => ({ path, fact })))
    for (const { path, fact } of [...inGroups, ...elsewhere]) {
      const node = bare(fact.text)
      if (fact.isShipped || node.endsWith('*') || this.wanted.has(node) || this.isDeclared(node)) continue
      const isChild = [...this.declared.keys()].some((one) => node.startsWith(one + '.'))
      if (isChild && !nearest(node, this.declared.keys())) continue
      yield this.unknown(path, fact, 'No plugin here asks for')
    }
  }

  private isDeclared(node: string): boolean {
    return this.declared.has(node)
  }

  private isHeld(node: string): boolean {
    return this.held.some((held) => gives(held, node))
  }

  private unknown(file: string, { from, to, text }: Fact, who: string): Placed {
    const node = bare(text)
    const near = nearest(
      node,
      [...this.declared.keys(), ...this.wanted].filter((one) => one !== node),
    )?.id
    return {
      code: 'unknown-node',
      severity: 'warning',
      file,
      from,
      to,
      message: `${who} ${node}. ${near ? `Did you mean ${near}?` : 'Look up in its notes how the node is called, or give it to a group.'}`,
      cause: `node ${node}`,
      // past a minus, which stays
      ...fixTo(lettersOf({ from, to }, text, text.length - node.length, node.length), near),
    }
  }

  /** What everybody holds, also by inheritance, that is meant for those who keep the server. */
  *ofEverybody(): Iterable<Placed> {
    const seen = new Set<string>()
    const visit = (name: string): GroupFact[] => {
      const group = this.groups.find((one) => one.name === name)
      if (!group || seen.has(name)) return []
      seen.add(name)
      return [group, ...group.inherits.flatMap(({ text }) => visit(text))]
    }
    for (const group of this.everybody === null ? [] : visit(this.everybody))
      for (const { text, from, to, isShipped } of group.nodes) {
        if (isShipped || text.startsWith('-') || !isForStaff(text)) continue
        const says = this.declared.get(text)
        yield {
          code: 'staff-node-for-all',
          severity: text === '*' ? 'error' : 'warning',
          file: this.file,
          from,
          to,
          message: `Everybody is in ${this.everybody} and so holds ${text}${says ? ` (${says})` : ''}. Give it to those who keep the server.`,
          cause: `everybody ${text}`,
        }
      }
  }

  /** Groups that inherit from themselves, over whichever others. */
  *circles(): Iterable<Placed> {
    const told = new Set<string>()
    for (const group of this.groups)
      for (const parent of group.inherits) {
        const way = this.wayBack(parent.text, group.name)
        if (!way) continue
        const key = [...new Set([group.name, ...way])].sort().join(' ')
        const edges = this.edgesOf([group.name, ...way])
        const made = edges.find(({ isShipped }) => !isShipped) ?? parent
        if (told.has(key)) continue
        told.add(key)
        yield {
          code: 'groups-in-a-circle',
          severity: 'error',
          file: this.file,
          from: made.from,
          to: made.to,
          message: `${[group.name, ...way].join(' inherits from ')}, which goes round in a circle. Take one of them out.`,
          cause: `circle ${key}`,
        }
      }
  }

  private edgesOf(names: readonly string[]): Fact[] {
    return names.slice(0, -1).flatMap((name, i) => {
      const group = this.groups.find((one) => one.name === name)
      return group?.inherits.filter(({ text }) => text === names[i + 1]) ?? []
    })
  }

  /** The names from one group to another by what they inherit from; null for no such way. */
  private wayBack(from: string, to: string, seen: readonly string[] = []): string[] | null {
    if (from === to) return [to]
    if (seen.includes(from)) return null
    for (const { text } of this.groups.find(({ name }) => name === from)?.inherits ?? []) {
      const way = this.wayBack(text, to, [...seen, from])
      if (way) return [from, ...way]
    }
    return null
  }
}
