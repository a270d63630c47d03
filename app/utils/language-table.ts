import Papa from 'papaparse'
import { eachSetting, formatOrText, parse, parsePointer } from '@pasticcio/core'
import { missingText, type LanguageRow, type PutText } from './message-languages'
import type { LanguageShown } from './types'

/** Lines of a list are told apart by these in a table. */
const BETWEEN = '\n'

/** All texts of a group as CSV (RFC 4180): the pointer of each, then a column a language. @param names what the columns are called */
export function languageCsv(rows: readonly LanguageRow[], names: readonly string[]): string {
  const lines = rows.map(({ pointer, cells }) => [pointer, ...cells.map(({ message }) => message?.texts.join(BETWEEN) ?? '')])
  return Papa.unparse([['text', ...names], ...lines], { newline: '\n' }) + '\n'
}

const escapedKey = (key: string): string => key.replaceAll(/[\\:=\s#!]/g, (sign) => `\\${sign}`)
const escapedValue = (value: string): string =>
  value
    .replaceAll('\\', '\\\\')
    .replaceAll('\n', '\\n')
    .replaceAll('\r', '\\r')
    .replace(/^\s/, (blank) => `\\${blank}`)

/** One language as `.properties` (java.util.Properties): the keys of its texts joined by dots. Lists go line by line, numbered from 0. */
export function languageProperties(rows: readonly LanguageRow[], language: string): string {
  return rows
    .flatMap(({ pointer, cells }) => {
      const message = cells.find((cell) => cell.language === language)?.message
      if (!message) return []
      const name = dotted(pointer)
      const texts = message.isList ? message.texts.map((text, i) => [`${name}.${i}`, text] as const) : [[name, message.texts[0]!] as const]
      return texts.map(([key, text]) => `${escapedKey(key)}=${escapedValue(text)}\n`)
    })
    .join('')
}

const dotted = (pointer: string): string => (parsePointer(pointer) ?? []).join('.')

/** What a file that is taken in would change. */
export interface TakenIn {
  readonly puts: readonly (PutText & { readonly language: string; readonly before: string | null })[]
  /** Names in it that no text has. */
  readonly unknown: readonly string[]
  /** Columns in it that are no language here. */
  readonly strange: readonly string[]
}

/** What a table of all languages would change; cells that are empty leave things as they are. @param names what the languages are called in it */
export function takeCsv(
  text: string,
  rows: readonly LanguageRow[],
  languages: readonly LanguageShown[],
  names: readonly string[],
): TakenIn {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' })
  const [head = [], ...lines] = data
  const columns = head.slice(1).map((name) => languages[names.indexOf(name.trim())])
  const said = lines.flatMap(([pointer = '', ...cells]) =>
    cells.flatMap((cell, i) => (columns[i] && cell !== '' ? [{ pointer: pointer.trim(), language: columns[i], text: cell }] : [])),
  )
  const strange = head.slice(1).filter((name, i) => !columns[i] && name.trim() !== '')
  return { ...taken(said, rows), strange }
}

/** What a `.properties` file of one language would change. */
export function takeProperties(text: string, rows: readonly LanguageRow[], language: LanguageShown): TakenIn {
  const document = parse(text, formatOrText('texts.properties'))
  const values = [...eachSetting(document)].flatMap(({ keys, entry: { value } }) =>
    value.type === 'scalar' ? [[keys.join('.'), String(value.value ?? '')] as const] : [],
  )
  const byName = new Map(rows.map((row) => [dotted(row.pointer), row]))
  const lists = new Map<string, string[]>()
  const said: Said[] = []
  const unknown: string[] = []
  for (const [name, value] of values) {
    const list = /^(.*)\.(\d+)$/.exec(name)
    const row = byName.get(name)
    if (row) said.push({ pointer: row.pointer, language, text: value })
    else if (list && byName.has(list[1]!)) lists.set(list[1]!, [...(lists.get(list[1]!) ?? []), value])
    else unknown.push(name)
  }
  for (const [name, lines] of lists) said.push({ pointer: byName.get(name)!.pointer, language, text: lines.join(BETWEEN) })
  const { puts } = taken(said, rows)
  return { puts, unknown, strange: [] }
}

interface Said {
  readonly pointer: string
  readonly language: LanguageShown
  readonly text: string
}

function taken(said: readonly Said[], rows: readonly LanguageRow[]): Pick<TakenIn, 'puts' | 'unknown'> {
  const at = new Map(rows.map((row, i) => [row.pointer, i]))
  const unknown = [...new Set(said.flatMap(({ pointer }) => (at.has(pointer) ? [] : [pointer])))]
  const puts = said.flatMap(({ pointer, language, text }) => {
    const index = at.get(pointer)
    const message = index === undefined ? null : (rows[index]!.cells.find((cell) => cell.language === language.language)?.message ?? null)
    const before = message?.texts.join(BETWEEN) ?? null
    if (index === undefined || before === text) return []
    const put = missingText(rows, index, language, [text])
    return [{ ...put, texts: put.isList ? text.split(BETWEEN) : [text], language: language.language, before }]
  })
  return { puts, unknown }
}
