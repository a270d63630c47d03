import { addFromLink } from '../../../../services/downloads'

/** Fetches a package by its link, and answers when it is in the pantry. */
export default api({ role: 'editor', body: linkShape }, async ({ context, account, body, server }) => {
  const rows = await addFromLink(context, await server(), body, account.name)
  return rows.map(({ id, info }) => ({ id, name: info.name, version: info.version }))
})
