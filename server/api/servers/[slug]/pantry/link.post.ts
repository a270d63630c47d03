import { object, string } from 'yup'
import { addFromLink } from '../../../../services/pantry'

const body = object({ link: string().required().max(2000) })

export default api({ role: 'editor', body }, async ({ context, account, body: { link }, server }) => {
  const rows = await addFromLink(context, await server(), link, account.name)
  return rows.map(({ id, info }) => ({ id, name: info.name, version: info.version }))
})
