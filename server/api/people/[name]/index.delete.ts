import { removePerson } from '../../../services/people'

/** Takes an account away. */
export default api({ role: 'owner', params: personParams }, async ({ context, account, params: { name } }) => {
  await removePerson(context, name, account)
  return { ok: true }
})
