import type { Document, FormatId } from '../tree/nodes'
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
import { parseText } from './text/parse'
import { textWriter } from './text/write'
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
  readonly writer: Writer
}

const FORMATS: Readonly<Record<FormatId, FormatEntry>> = {
  yaml: { endings: ['yml', 'yaml'], parse: parseYaml, writer: yamlWriter },
  json: { endings: ['json', 'jsonc', 'json5'], parse: parseJson, writer: jsonWriter },
  lua: { endings: ['lua'], parse: parseLua, writer: luaWriter },
  properties: { endings: ['properties', 'lang'], parse: parseProperties, writer: propertiesWriter },
  ini: { endings: ['ini', 'cfg'], parse: parseIni, writer: iniWriter },
  xml: { endings: ['xml'], parse: parseXml, writer: xmlWriter },
  script: { endings: ['js', 'mjs', 'cjs'], parse: parseScript, writer: scriptWriter },
  text: { endings: ['txt', 'md'], parse: parseText, writer: textWriter },
}

export const FORMAT_IDS = Object.keys(FORMATS) as readonly FormatId[]

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

export function writerOf(format: FormatId): Writer {
  return FORMATS[format].writer
}
