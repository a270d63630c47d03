import { isNameless, type Document, type Node, type ScalarNode } from '../../tree/nodes'

/**
 * Numbers for values: two nodes that say the same (`sameNode`) have the same number. Each distinct value is kept once,
 * its parts by their numbers, so that asking for a whole tree costs no more than its size.
 */
export class Prints {
  private readonly numbers = new Map<string, number>()
  private readonly known = new WeakMap<Node, number>()
  /** Between formats with and without kinds, `5` may be a text or a number. */
  private readonly plain: boolean
  /** Lua cannot tell an empty list from an empty section. */
  private readonly open: boolean
  /** `vec3(1, 2, 3)` and `point(1, 2, 3)` are not the same; YAML's tags only say how to read what follows. */
  private readonly tags: boolean

  constructor(documents: readonly Document[]) {
    const values = new Set(documents.map(({ traits }) => traits.values))
    this.plain = values.size > 1
    this.open = documents.some(({ traits }) => traits.emptyTable)
    this.tags = documents.length > 0 && documents.every(({ traits }) => traits.tags === 'meaning')
  }

  of(document: Document, node: Node): number {
    let print = this.known.get(node)
    if (print === undefined) this.known.set(node, (print = this.number(this.write(document, node))))
    return print
  }

  /** The number of a text that is no node. */
  ofText(text: string): number {
    return this.number('=' + text)
  }

  /** The number of what `write` gives. */
  private number(text: string): number {
    let number = this.numbers.get(text)
    if (number === undefined) this.numbers.set(text, (number = this.numbers.size))
    return number
  }

  private write(document: Document, node: Node): string {
    if (node.type === 'alias') return '*' + node.name
    if (node.type === 'scalar') return this.writeScalar(document, node)
    if (node.entries.length === 0 && this.open) return '{}'
    const tag = this.tags && node.tag ? node.tag : ''
    if (node.type === 'list') return `${tag}[${node.entries.map((entry) => this.of(document, entry.value)).join()}]`
    const fields = node.entries
      .filter((entry) => !isNameless(entry))
      .map((entry) => `${JSON.stringify(entry.key)}:${this.of(document, entry.value)}`)
    return `${tag}{${fields.sort().join()}}`
  }

  private writeScalar(document: Document, node: ScalarNode): string {
    const source = (): string => document.text.slice(node.from, node.to)
    if (node.kind === 'code') return 'c' + source()
    if (this.plain) return 't' + (node.value === null ? '' : node.kind === 'number' ? source() : String(node.value))
    if (node.kind !== 'number') return node.kind + String(node.value)
    const exact = Math.abs(node.value as number) <= Number.MAX_SAFE_INTEGER
    return 'number' + (exact ? String(node.value) : source().replaceAll('_', ''))
  }
}
