import { object, string } from 'yup'
import { takeSheet } from '../../../../services/rule-sheets'

const body = object({ text: string().max(200_000).required('text is missing: it is the rule sheet') }).noUnknown()

/** Takes in a rule sheet: its rules count from now on, in the place of those of the same settings. */
export default api({ role: 'editor', body }, async ({ context, account, body: { text }, server }) =>
  takeSheet(context, await server(), text, account.name),
)
