import { number, object } from 'yup'
import { documentsOf } from '../../../../../services/package-contents'
import { requirePackage } from '../../../../../services/pantry'

const params = object({ id: number().integer().required() })

/** What a package has for people to read. */
export default api({ role: 'viewer', params }, async ({ context, params: { id }, server }) => {
  const opened = await server()
  const row = await requirePackage(context, opened, id)
  const { summary, nodes, commands, placeholders, changes } = row.info
  return { ...(await documentsOf(context, opened, row)), summary, nodes, commands, placeholders, changes }
})
