import { json } from '@codemirror/lang-json'
import { yaml } from '@codemirror/lang-yaml'
import { StreamLanguage, type StreamParser } from '@codemirror/language'
import { javascript, json as jsonLines } from '@codemirror/legacy-modes/mode/javascript'
import { lua } from '@codemirror/legacy-modes/mode/lua'
import { properties } from '@codemirror/legacy-modes/mode/properties'
import { xml } from '@codemirror/legacy-modes/mode/xml'
import { yaml as yamlLines } from '@codemirror/legacy-modes/mode/yaml'
import type { Extension } from '@codemirror/state'
import type { FormatId } from '@pasticcio/core'

const stream = (parser: StreamParser<unknown>) => (): Extension => StreamLanguage.define(parser)

const HIGHLIGHTERS: Readonly<Record<FormatId, () => Extension>> = {
  yaml,
  json,
  lua: stream(lua as StreamParser<unknown>),
  xml: stream(xml as StreamParser<unknown>),
  script: stream(javascript as StreamParser<unknown>),
  properties: stream(properties as StreamParser<unknown>),
  ini: stream(properties as StreamParser<unknown>),
  text: () => [],
}

/** Readers that look at a line at a time: less exact, and as fast in a large file as in a small one. */
const BY_LINES: Readonly<Partial<Record<FormatId, () => Extension>>> = {
  yaml: stream(yamlLines as StreamParser<unknown>),
  json: stream(jsonLines as StreamParser<unknown>),
}

/** In characters. */
const LARGE = 300_000

/** How the source view colours a text of a format; a format that is not in the list does not compile. */
export function highlighterOf(format: FormatId, size: number): Extension {
  return (size > LARGE ? BY_LINES[format] : undefined)?.() ?? HIGHLIGHTERS[format]()
}
