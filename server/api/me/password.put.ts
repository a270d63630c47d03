import { object, string } from 'yup'
import { changePassword } from '../../services/accounts'

const body = object({ current: string().max(200).default(''), password: passwordShape }).noUnknown()

/** Changes one's own password, and ends one's other sessions. */
export default api({ role: 'viewer', body }, async ({ event, context, account, body: { current, password } }) => {
  await changePassword(context, account, { current, password, token: sessionOf(event) ?? '', address: addressOf(event) })
  return { ok: true }
})
