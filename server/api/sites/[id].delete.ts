import { number, object } from 'yup'
import { removeSite } from '../../services/plugin-sites'

const params = object({ id: number().integer().required() })

/** Removes a plugin site. */
export default api({ role: 'owner', params }, async ({ context, account, params: { id } }) => {
  await removeSite(context, id, account.name)
  return { ok: true }
})
