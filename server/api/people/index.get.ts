import { listPeople } from '../../services/people'

/** Everybody with an account, and open invitations. */
export default api({ role: 'owner' }, async ({ context }) => listPeople(context))
