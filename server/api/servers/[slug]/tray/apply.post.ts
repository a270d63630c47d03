import { array, object, string } from 'yup'
import { applyTray } from '../../../../services/tray'

const draft = object({ path: string().required(), sha: string().required() }).noUnknown()
const body = object({
  drafts: array(draft).max(1000).required('drafts is missing: name each draft you looked at by path and sha, as GET …/tray gives them'),
}).noUnknown()

/** Writes the drafts that were reviewed, named by their hashes, to the server. */
export default api({ role: 'editor', body }, async ({ context, account, body: { drafts }, server }) =>
  applyTray(context, await server(), drafts, account.name),
)
