import { lineComments, nameBeforeEquals } from '../comment-style'
import { defineFormat, type Format } from '../format'
import { parseProperties } from './parse'
import { propertiesWriter } from './write'

export const propertiesFormat: Format<'properties'> = defineFormat({
  id: 'properties',
  endings: ['properties', 'lang'],
  traits: { values: 'text', dotted: true },
  comments: lineComments('#', /^[#!] ?/, nameBeforeEquals),
  parse: parseProperties,
  writer: propertiesWriter,
})
