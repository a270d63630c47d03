import type { Edit } from '../../text/edits'
import type { Document, Entry } from '../../tree/nodes'
import { OperationError } from '../error'
import { defineFormat, type CommentStyle, type Format } from '../format'
import { parseXml } from './parse'
import { xmlWriter } from './write'

/** An element in a comment cannot be told from prose, so none is offered to be switched on. */
const comments: CommentStyle = { mark: '<!--', end: ' -->', off: null, settingIn: () => null, switchOff: wrap }

function wrap(document: Document, entry: Entry): Edit[] {
  if (document.text.slice(entry.from, entry.to).includes('--'))
    throw new OperationError('cannot-hold', 'it has two dashes in it, which cannot stand in a comment of XML')
  return [
    { from: entry.from, to: entry.from, insert: '<!-- ' },
    { from: entry.to, to: entry.to, insert: ' -->' },
  ]
}

export const xmlFormat: Format<'xml'> = defineFormat({
  id: 'xml',
  endings: ['xml'],
  traits: { values: 'text', singleItem: true, reorderable: false },
  comments,
  parse: parseXml,
  writer: xmlWriter,
})
