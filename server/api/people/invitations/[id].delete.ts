import { number, object } from 'yup'
import { withdrawInvitation } from '../../../services/people'

const params = object({ id: number().integer().required() })

export default api({ role: 'owner', params }, async ({ context, account, params: { id } }) => {
  await withdrawInvitation(context, id, account)
  return { ok: true }
})
