import { array, number, object, string } from 'yup'
import { applyTray } from '../../../../services/tray'

const draft = object({ path: string().required(), sha: string().required() }).noUnknown()
const overrule = object({
  code: string().max(64).required(),
  reason: string().trim().min(1).max(500).required('reason is missing: say why it may be written'),
}).noUnknown()
const body = object({
  overrule: array(overrule).max(50).default([]),
  drafts: array(draft).max(1000).required('drafts is missing: name each draft you looked at by path and sha, as GET …/tray gives them'),
  commands: array(number().integer().required()).max(1000).default([]),
}).noUnknown()

/** Writes the drafts that were reviewed, named by their hashes, to the server, and says the commands that were to its console; errors in them hold it, but those that are overruled by code. */
export default api({ role: 'editor', body }, async ({ context, account, body: { drafts, overrule, commands }, server }) =>
  applyTray(context, await server(), drafts, account.name, overrule, commands),
)
