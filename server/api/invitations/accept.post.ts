import { object, string } from 'yup'
import { acceptInvitation } from '../../services/people'

const body = object({ key: keyShape, name: string().max(100).default(''), password: passwordShape }).noUnknown()

/** Takes an invitation and signs in. Where it is for an account that is there, its name is not asked for. */
export default openApi({ body }, async ({ event, context, body: { key, name, password } }) => {
  const session = await acceptInvitation(context, { key, name, password, address: addressOf(event) })
  keepSession(event, session)
  return { name: session.account.name, role: session.account.role }
})
