import { sameNode } from '../tree/compare'
import { isContainer, type Document, type Entry, type MapNode, type ListNode, type Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import { KnownComments, commentTexts, myComments } from './comments'
import { hasParts } from './groups'
import { TreeIndex } from './index-tree'
import { longestRising } from '../tree/sequence'
import { readAlike } from './lists'
import { Items } from './pairing/items'
import { pairItems } from './pairing/pair-items'
import { Prints } from './pairing/prints'
import type { Customisation } from './types'

/** What is mine, setting by setting, in the order of my file. Formatting alone is nothing of mine. */
export function layer(factory: Document, mine: Document): Customisation[] {
  const [ours, own] = readAlike([factory, mine])
  return new Layer(new TreeIndex(ours!), new TreeIndex(own!)).run()
}

class Layer {
  private readonly found: (Customisation & { entry: Entry; side: 'factory' | 'mine' })[] = []
  private readonly comments: Customisation[] = []
  private readonly known: KnownComments
  private readonly prints: Prints
  private readonly offInFactory: ReadonlySet<string>
  private readonly offInMine: ReadonlySet<string>

  constructor(
    private readonly factory: TreeIndex,
    private readonly mine: TreeIndex,
  ) {
    this.known = new KnownComments([factory])
    this.prints = new Prints([factory.document, mine.document])
    this.offInFactory = commentedKeys(commentTexts(factory))
    this.offInMine = commentedKeys(commentTexts(mine))
  }

  run(): Customisation[] {
    this.nodes(this.factory.document.root, this.mine.document.root, null, null)
    this.tails()
    return [...this.withMoves(), ...this.comments]
  }

  private add(kind: Customisation['kind'], f: Entry | null, m: Entry | null): void {
    const entry = (m ?? f)!
    const side = m ? 'mine' : 'factory'
    this.found.push({
      path: formatPointer((m ? this.mine : this.factory).keys(entry)),
      kind,
      entry,
      side,
      ...(f ? { factory: toJson(this.factory.document, f.value) } : {}),
      ...(m ? { mine: toJson(this.mine.document, m.value) } : {}),
    })
  }

  private nodes(f: Node, m: Node, ef: Entry | null, em: Entry | null): void {
    if (f.type === 'map' && m.type === 'map') this.maps(f, m)
    else if (f.type === 'list' && m.type === 'list' && hasParts([f, m])) this.lists(f, m)
    else if (ef && em && !sameNode({ document: this.factory.document, node: f }, { document: this.mine.document, node: m }))
      this.add('changed', ef, em)
  }

  private maps(f: MapNode, m: MapNode): void {
    for (const em of m.entries) {
      if (this.mine.find(m, em.key) !== em) continue
      this.comment(em)
      const ef = this.factory.find(f, em.key)
      if (ef) this.nodes(ef.value, em.value, ef, em)
      else this.add(this.offInFactory.has(em.key) ? 'turned-on' : 'added', null, em)
    }
    for (const ef of f.entries)
      if (!this.mine.find(m, ef.key) && this.factory.find(f, ef.key) === ef)
        this.add(this.offInMine.has(ef.key) && !this.offInFactory.has(ef.key) ? 'turned-off' : 'removed', ef, null)
  }

  private lists(f: ListNode, m: ListNode): void {
    const { factory, mine, prints } = this
    const pairs = pairItems(new Items(factory.document, f, prints), new Items(mine.document, m, prints), true)
    const still = new Set(longestRising(pairs.map(({ a, b }) => [a, b] as const)).map(([, b]) => b))
    const back = new Map(pairs.map(({ a, b }) => [b, f.entries[a]!]))
    m.entries.forEach((em, at) => {
      this.comment(em)
      const ef = back.get(at)
      if (!ef) return this.add('added', null, em)
      if (!still.has(at))
        this.found.push({
          path: formatPointer(mine.keys(em)),
          kind: 'moved',
          from: formatPointer(factory.keys(ef)),
          entry: em,
          side: 'mine',
        })
      this.nodes(ef.value, em.value, ef, em)
    })
    const kept = new Set(pairs.map(({ a }) => a))
    f.entries.forEach((ef, at) => {
      if (!kept.has(at)) this.add('removed', ef, null)
    })
  }

  private comment(em: Entry): void {
    const own = myComments(this.mine, em, this.known)
    const lines = [...own.loose, ...own.attached, ...(own.trail ? [own.trail] : [])]
    if (lines.length > 0) this.comments.push({ path: formatPointer(this.mine.keys(em)), kind: 'comment', mine: lines.join('\n') })
  }

  private tails(): void {
    const { text, root } = this.mine.document
    const containers: { node: Node; path: string }[] = [{ node: root, path: '' }]
    for (const entry of this.mine.entries) containers.push({ node: entry.value, path: formatPointer(this.mine.keys(entry)) })
    for (const { node, path } of containers) {
      if (!isContainer(node)) continue
      const lines = node.tail.map((comment) => text.slice(comment.from, comment.to)).filter((line) => !this.known.hasLine(line))
      if (lines.length > 0) this.comments.push({ path, kind: 'comment', mine: lines.join('\n') })
    }
  }

  /** A setting that went in one place and came in another, with its name and value, has moved. */
  private withMoves(): Customisation[] {
    const gone = new Map<string, Customisation>()
    for (const item of this.found) if (item.kind === 'removed') gone.set(this.sign(item), strip(item))
    const moved = new Set<Customisation>()
    const result = this.found.map((item): Customisation => {
      const from = item.kind === 'added' ? gone.get(this.sign(item)) : undefined
      if (!from || moved.has(from) || from.path === item.path) return strip(item)
      moved.add(from)
      return { ...strip(item), kind: 'moved', from: from.path, factory: from.factory }
    })
    const origins = new Set([...moved].map((item) => item.path))
    return result.filter((item) => !(item.kind === 'removed' && origins.has(item.path)))
  }

  private sign(item: { entry: Entry; side: 'factory' | 'mine' }): string {
    const index = item.side === 'mine' ? this.mine : this.factory
    return `${item.entry.key}=${this.prints.of(index.document, item.entry.value)}`
  }
}

function strip(item: Customisation & { entry: Entry; side: string }): Customisation {
  const { entry: _entry, side: _side, ...rest } = item
  return rest
}

/** Keys of settings that stand in comments, as `# key: value`. */
function commentedKeys(comments: ReadonlySet<string>): Set<string> {
  const keys = new Set<string>()
  for (const comment of comments) {
    const key = /^["']?([\w.-]+)["']?\s*[:=](\s|$)/.exec(comment)?.[1]
    if (key) keys.add(key)
  }
  return keys
}
