import { lineComments, nameBeforeEquals } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseIni } from './parse'
import { iniWriter } from './write'

export const iniFormat: Format<'ini'> = defineFormat({
  id: 'ini',
  endings: ['ini', 'cfg'],
  traits: { values: 'text', reorderable: false, dotted: true },
  comments: lineComments(';', /^[;#] ?/, nameBeforeEquals),
  parse: parseIni,
  writer: iniWriter,
})
