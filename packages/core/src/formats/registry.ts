import type { Document } from '../tree/nodes'
import type { Format } from './format'
import { iniFormat } from './ini/format'
import { jsonFormat } from './json/format'
import { luaFormat } from './lua/format'
import { propertiesFormat } from './properties/format'
import { UNSAID, type FamilyReading, type Reading } from './reading'
import { scriptFormat } from './script/format'
import { textFormat } from './text/format'
import type { Writer } from './writer'
import { xmlFormat } from './xml/format'
import { yamlFormat } from './yaml/format'

const BUILT_IN = [
  yamlFormat,
  jsonFormat,
  luaFormat,
  propertiesFormat,
  iniFormat,
  xmlFormat,
  scriptFormat,
  textFormat,
] as const satisfies readonly Format[]

export type FormatId = (typeof BUILT_IN)[number]['id']

const formats = new Map<string, Format>(BUILT_IN.map((format) => [format.id, format]))

export const FORMAT_IDS: readonly FormatId[] = BUILT_IN.map((format) => format.id)

/** Adds a format to those of this process, as tests do. @returns takes it away again @throws RangeError for an id that is taken */
export function registerFormat(format: Format): () => void {
  if (formats.has(format.id)) throw new RangeError(`there is a format “${format.id}” already`)
  formats.set(format.id, format)
  return () => void formats.delete(format.id)
}

/** Everything there is to know about a format. */
export function formatById(id: FormatId): Format {
  const format = formats.get(id)
  if (!format) throw new RangeError(`there is no format “${id}”`)
  return format
}

function endingOf(path: string): string {
  return /\.([a-z0-9]+)$/i.exec(path)?.[1]?.toLowerCase() ?? ''
}

/** The format a file's ending stands for; null for an ending that is not known. */
export function formatOf(path: string): FormatId | null {
  const ending = endingOf(path)
  for (const format of formats.values()) if (format.endings.includes(ending)) return format.id as FormatId
  return null
}

/** The same, where every file must be read as something: one of an unknown ending is plain text. */
export function formatOrText(path: string): FormatId {
  return formatOf(path) ?? textFormat.id
}

/** Whether a file is called as plain texts are, which have no settings. */
export const isPlainText = (path: string): boolean => formatOf(path) === textFormat.id

/** How a file is read on a server of a family: the one policy for it. Without a family only its ending tells. */
export function readingFor(path: string, family: FamilyReading | null = null): Reading {
  const format = formatOf(path)
  const said: Reading = family ? { jsonComments: family.reading['json-comments'], yaml: family.reading.yaml } : UNSAID
  return { ...said, ...(format ? formatById(format).readingOf?.(endingOf(path)) : {}) }
}

/** Reads a text into a document; bad input gives findings, never an exception. */
export function parse(text: string, format: FormatId, reading: Reading = UNSAID): Document {
  const { traits, parse: read } = formatById(format)
  return { format, text, reading, traits, ...read(text, reading) }
}

/** Reads another text as a document was read, for the same file. */
export function parseLike(document: Document, text: string): Document {
  return { ...parse(text, document.format, document.reading), ...(document.file === undefined ? {} : { file: document.file }) }
}

export function writerOf(format: FormatId): Writer {
  return formatById(format).writer
}
