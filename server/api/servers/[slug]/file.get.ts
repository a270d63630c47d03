import { viewFile } from '../../../services/settings'
import { newestOf } from '../../../services/updates'

/** One settings file: what is on the server, its factory copy, the draft, and what an update would ship. */
export default api({ role: 'viewer' }, async ({ context, query, server }) => {
  const opened = await server()
  const pantry = await context.packages.list(opened.family.id)
  return viewFile(context, opened, query('path'), async (name, version) => {
    const row = newestOf(pantry, name, version)
    return row ? { version: row.info.version, defaults: row.info.defaults } : null
  })
})
