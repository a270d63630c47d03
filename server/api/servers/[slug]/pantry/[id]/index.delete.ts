import { number, object } from 'yup'
import { removePackage } from '../../../../../services/pantry'

const params = object({ id: number().integer().required() })

/** Takes a package out of the pantry; one that is installed stays. */
export default api({ role: 'editor', params }, async ({ context, account, params: { id }, server }) => {
  await removePackage(context, await server(), id, account.name)
  return { ok: true }
})
