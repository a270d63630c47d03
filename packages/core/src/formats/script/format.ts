import { lineComments, nameBeforeColon } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseScript } from './parse'
import { scriptWriter } from './write'

export const scriptFormat: Format<'script'> = defineFormat({
  id: 'script',
  endings: ['js', 'mjs', 'cjs'],
  traits: { brackets: true },
  comments: lineComments('//', /^\/\/ ?/, nameBeforeColon),
  parse: parseScript,
  writer: scriptWriter,
})
