import { NO_COMMENTS, type Comment, type Entry, type Finding, type MapNode, type ScalarNode } from '../../tree/nodes'
import { skipBreak, lineEnd } from '../../text/lines'
import type { Parsed } from '../format'

/**
 * Reads `.properties`: `name=value`, `name: value` or `name value` a line, `#` and `!` for comments, a backslash at the
 * end of a line to go on, `\uXXXX` and the usual escapes. Format: the class documentation of java.util.Properties.
 */
export function parseProperties(text: string): Parsed {
  const findings: Finding[] = []
  const entries: Entry[] = []
  const seen = new Map<string, number>()
  let pending: Comment[] = []
  let at = text.charCodeAt(0) === 0xfeff ? 1 : 0
  let line = 1
  while (at < text.length) {
    const start = skipBlanks(text, at)
    const end = lineEnd(text, start)
    const first = text[start]
    let next = skipBreak(text, end)
    let lines = 1
    if (start === end) {
      pending = pending.map((comment) => ({ ...comment, attached: false }))
    } else if (first === '#' || first === '!') pending.push({ from: start, to: end, attached: true })
    else {
      const to = logicalEnd(text, start)
      const entry = readEntry(text, start, to)
      entry.lead = pending.length > 0 ? pending : NO_COMMENTS
      pending = []
      const before = seen.get(entry.key)
      if (before !== undefined)
        findings.push({
          code: 'duplicate-key',
          severity: 'error',
          from: entry.keyFrom,
          to: entry.keyTo,
          message: `“${entry.key}” stands twice, first on line ${before}. Only the last one counts; remove the other.`,
        })
      seen.set(entry.key, line)
      checkEscapes(text, entry.value as ScalarNode, findings)
      entries.push(entry)
      lines = text.slice(start, to).split(/\r\n|\r|\n/).length
      next = skipBreak(text, to)
    }
    line += lines
    if (next === at) break
    at = next
  }
  const from = entries[0]?.from ?? text.length
  const root: MapNode = {
    type: 'map',
    flow: false,
    indent: 0,
    entries,
    tail: pending,
    from,
    to: entries[entries.length - 1]?.to ?? from,
    outer: from,
    anchor: null,
    tag: null,
  }
  return { root, findings }
}

function skipBlanks(text: string, at: number): number {
  let i = at
  while (text[i] === ' ' || text[i] === '\t' || text[i] === '\f') i++
  return i
}

/** The end of a line together with those it goes on in. */
function logicalEnd(text: string, start: number): number {
  let end = lineEnd(text, start)
  for (;;) {
    let slashes = 0
    while (text[end - 1 - slashes] === '\\') slashes++
    if (slashes % 2 === 0 || end >= text.length) return end
    end = lineEnd(text, skipBreak(text, end))
  }
}

function readEntry(text: string, start: number, to: number): Entry {
  let keyTo = start
  while (keyTo < to && !/[\s=:]/.test(text[keyTo]!)) keyTo += text[keyTo] === '\\' ? 2 : 1
  keyTo = Math.min(keyTo, to)
  let from = skipBlanks(text, keyTo)
  if (from < to && (text[from] === '=' || text[from] === ':')) from = skipBlanks(text, from + 1)
  from = Math.min(from, to)
  const value: ScalarNode = {
    type: 'scalar',
    from,
    to,
    outer: from,
    anchor: null,
    tag: null,
    kind: 'text',
    style: 'plain',
    value: unescapeProperty(text.slice(from, to)),
  }
  return {
    key: unescapeProperty(text.slice(start, keyTo)),
    keyFrom: start,
    keyTo,
    value,
    from: start,
    to,
    lead: NO_COMMENTS,
    trail: null,
    comma: -1,
  }
}

/** Resolves escapes and joins continued lines. */
export function unescapeProperty(source: string): string {
  if (!source.includes('\\')) return source
  return source.replace(/\\(?:u([0-9a-fA-F]{4})|(\r\n|\r|\n)[ \t\f]*|([^]))|\\$/g, (_all, hex?: string, br?: string, char?: string) => {
    if (hex) return String.fromCharCode(parseInt(hex, 16))
    if (br !== undefined || char === undefined) return ''
    return { n: '\n', t: '\t', r: '\r', f: '\f' }[char] ?? char
  })
}

function checkEscapes(text: string, value: ScalarNode, findings: Finding[]): void {
  const source = text.slice(value.from, value.to)
  const bad = /(?<!\\)(?:\\\\)*\\u(?![0-9a-fA-F]{4})/.exec(source)
  if (!bad) return
  const from = value.from + bad.index
  findings.push({
    code: 'bad-escape',
    severity: 'error',
    from,
    to: from + bad[0].length,
    message: '“\\u” needs four hexadecimal digits after it. Write two backslashes for one.',
  })
}
