import { defineCheck } from './check'

/** What the reader of the format has to say. A file that does not read is never written. */
export const reads = defineCheck({
  id: 'reads',
  scope: 'file',
  blocks: true,
  codes: [
    'syntax',
    'tab-indent',
    'bad-indent',
    'missing-colon',
    'missing-comma',
    'extra-comma',
    'unclosed-quote',
    'unclosed-bracket',
    'unclosed-block',
    'unclosed-tag',
    'wrong-quote',
    'missing-equals',
    'missing-space',
    'swallowed',
    'older-reading',
    'text-after-value',
    'duplicate-key',
    'bad-escape',
    'unknown-alias',
    'too-deep',
    'comment-not-allowed',
    'control-character',
  ],
  run: (_workspace, file) => file.document.findings,
  again: (_workspace, file) => file.document.findings,
})
