import { object, string } from 'yup'
import { rebaseDraft } from '../../../../services/drafts'

const body = object({
  path: string().required(),
  choice: string()
    .oneOf(['merge', 'mine'] as const)
    .default('merge'),
}).noUnknown()

/** Makes a draft one of the file as it now stands on the server. */
export default api({ role: 'editor', body }, async ({ context, account, body: { path, choice }, server }) =>
  rebaseDraft(context, await server(), path, choice, account.name),
)
