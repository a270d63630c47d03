/* What may mend a slip in YAML: a blank that is missing, or another indentation. */
import { lineEnd, lineStart, skipBreak } from '../../text/lines'
import type { Finding } from '../../tree/nodes'
import type { Repair } from '../recover'

/** The likeliest repairs of a first finding. */
export function yamlRepairs(text: string, first: Finding): Repair[] {
  const start = lineStart(text, first.from)
  const line = text.slice(start, lineEnd(text, start))
  const indent = /^[ \t]*/.exec(line)![0]
  const found: Repair[] = first.fix ? [{ edits: first.fix.edits }] : []
  const above = lineAbove(text, start)
  const below = lineBelow(text, start)
  // glued together on this line, or on the one above, which then is the one to name
  for (const at of [start, ...(above === null ? [] : [above])]) {
    const glued = gluedIn(text, at)
    if (glued)
      found.push(
        at === start && glued.from >= first.from - indent.length - 1
          ? { edits: glued.fix!.edits, finding: glued }
          : { edits: glued.fix!.edits, finding: glued },
      )
  }
  for (const other of [above, below]) {
    if (other === null) continue
    const like = /^ */.exec(text.slice(other, lineEnd(text, other)))![0]
    for (const blanks of [like, `${like}  `, like.slice(2)])
      if (blanks !== indent) found.push({ edits: [{ from: start, to: start + indent.length, insert: blanks }] })
  }
  return found
}

/** `name:value` or `-item` on a line, as a finding with its fix. */
function gluedIn(text: string, start: number): Finding | null {
  const line = text.slice(start, lineEnd(text, start))
  const key = /^( *(?:- +)?)([^\s:#"'[\]{}-][^\s:#"'[\]{}]*):(?=[^\s:/])/.exec(line)
  const dash = /^( *)-(?=[^\s-])/.exec(line)
  const match = key ?? dash
  if (!match) return null
  const at = start + match[0].length
  const from = start + match[1]!.length
  return {
    code: 'missing-space',
    severity: 'error',
    from,
    to: start + line.length,
    message: key
      ? `After “${key[2]}:” a space is missing, so this is not read as a setting.`
      : 'After the dash a space is missing, so this is not read as an item of a list.',
    fix: { label: 'Insert the space', edits: [{ from: at, to: at, insert: ' ' }] },
  }
}

function lineAbove(text: string, start: number): number | null {
  for (let at = start; at > 0;) {
    at = lineStart(text, text[at - 1] === '\n' && text[at - 2] === '\r' ? at - 2 : at - 1)
    if (!/^\s*(#|$)/.test(text.slice(at, lineEnd(text, at)))) return at
  }
  return null
}

function lineBelow(text: string, start: number): number | null {
  for (let at = skipBreak(text, lineEnd(text, start)); at < text.length; at = skipBreak(text, lineEnd(text, at))) {
    if (!/^\s*(#|$)/.test(text.slice(at, lineEnd(text, at)))) return at
  }
  return null
}
