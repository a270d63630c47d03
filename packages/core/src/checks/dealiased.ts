import type { Document, Entry, MapNode, Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'

/** References repeat what may hold references: no more than so many settings are made of them. */
const MOST = 20_000

/** Something with an anchor, and where it stands. */
interface Anchored {
  readonly node: Node
  readonly keys: readonly string[]
}

/** Whether a file refers to parts of itself. */
export function hasAliases({ root, text }: Document): boolean {
  return /[*]\S/.test(text) && isThere(root, ({ type }) => type === 'alias')
}

function isThere(node: Node, wanted: (node: Node) => boolean): boolean {
  if (wanted(node)) return true
  return (node.type === 'map' || node.type === 'list') && node.entries.some(({ value }) => isThere(value, wanted))
}

/**
 * The root of a file with what its references stand for in their places, as its readers have it: `*name` is what has the anchor `name`
 * before it, and `<<` gives a section what it does not say itself (YAML 1.2, 3.2.2.2, and the merge key of YAML 1.1). A section that is
 * only there to be referred to from elsewhere is left out.
 * @param pointers gets where each setting that came by a reference really stands
 */
export function dealiased(root: Node, pointers: Map<string, string>): Node {
  const top: readonly string[] = []
  const dealiasing = new Dealiasing(pointers)
  return dealiasing.withoutPatterns(dealiasing.of(root, top, top))
}

const NONE: ReadonlySet<string> = new Set()

class Dealiasing {
  private readonly anchors = new Map<string, Anchored>()
  /** Where sections stand that are referred to, and whether from beside them. */
  private readonly used = new Map<string, boolean>()
  private made = 0

  constructor(private readonly pointers: Map<string, string>) {}

  /**
   * @param keys where it is put
   * @param real where it stands: the same list for what is put nowhere else
   * @param within the anchors it is in, which cannot mean themselves
   * @param without what of it is not wanted
   */
  of(node: Node, keys: readonly string[], real: readonly string[], within = NONE, without = NONE): Node {
    if (node.type === 'alias') return this.meant(node.name, node, keys, within)
    const isOwn = keys === real
    // a section that is given some stands where it stands
    if (!isOwn && without === NONE) this.told(keys, real)
    if (node.type === 'scalar') {
      if (node.anchor !== null) this.anchors.set(node.anchor, { node, keys: real })
      return node
    }
    const inside = (entry: Entry): Entry => {
      const path = [...keys, entry.key]
      return { ...entry, value: this.of(entry.value, path, isOwn ? path : [...real, entry.key], within) }
    }
    const whole =
      node.type === 'list'
        ? { ...node, entries: node.entries.map(inside) }
        : { ...node, entries: this.merged(node, keys, within, without, inside) }
    // what it holds may be meant later, and not by itself
    if (isOwn && node.anchor !== null) this.anchors.set(node.anchor, { node, keys: real })
    return whole
  }

  private meant(name: string, alias: Node, keys: readonly string[], within: ReadonlySet<string>, without = NONE): Node {
    const target = this.anchors.get(name)
    if (!target || within.has(name) || this.made > MOST) return alias
    const parent = (path: readonly string[]): string => formatPointer(path.slice(0, -1))
    const at = formatPointer(target.keys)
    if (target.node.type === 'map') this.used.set(at, (this.used.get(at) ?? false) || parent(target.keys) === parent(keys))
    return this.of(target.node, keys, target.keys, new Set([...within, name]), without)
  }

  /** The entries of a section with those it is given; of several that give it the same, the first counts. */
  private merged(
    node: MapNode,
    keys: readonly string[],
    within: ReadonlySet<string>,
    without: ReadonlySet<string>,
    inside: (entry: Entry) => Entry,
  ): Entry[] {
    const said = new Set([...without, ...node.entries.map(({ key }) => key)])
    return node.entries.flatMap((entry): Entry[] => {
      if (without.has(entry.key)) return []
      if (entry.key !== '<<') return [inside(entry)]
      const given = entry.value.type === 'list' ? entry.value.entries.map(({ value }) => value) : [entry.value]
      return given.flatMap((value) => {
        const section = value.type === 'alias' ? this.meant(value.name, value, keys, within, new Set(said)) : value
        const more = section.type === 'map' ? section.entries.filter(({ key }) => !said.has(key)) : []
        for (const { key } of more) said.add(key)
        return more
      })
    })
  }

  /** The same without sections that nobody beside them refers to, but somebody elsewhere. */
  withoutPatterns(root: Node): Node {
    const patterns = new Set([...this.used].filter(([, isBeside]) => !isBeside).map(([at]) => at))
    const without = (node: Node, keys: readonly string[]): Node =>
      node.type !== 'map'
        ? node
        : {
            ...node,
            entries: node.entries.flatMap((entry) => {
              const path = [...keys, entry.key]
              return patterns.has(formatPointer(path)) ? [] : [{ ...entry, value: without(entry.value, path) }]
            }),
          }
    return patterns.size === 0 ? root : without(root, [])
  }

  private told(keys: readonly string[], real: readonly string[]): void {
    this.made++
    this.pointers.set(formatPointer(keys), formatPointer(real))
  }
}
