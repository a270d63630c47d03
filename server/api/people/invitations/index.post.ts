import { object } from 'yup'
import { invite } from '../../../services/people'

const body = object({ role: roleShape }).noUnknown()

/** Makes an invitation. Its key is told only here. */
export default api({ role: 'owner', body }, async ({ context, account, body: { role } }) => ({ key: await invite(context, role, account) }))
