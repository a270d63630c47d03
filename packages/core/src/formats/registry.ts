import { emptyScalar, type Document, type FormatId, type MapNode } from '../tree/nodes'
import { parseIni } from './ini/parse'
import { iniWriter } from './ini/write'
import { parseJson } from './json/parse'
import { jsonWriter } from './json/write'
import { parseLua } from './lua/parse'
import { luaWriter } from './lua/write'
import { parseProperties } from './properties/parse'
import { propertiesWriter } from './properties/write'
import { parseScript } from './script/parse'
import { scriptWriter } from './script/write'
import type { Writer } from './writer'
import { parseXml } from './xml/parse'
import { xmlWriter } from './xml/write'
import { parseYaml } from './yaml/parse'
import { yamlWriter } from './yaml/write'

export interface ReadOptions {
  /** JSON only: comments and trailing commas are allowed. */
  readonly relaxed?: boolean
  /** Lua, XML: pointers of what is a list even where it holds nothing, or one item; positions stand as `*`. */
  readonly lists?: ReadonlySet<string>
}

interface FormatEntry {
  readonly endings: readonly string[]
  readonly parse: (text: string, options: ReadOptions) => Document
  readonly writer: Writer | null
}

const FORMATS: Readonly<Record<FormatId, FormatEntry>> = {
  yaml: { endings: ['yml', 'yaml'], parse: parseYaml, writer: yamlWriter },
  json: { endings: ['json', 'jsonc', 'json5'], parse: parseJson, writer: jsonWriter },
  lua: { endings: ['lua'], parse: parseLua, writer: luaWriter },
  properties: { endings: ['properties', 'lang'], parse: parseProperties, writer: propertiesWriter },
  ini: { endings: ['ini', 'cfg'], parse: parseIni, writer: iniWriter },
  xml: { endings: ['xml'], parse: parseXml, writer: xmlWriter },
  script: { endings: ['js', 'mjs', 'cjs'], parse: parseScript, writer: scriptWriter },
  text: { endings: ['txt', 'md'], parse: parseText, writer: null },
}

export const FORMAT_IDS = Object.keys(FORMATS) as readonly FormatId[]

/** Plain text has no settings: the whole file is one value. */
function parseText(text: string): Document {
  const root: MapNode = { type: 'map', flow: false, indent: 0, entries: [], tail: [], from: 0, to: text.length, outer: 0, anchor: null, tag: null }
  const value = { ...emptyScalar(0), kind: 'text' as const, style: 'plain' as const, value: text, to: text.length }
  root.entries.push({ key: 'text', keyFrom: 0, keyTo: 0, value, from: 0, to: text.length, lead: [], trail: null, comma: -1 })
  return { format: 'text', text, root, findings: [] }
}

/** The format a file's ending stands for; null for an ending that is not known. */
export function formatOf(path: string): FormatId | null {
  const ending = /\.([a-z0-9]+)$/i.exec(path)?.[1]?.toLowerCase() ?? ''
  return FORMAT_IDS.find((id) => FORMATS[id].endings.includes(ending)) ?? null
}

/** Whether readers of this file usually allow comments and trailing commas in it. */
export function isRelaxedByName(path: string): boolean {
  return /\.(jsonc|json5)$/i.test(path)
}

/** Reads a text into a document; bad input gives findings, never an exception. */
export function parse(text: string, format: FormatId, options: ReadOptions = {}): Document {
  return FORMATS[format].parse(text, options)
}

/** @throws Error for plain text, which has no settings to write. */
export function writerOf(format: FormatId): Writer {
  const writer = FORMATS[format].writer
  if (!writer) throw new Error(`files of the format ${format} have no settings to write`)
  return writer
}
