import { object, string } from 'yup'
import { saveDraft } from '../../../services/drafts'
import { SIZES } from '../../../services/sizes'

const body = object({
  path: string().required(),
  text: string().defined().max(SIZES.settings),
  baseSha: string().required(),
  draftSha: string().nullable().defined(),
})

/** Keeps a draft made from a file and, where there was one, a draft; what others changed meanwhile is brought together with it. */
export default api({ role: 'editor', body, most: SIZES.settingsBody }, async ({ context, account, body, server }) =>
  saveDraft(context, await server(), body, account.name),
)
