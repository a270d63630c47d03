import { inviteAgain } from '../../../services/people'

/** Makes a link that gives somebody a new password. Its key is told only here. */
export default api({ role: 'owner', params: personParams }, async ({ context, account, params: { name } }) => ({
  key: await inviteAgain(context, name, account),
}))
