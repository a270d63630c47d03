import { lineComments, nameBeforeColon } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseJson } from './parse'
import { jsonWriter } from './write'

export const jsonFormat: Format<'json'> = defineFormat({
  id: 'json',
  endings: ['json', 'jsonc', 'json5'],
  traits: { brackets: true, trailingComma: false },
  comments: lineComments('//', /^\/\/ ?/, nameBeforeColon),
  parse: parseJson,
  writer: jsonWriter,
  parts: { units: 'values', before: '', scattered: false },
  // what is named so is read with comments, whatever the platform does with .json
  readingOf: (ending) => (ending === 'json' ? {} : { jsonComments: true }),
})
