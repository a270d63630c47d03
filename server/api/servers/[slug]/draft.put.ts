import { object, string } from 'yup'
import { saveDraft } from '../../../services/settings'

const body = object({ path: string().required(), text: string().defined().max(16_000_000), baseSha: string().required() })

export default api({ role: 'editor', body }, async ({ context, account, body: { path, text, baseSha }, server }) => {
  await saveDraft(context, await server(), path, text, baseSha, account.name)
  return { ok: true }
})
