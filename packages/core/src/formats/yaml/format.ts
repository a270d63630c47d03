import { lineComments, nameBeforeColon } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseYaml } from './parse'
import { yamlWriter } from './write'

export const yamlFormat: Format<'yaml'> = defineFormat({
  id: 'yaml',
  endings: ['yml', 'yaml'],
  traits: { duplicates: 'refused' },
  comments: lineComments('#', /^# ?/, nameBeforeColon),
  parse: parseYaml,
  writer: yamlWriter,
  // anchors, documents and directives reach beyond the lines they stand on
  parts: { units: 'lines', before: '', scattered: false, reaches: /[&*]|^(---|\.\.\.|%)/m },
})
