import { load } from 'js-yaml'
import { parseDocument } from 'yaml'
import { toJson } from '../src/tree/values'
import { parse } from '../src/formats/registry'
import type { FormatId } from '../src/tree/nodes'

/** What we read in a text, as plain data. */
export function readOurs(text: string, format: FormatId): unknown {
  const document = parse(text, format, { relaxed: true })
  const errors = document.findings.filter((finding) => finding.severity === 'error')
  if (errors.length > 0) throw new Error(`unexpected finding: ${JSON.stringify(errors[0])} in\n${text}`)
  return normal(toJson(document, document.root))
}

/** What other implementations read in it. */
export function readOthers(text: string, format: FormatId): unknown[] {
  if (format === 'json') return [normal(JSON.parse(stripComments(text)))]
  const document = parseDocument(text, { uniqueKeys: false })
  if (document.errors.length > 0) throw document.errors[0]!
  return [normal(document.toJS() ?? {}), ...(text.includes('__proto__') || document.contents === null ? [] : [normal(load(text) ?? {})])]
}

/** Comments in our generated JSON stand on lines of their own. */
function stripComments(text: string): string {
  return text.split(/\r?\n/).filter((line) => !/^\s*\/\//.test(line)).join('\n')
}

/** Numbers beyond the safe range as text, as in reports; everything else unchanged. */
export function normal(data: unknown): unknown {
  return JSON.parse(JSON.stringify(data, (_key, value: unknown) => (typeof value === 'number' && Number.isInteger(value) && !Number.isSafeInteger(value) ? `big:${value}` : typeof value === 'string' && /^-?\d{17,}$|^\d(\.\d+)?e\+?\d+$/.test(value) && !Number.isSafeInteger(Number(value)) ? `big:${Number(value)}` : value))) as unknown
}
