import { checkRules, recheckRules } from '../rules/check'
import { defineCheck } from './check'

/** Values that are not what their rules say. */
export const keepsRules = defineCheck({
  id: 'keeps-rules',
  scope: 'file',
  codes: ['kind-changed', 'number-expected', 'unknown-choice', 'out-of-range', 'too-long', 'too-many-items', 'wrong-form', 'is-missing'],
  run: ({ knowledge }, file) => checkRules(file.document, file.rules, knowledge.texts),
  again: ({ knowledge }, file, before, changes) => recheckRules(file.document, file.rules, before, changes, knowledge.texts),
})
