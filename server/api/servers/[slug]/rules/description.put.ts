import { object, string } from 'yup'
import { attach } from '../../../../services/rule-sheets'

const body = object({
  path: string().max(1000).required('path is missing: it is the settings file that is described'),
  name: string().max(200).required('name is missing: it is what the description is called'),
  text: string().max(1_000_000).required('text is missing: it is a JSON Schema, or rules as docs/rules.md has them'),
}).noUnknown()

/** Attaches a description to a settings file, in the place of one that was there. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  attach(context, await server(), body, account.name),
)
