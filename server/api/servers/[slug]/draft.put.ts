import { object, string } from 'yup'
import { saveDraft } from '../../../services/settings'
import { SIZES } from '../../../services/sizes'

const body = object({
  path: string().required(),
  text: string().defined().max(SIZES.settings),
  baseSha: string().required(),
  draftSha: string().nullable().defined(),
})

/** Keeps a draft made from a file and, where there was one, a draft; answers with the hash it now has. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) => ({
  draftSha: await saveDraft(context, await server(), body, account.name),
}))
