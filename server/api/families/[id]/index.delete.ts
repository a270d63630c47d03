import { object, string } from 'yup'
import { dropFamily } from '../../../services/families'

const params = object({ id: string().required() })

/** Takes a description away; one that came with Pasticcio becomes what it was. */
export default api({ role: 'owner', params }, async ({ context, account, params: { id } }) => {
  await dropFamily(context, id, account.name)
  return { ok: true }
})
