/* What may mend a slip in JSON: a quote that is missing in front of or behind a name or a text. */
import { lineEnd, lineStart } from '../../text/lines'
import type { Finding } from '../../tree/nodes'
import type { Repair } from '../recover'

/** Where a quote may be missing on a line, told by what stands around it. */
const MISSING: readonly { readonly looks: RegExp; readonly where: string }[] = [
  { looks: /^(\s*(?:[{,]\s*)?)[^\s"{}[\],:/][^"{}[\],:]*"\s*:/, where: 'in front of the name' },
  { looks: /^(\s*(?:[{,]\s*)?"[^"{}[\],:]*)\s*:\s*\S/, where: 'behind the name' },
  { looks: /^(.*:\s*)[^\s"{}[\],:][^"{}[\]]*"\s*[,}\]]*\s*$/, where: 'in front of the text' },
  { looks: /^(\s*)[^\s"{}[\],:/][^"{}[\]:]*"\s*,?\s*$/, where: 'in front of the text' },
  { looks: /^(.*[:[,]\s*"[^"]*?)\s*,?\s*$/, where: 'behind the text' },
]

/** The likeliest repairs of a first finding. */
export function jsonRepairs(text: string, first: Finding): Repair[] {
  const start = lineStart(text, first.from)
  const line = text.slice(start, lineEnd(text, start))
  const quotes = MISSING.flatMap(({ looks, where }): Repair[] => {
    const before = looks.exec(line)?.[1]
    if (before === undefined) return []
    const at = start + before.length
    const edits = [{ from: at, to: at, insert: '"' }]
    return [
      {
        edits,
        finding: {
          code: 'unclosed-quote',
          severity: 'error',
          from: at,
          to: at,
          message: `A quote is missing ${where}.`,
          fix: { label: 'Insert the quote', edits },
        },
      },
    ]
  })
  return [...(first.fix ? [{ edits: first.fix.edits }] : []), ...quotes]
}
