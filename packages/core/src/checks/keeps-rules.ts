import { checkRules, recheckRules } from '../rules/check'
import { defineCheck } from './check'

/** Values that are not what their rules say. */
export const keepsRules = defineCheck({
  id: 'keeps-rules',
  scope: 'file',
  codes: ['kind-changed', 'number-expected', 'unknown-choice', 'out-of-range'],
  run: (_workspace, file) => checkRules(file.document, file.rules),
  again: (file, before, changes) => recheckRules(file.document, file.rules, before, changes),
})
