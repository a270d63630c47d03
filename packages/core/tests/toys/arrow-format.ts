import { lineComments } from '../../src/formats/comment-style'
import { defineFormat, type Format, type Parsed } from '../../src/formats/format'
import type { Writer } from '../../src/formats/writer'
import { lineEnd, skipBreak } from '../../src/text/lines'
import { NO_COMMENTS, type Comment, type Entry, type MapNode, type ScalarNode } from '../../src/tree/nodes'
import { NumberText, type Value } from '../../src/tree/values'

/*
 * The shortest format there is: `name => value` a line, comments behind `%`. docs/extending.md shows it as the example,
 * and tests/format-contract.ts holds it to the same laws as all others.
 */
const LINE = /^([^%\s]\S*) => ?(.*)$/

function parseArrows(text: string): Parsed {
  const entries: Entry[] = []
  let pending: Comment[] = []
  for (let at = text.charCodeAt(0) === 0xfeff ? 1 : 0, next = at; at < text.length; at = next) {
    const end = lineEnd(text, at)
    next = skipBreak(text, end)
    const line = text.slice(at, end)
    const found = LINE.exec(line)
    if (line.startsWith('%')) pending.push({ from: at, to: end, attached: true })
    else if (!found) pending = pending.map((comment) => ({ ...comment, attached: false }))
    else {
      entries.push({ ...arrow(at, end, found[1]!, found[2]!), lead: pending.length > 0 ? pending : NO_COMMENTS })
      pending = []
    }
    if (next === end) break
  }
  const from = entries[0]?.from ?? text.length
  const to = entries.at(-1)?.to ?? from
  const root: MapNode = { type: 'map', flow: false, indent: 0, entries, tail: pending, from, to, outer: from, anchor: null, tag: null }
  return { root, findings: [] }
}

function arrow(from: number, to: number, key: string, value: string): Entry {
  const start = to - value.length
  const span = { from: start, to, outer: start, anchor: null, tag: null }
  const node: ScalarNode = { ...span, type: 'scalar', kind: 'text', style: 'plain', value }
  return { key, keyFrom: from, keyTo: from + key.length, value: node, from, to, lead: NO_COMMENTS, trail: null, comma: -1 }
}

const source = (value: Value): string => (value === null ? '' : value instanceof NumberText ? value.text : String(value))

const writer: Writer = {
  scalar: (_place, value) => source(value as Value),
  key: (_document, _container, key) => key,
  entryLines: (_document, _container, key, value) => [`${key} => ${source(value)}`],
  inline: (_document, value) => source(value),
  refuses: (_container, value) =>
    Array.isArray(value) || value instanceof Map || /[\r\n]/.test(source(value)) ? 'takes more than one line' : null,
}

export const arrowFormat: Format<'arrow'> = defineFormat({
  id: 'arrow',
  endings: ['arrow'],
  traits: { values: 'text' },
  comments: lineComments('%', /^% ?/, (line) => LINE.exec(line)?.[1] ?? null),
  parse: parseArrows,
  writer,
})
