import { isContainer, type Document, type Node, type ScalarNode } from './nodes'

/** A node with the document it is in, which holds its source text. */
export interface Ref {
  readonly document: Document
  readonly node: Node
}

/** Whether two nodes say the same, whatever their style. The order of keys in a section has no meaning; in a list it has. */
export function sameNode(a: Ref, b: Ref): boolean {
  const left = a.node
  const right = b.node
  if (left.type === 'scalar' || right.type === 'scalar')
    return left.type === right.type && sameScalar(a.document, left as ScalarNode, b.document, right as ScalarNode)
  if (left.type === 'alias' || right.type === 'alias') return left.type === 'alias' && right.type === 'alias' && left.name === right.name
  if (left.entries.length === 0 && right.entries.length === 0 && (isOpen(a) || isOpen(b))) return true
  if (left.type !== right.type || left.entries.length !== right.entries.length) return false
  // vec3(1, 2, 3) and point(1, 2, 3) are not the same; YAML's tags only say how to read what follows
  if (left.tag !== right.tag && a.document.traits.tags === 'meaning' && b.document.traits.tags === 'meaning') return false
  if (left.type === 'list')
    return left.entries.every((entry, i) =>
      sameNode({ document: a.document, node: entry.value }, { document: b.document, node: right.entries[i]!.value }),
    )
  return sameMap(a, b)
}

/** Whether an empty table may be a list as well as a section. */
function isOpen(ref: Ref): boolean {
  return ref.document.traits.emptyTable
}

function sameMap(a: Ref, b: Ref): boolean {
  if (!isContainer(a.node) || !isContainer(b.node)) return false
  const others = b.node.entries
  let byKey: Map<string, Node> | null = null
  return a.node.entries.every((entry, i) => {
    let other = others[i]!.key === entry.key ? others[i]!.value : null
    if (!other) {
      byKey ??= new Map(others.map((item) => [item.key, item.value]))
      other = byKey.get(entry.key) ?? null
    }
    return other !== null && sameNode({ document: a.document, node: entry.value }, { document: b.document, node: other })
  })
}

/** Whether two scalars read the same: numbers by amount, exactly, also beyond what a double can hold. */
export function sameScalar(aDoc: Document, a: ScalarNode, bDoc: Document, b: ScalarNode): boolean {
  if (a.kind !== b.kind)
    return aDoc.traits.values !== bDoc.traits.values && a.kind !== 'code' && b.kind !== 'code' && plainText(aDoc, a) === plainText(bDoc, b)
  if (a.kind !== 'number') return a.value === b.value
  if (Number.isNaN(a.value) && Number.isNaN(b.value)) return true
  if (a.value !== b.value) return false
  if (Math.abs(a.value as number) <= Number.MAX_SAFE_INTEGER) return true
  return aDoc.text.slice(a.from, a.to).replaceAll('_', '') === bDoc.text.slice(b.from, b.to).replaceAll('_', '')
}

/** A scalar as a format without kinds would write it. */
function plainText(document: Document, node: ScalarNode): string {
  if (node.value === null) return ''
  return node.kind === 'number' ? document.text.slice(node.from, node.to) : String(node.value)
}

/** The amount a value stands for, also where the format has no numbers of its own; null for what is none. */
export function amountOf(document: Document, node: Node): number | null {
  if (node.type !== 'scalar') return null
  if (node.kind === 'number') return node.value as number
  const text = document.traits.values === 'text' ? String(node.value).trim() : ''
  return /^[-+]?(\d+(\.\d*)?|\.\d+)([eE][-+]?\d+)?$/.test(text) ? Number(text) : null
}

const SWITCH = /^(true|false|yes|no|on|off)$/i

/** The kind of a value as a reader would take it: texts of formats without kinds by what they look like. */
export function apparentKind(document: Document, node: Node): string {
  if (node.type !== 'scalar' || node.kind !== 'text' || document.traits.values === 'typed') return kindOf(node)
  const text = String(node.value).trim()
  if (text === '') return 'null'
  return SWITCH.test(text) ? 'bool' : amountOf(document, node) === null ? 'text' : 'number'
}

/** The least of node kinds that people tell apart: section, list, text, number, switch, nothing. */
export function kindOf(node: Node): string {
  return node.type === 'scalar' ? node.kind : node.type
}
