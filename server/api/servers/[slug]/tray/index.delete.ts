import { object, string } from 'yup'
import { discardDrafts } from '../../../../services/tray'

const query = object({ path: string(), sha: string() })

/** Discards all drafts, that of one file, or exactly the one that was looked at. */
export default api({ role: 'editor', query }, async ({ context, query: { path, sha }, server }) => {
  await discardDrafts(context, await server(), path, sha)
  return { ok: true }
})
