import { defineFormat, type Format } from '../format'
import { parseText } from './parse'
import { textWriter } from './write'

export const textFormat: Format<'text'> = defineFormat({
  id: 'text',
  endings: ['txt', 'md'],
  traits: { values: 'text' },
  comments: null,
  parse: parseText,
  writer: textWriter,
})
