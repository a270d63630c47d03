import { mixed, object, string } from 'yup'
import { giveRule } from '../../../services/rules'

const body = object({ path: string().required(), rule: mixed().required() }).noUnknown()

/** Says what a setting is: a rule as docs/rules.md has it, whose `path` is the setting's JSON Pointer. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  giveRule(context, await server(), body.path, body.rule, account.name),
)
