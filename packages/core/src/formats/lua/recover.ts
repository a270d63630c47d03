/* What may mend a slip in Lua: a bracket closed on its line, a comment as other languages write it. */
import { lineEnd, lineStart } from '../../text/lines'
import type { Finding } from '../../tree/nodes'
import type { Repair } from '../recover'

const CLOSERS: Readonly<Record<string, string>> = { '(': ')', '[': ']', '{': '}' }
/** So many places of a line are tried. */
const MOST_PLACES = 12

/** The likeliest repairs of a first finding. */
export function luaRepairs(text: string, first: Finding): Repair[] {
  const start = lineStart(text, first.from)
  const end = lineEnd(text, start)
  const line = text.slice(start, end)
  return [...comments(line, start), ...(first.fix ? [{ edits: first.fix.edits }] : []), ...closings(text, line, start, first)]
}

/** `// words` instead of `-- words`. */
function comments(line: string, start: number): Repair[] {
  const at = line.search(/\/\/(?!\/)\s*[^\s]/)
  if (at < 0) return []
  const from = start + at
  const edits = [{ from, to: from + 2, insert: '--' }]
  return [
    {
      edits,
      finding: {
        code: 'syntax',
        severity: 'error',
        from,
        to: from + 2,
        message: 'A comment starts with “--” in Lua, not with “//”.',
        fix: { label: 'Write --', edits },
      },
    },
  ]
}

/** A bracket that was left open, closed where that may have been meant: before a comma, a word of the language, the end. */
function closings(text: string, line: string, start: number, first: Finding): Repair[] {
  const open = first.code === 'unclosed-bracket' ? text[first.from]! : null
  const found: Repair[] = []
  for (const [bracket, close] of Object.entries(CLOSERS)) {
    if (open !== null ? bracket !== open : !line.includes(bracket)) continue
    const from = open !== null ? first.from : start + line.indexOf(bracket)
    for (const place of places(line, from - start)) {
      const at = start + place
      const edits = [{ from: at, to: at, insert: close }]
      const message = `The “${bracket}” opened here is never closed. Close it with “${close}”.`
      found.push({
        edits,
        finding: { code: 'unclosed-bracket', severity: 'error', from, to: from + 1, message, fix: { label: 'Close it', edits } },
      })
    }
  }
  return found
}

function places(line: string, from: number): number[] {
  const bare = line.replace(/\s*(--.*)?$/, '').length
  const ends = [bare, ...(/[,;]$/.test(line.slice(0, bare)) ? [bare - 1] : [])]
  const inside = [...line.slice(from, bare).matchAll(/\s*(?:[,=)}]|\b(?:then|do|and|or)\b)/g)].map((match) => from + match.index)
  return [...new Set([...ends.reverse(), ...inside])].slice(0, MOST_PLACES)
}
