import { json } from '@codemirror/lang-json'
import { yaml } from '@codemirror/lang-yaml'
import { StreamLanguage, type StreamParser } from '@codemirror/language'
import { javascript } from '@codemirror/legacy-modes/mode/javascript'
import { lua } from '@codemirror/legacy-modes/mode/lua'
import { properties } from '@codemirror/legacy-modes/mode/properties'
import { xml } from '@codemirror/legacy-modes/mode/xml'
import type { Extension } from '@codemirror/state'
import type { FormatId } from '@pasticcio/core'

const stream = (parser: StreamParser<unknown>) => (): Extension => StreamLanguage.define(parser)

/** How the source view colours each format; a format without an entry does not compile. */
export const HIGHLIGHTERS: Readonly<Record<FormatId, () => Extension>> = {
  yaml,
  json,
  lua: stream(lua as StreamParser<unknown>),
  xml: stream(xml as StreamParser<unknown>),
  script: stream(javascript as StreamParser<unknown>),
  properties: stream(properties as StreamParser<unknown>),
  ini: stream(properties as StreamParser<unknown>),
  text: () => [],
}
