import { signOutPerson } from '../../../services/people'

/** Ends all sessions of somebody. */
export default api({ role: 'owner', params: personParams }, async ({ context, account, params: { name } }) => {
  await signOutPerson(context, name, account)
  return { ok: true }
})
