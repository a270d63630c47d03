import { type Container, type Document, type Entry } from '../../tree/nodes'
import { NumberText, type Value } from '../../tree/values'
import { eolOf } from '../../text/lines'
import { indentStep, neighbourStyle, type Place, type Writer } from '../writer'
import { UNSAID } from '../reading'
import { parseYaml } from './parse'
import { resolvePlain } from './scalars'

/**
 * Plain words that a reader of YAML 1.1, as many platforms still have, takes for a switch, a number or a time
 * (yaml.org/type, 2005). As text they need quotes.
 */
const ELSEWHERE =
  /^(y|n|yes|no|on|off|[-+]?0[0-7_]+|[-+]?[0-9][0-9_,]*(:[0-5]?[0-9])+(\.[0-9_]*)?|[-+]?[0-9][0-9_]*(\.[0-9_]*)?|[-+]?\.[0-9_]+|0b[01_]+|\d{4}-\d\d?-\d\d?.*|=|<<)$/i

/** Whether text can stand without quotes and still be read as that text. */
export function isPlainSafe(text: string, flow: boolean): boolean {
  if (text === '' || text !== text.trim() || /[\u0000-\u001f\u007f\u0085\u2028\u2029\ufeff\ufffe\uffff]/.test(text)) return false
  if (/[\ud800-\udfff]/.test(text) && /(?:[\ud800-\udbff](?![\udc00-\udfff]))|(?:(?<![\ud800-\udbff])[\udc00-\udfff])/.test(text))
    return false
  if (/^[,[\]{}#&*!|>'"%@`]/.test(text) || /^[-?:](\s|$)/.test(text) || /^(---|\.\.\.)/.test(text)) return false
  if (/: |\s#|:$/.test(text) || text.includes(':\t')) return false
  if (flow && (/[,[\]{}]/.test(text) || /^[-?:]/.test(text))) return false
  return resolvePlain(text).kind === 'text' && !ELSEWHERE.test(text)
}

/** Double-quoted source of any text. */
export function quoteDouble(text: string): string {
  const body = text.replace(
    /[\\"\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
    (char) => {
      const code = char.charCodeAt(0)
      if (char === '"' || char === '\\') return '\\' + char
      if (char === '\n') return '\\n'
      if (char === '\t') return '\\t'
      if (char === '\r') return '\\r'
      return code < 256 ? '\\x' + code.toString(16).padStart(2, '0') : '\\u' + code.toString(16).padStart(4, '0')
    },
  )
  return `"${body}"`
}

function quoteText(text: string, style: 'plain' | 'single' | 'double', flow: boolean): string {
  if (style === 'plain' && isPlainSafe(text, flow)) return text
  if (style !== 'double' && /^[^\u0000-\u001f\u007f-\u009f\u2028\u2029\ufeff\ufffe\uffff]*$/.test(text) && !/[\ud800-\udfff]/.test(text))
    return "'" + text.replaceAll("'", "''") + "'"
  return quoteDouble(text)
}

function scalar(place: Place, value: null | boolean | number | string | { readonly text: string }): string {
  const old = place.old
  if (typeof value === 'boolean' && old?.kind === 'bool') return switchSource(place.document.text.slice(old.from, old.to), value)
  if (typeof value !== 'string') return plainSource(value)
  const flow = place.container?.flow ?? false
  if (old && (old.style === 'literal' || old.style === 'folded') && !flow) {
    const block = blockSource(place, value)
    if (block !== null) return block
  }
  const quoted = old?.kind === 'text' && (old.style === 'single' || old.style === 'double') ? old.style : null
  const style = quoted ?? (old?.kind === 'text' && old.style === 'plain' ? 'plain' : neighbourStyle(place.container))
  return quoteText(value, style, flow)
}

const SWITCHES = [
  ['yes', 'no'],
  ['on', 'off'],
  ['true', 'false'],
] as const

/** A switch in the words and letters of the one it replaces: `Yes` becomes `No`. */
function switchSource(old: string, value: boolean): string {
  const pair = SWITCHES.find((words) => (words as readonly string[]).includes(old.toLowerCase())) ?? SWITCHES[2]
  const word = value ? pair[0] : pair[1]
  if (old === old.toUpperCase()) return word.toUpperCase()
  return old[0] === old[0]!.toUpperCase() ? word[0]!.toUpperCase() + word.slice(1) : word
}

function plainSource(value: null | boolean | number | { readonly text: string }): string {
  if (value === null) return 'null'
  if (typeof value === 'object') return value.text
  if (value === Infinity) return '.inf'
  if (value === -Infinity) return '-.inf'
  return Number.isNaN(value) ? '.nan' : String(value)
}

/** A literal block in the indentation of the old one; null where a block cannot hold the text. */
function blockSource(place: Place, value: string): string | null {
  if (/[^\n\t\u0020-\u007e\u00a0-\ud7ff\ue000-\ufefe\uff00-\ufffd]/.test(value) || /^[ \n]/.test(value) || value.trim() === '') return null
  const body = value.replace(/\n+$/, '')
  const ends = value.length - body.length
  const old = place.old!
  const oldLine = place.document.text
    .slice(old.from, old.to)
    .split(/\r\n|\r|\n/)
    .find((line, i) => i > 0 && line.trim() !== '')
  const indent = oldLine ? /^ */.exec(oldLine)![0].length : Math.max(0, place.container?.indent ?? 0) + indentStep(place.document)
  const eol = eolOf(place.document.text)
  const chomp = ends === 0 ? '-' : ends === 1 ? '' : '+'
  const lines = body.split('\n')
  for (let i = 1; i < ends; i++) lines.push('')
  return '|' + chomp + eol + lines.map((line) => (line === '' ? '' : ' '.repeat(indent) + line)).join(eol)
}

function key(_document: Document, container: Container, name: string, old: Entry | null): string {
  const source = old ? _document.text.slice(old.keyFrom, old.keyTo) : ''
  const style = source.startsWith('"') ? 'double' : source.startsWith("'") ? 'single' : 'plain'
  if (style === 'plain' && isKeySafe(name, container.flow)) return name
  return quoteText(name, style === 'plain' ? 'single' : style, container.flow)
}

function isKeySafe(name: string, flow: boolean): boolean {
  if (/^[-+]?[0-9]+(\.[0-9]+)?$/.test(name)) return true
  return isPlainSafe(name, flow) && !/^\?/.test(name)
}

function inline(document: Document, value: Value): string {
  if (Array.isArray(value)) return '[' + (value as readonly Value[]).map((item) => inline(document, item)).join(', ') + ']'
  if (value instanceof Map) {
    const parts = [...(value as ReadonlyMap<string, Value>)].map(
      ([name, item]) => (isKeySafe(name, true) ? name : quoteText(name, 'single', true)) + ': ' + inline(document, item),
    )
    return parts.length === 0 ? '{}' : '{ ' + parts.join(', ') + ' }'
  }
  return typeof value === 'string' ? quoteText(value, 'plain', true) : plainSource(value as null | boolean | number | NumberText)
}

function entryLines(document: Document, container: Container, name: string | null, value: Value): string[] {
  const head = name === null ? '-' : key(document, container, name, null) + ':'
  if (container.flow) {
    const source = typeof value === 'string' ? quoteText(value, neighbourStyle(container), true) : inline(document, value)
    return [name === null ? source : `${head} ${source}`]
  }
  const step = indentStep(document)
  if (Array.isArray(value) && value.length > 0) {
    const lines = (value as readonly Value[]).flatMap((item) => entryLines(document, container, null, item))
    return name === null ? compact(lines) : [head, ...indentLines(lines, step)]
  }
  if (value instanceof Map && value.size > 0) {
    const lines = [...(value as ReadonlyMap<string, Value>)].flatMap(([inner, item]) => entryLines(document, container, inner, item))
    return name === null ? compact(lines) : [head, ...indentLines(lines, step)]
  }
  const text = typeof value === 'string' ? quoteText(value, neighbourStyle(container), false) : inline(document, value)
  return [`${head} ${text}`]
}

function compact(lines: readonly string[]): string[] {
  return lines.map((line, i) => (i === 0 ? '- ' + line : line === '' ? '' : '  ' + line))
}

function indentLines(lines: readonly string[], by: number): string[] {
  return lines.map((line) => (line === '' ? '' : ' '.repeat(by) + line))
}

/** Aliases and odd cases do not mean the same wherever they stand. */
function readsAnywhere(source: string): boolean {
  return /^[\w-][\w.-]*$/.test(source) || parseYaml(`k: ${source}`, UNSAID).findings.length === 0
}

export const yamlWriter: Writer = { scalar, key, entryLines, inline, blankBeforeValue: true, readsAnywhere }
