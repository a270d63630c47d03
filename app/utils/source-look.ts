import { HighlightStyle } from '@codemirror/language'
import { tags } from '@lezer/highlight'

/** How sources are coloured: by the tokens of the theme, so that the evening's are right, too. */
export const sourceLook = HighlightStyle.define([
  {
    tag: [tags.propertyName, tags.definition(tags.propertyName), tags.definition(tags.variableName)],
    color: 'var(--crust)',
    fontWeight: '600',
  },
  { tag: [tags.comment, tags.lineComment], color: 'var(--muted)', fontStyle: 'italic' },
  { tag: [tags.number, tags.bool, tags.null, tags.keyword, tags.atom], color: 'var(--yours-edge)' },
  { tag: [tags.string, tags.quote], color: 'var(--update)' },
])
