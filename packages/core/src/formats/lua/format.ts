import { lineComments, nameBeforeEquals } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseLua } from './parse'
import { luaWriter } from './write'

export const luaFormat: Format<'lua'> = defineFormat({
  id: 'lua',
  endings: ['lua'],
  traits: { emptyTable: true, brackets: true, tags: 'meaning' },
  // in an assignment `Config.price = 5` the last name is the setting's
  comments: lineComments('--', /^-- ?/, (line) => nameBeforeEquals(line)?.replace(/^.*\./, '') ?? null),
  parse: parseLua,
  writer: luaWriter,
  parts: { units: 'values', before: 'x = ', scattered: true },
})
