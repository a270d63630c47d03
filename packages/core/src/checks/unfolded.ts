import { inferRules, type KnownIds } from '../rules/infer'
import type { Rule } from '../rules/rule'
import type { Entry, MapNode, Node } from '../tree/nodes'
import { formatPointer, parsePointer } from '../tree/pointer'
import { dealiased, hasAliases } from './dealiased'
import type { WorkspaceFile } from './workspace'

/*
 * Formats without sections say them by names: `shop.clay.buy=10`; others say once what stands in several places, and refer to it. What has
 * to be read together is read of such a file as of one with sections in which all is written out; what is found is told by where it stands.
 */

/** A file with the sections its names stand for, and what its references mean in their places. */
export interface Unfolded {
  readonly file: WorkspaceFile
  /** The same facts, with the pointers of the file as it is. */
  told<F>(facts: F): F
}

/** The file with all written out; null where it is that already. */
export function unfolded(file: WorkspaceFile, known: KnownIds): Unfolded | null {
  const { document, factory, rules } = file
  const isDotted = document.traits.dotted && hasPoints(document.root)
  if (!isDotted && !hasAliases(document)) return null
  const pointers = new Map<string, string>()
  const outOf = (root: Node, places: Map<string, string>): Node => (isDotted ? nested(root, [], [], places) : dealiased(root, places))
  const own = { ...document, root: outOf(document.root, pointers) }
  const shipped = factory && { ...factory, root: outOf(factory.root, new Map()) }
  const given = rules.filter(({ source }) => source !== 'seen' && source !== 'comment').map((rule) => (isDotted ? inSections(rule) : rule))
  return {
    file: { ...file, document: own, factory: shipped, rules: [...inferRules(shipped ?? own, known), ...given] },
    told: (facts) => toldBy(facts, pointers),
  }
}

const hasPoints = (node: Node): boolean =>
  node.type === 'map' && node.entries.some(({ key, value }) => partsOf(key).length > 1 || hasPoints(value))

/** The names of sections in a name; those that are none stay whole. */
function partsOf(key: string): readonly string[] {
  const parts = key.split('.')
  return parts.some((part) => part === '' || /^\d+$/.test(part)) ? [key] : parts
}

function inSections(rule: Rule): Rule {
  const keys = parsePointer(rule.path)
  return keys ? { ...rule, path: formatPointer(keys.flatMap(partsOf)) } : rule
}

/**
 * @param keys where it stands in sections
 * @param real where it stands in its file
 * @param pointers the places of all that is in it, by those in sections
 */
function nested(node: Node, keys: readonly string[], real: readonly string[], pointers: Map<string, string>): Node {
  if (node.type !== 'map') return node
  const root: MapNode = { ...node, entries: [] }
  const taken = new Set(node.entries.filter(({ key }) => partsOf(key).length === 1).map(({ key }) => key))
  for (const entry of node.entries) {
    const parts = sectionsFor(entry.key, taken)
    const at = [...keys, ...parts]
    const place = [...real, entry.key]
    const pointer = formatPointer(place)
    // a section is where the first of it stands
    for (let depth = keys.length + 1; depth < at.length; depth++) {
      const section = formatPointer(at.slice(0, depth))
      if (!pointers.has(section)) pointers.set(section, pointer)
    }
    pointers.set(formatPointer(at), pointer)
    const section = parts.slice(0, -1).reduce((into, name) => sectionIn(into, name, entry), root)
    section.entries.push({ ...entry, key: parts.at(-1)!, value: nested(entry.value, at, place, pointers) })
  }
  return root
}

/** What is a setting itself is no section for others. */
function sectionsFor(key: string, taken: ReadonlySet<string>): readonly string[] {
  const parts = partsOf(key)
  const isTaken = parts.slice(0, -1).some((_, i) => taken.has(parts.slice(0, i + 1).join('.')))
  if (isTaken) return [key]
  return parts
}

function sectionIn(into: MapNode, name: string, { from, to, keyFrom, keyTo }: Entry): MapNode {
  const there = into.entries.find(({ key, value }) => key === name && value.type === 'map')?.value
  if (there?.type === 'map') {
    there.to = Math.max(there.to, to)
    return there
  }
  const value: MapNode = { type: 'map', flow: false, indent: 0, entries: [], tail: [], from, to, outer: from, anchor: null, tag: null }
  into.entries.push({ key: name, keyFrom, keyTo, value, from, to, lead: [], trail: null, comma: -1 })
  return value
}

/** Plain data with all its pointers as the file has them. */
function toldBy<F>(facts: F, pointers: ReadonlyMap<string, string>): F {
  const told = (data: unknown): unknown => {
    if (Array.isArray(data)) return data.map(told)
    if (data === null || typeof data !== 'object') return data
    const entries = Object.entries(data).map(([name, value]) => [name, told(value)] as const)
    const { pointer } = data as { readonly pointer?: unknown }
    if (typeof pointer !== 'string') return Object.fromEntries(entries)
    const real = pointers.get(pointer) ?? pointer
    const { path } = data as { readonly path?: unknown }
    const pattern = typeof path === 'string' ? { path: patternLike(path, real) } : {}
    return { ...Object.fromEntries(entries), pointer: real, ...pattern }
  }
  return told(facts) as F
}

/** A pattern for many (`/shop/*` of `/shop/clay`) with the points of the place it is from; that place where they do not fit. */
function patternLike(pattern: string, real: string): string {
  const names = pattern.split('/').slice(1)
  const marks = real.match(/[/.]/g) ?? []
  return marks.length === names.length ? names.map((name, i) => `${marks[i]}${name}`).join('') : real
}
