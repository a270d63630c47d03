import { object, string } from 'yup'
import { acceptInvitation, offerOf } from '../../services/people'

const body = object({ key: keyShape, name: string().max(100).default(''), password: passwordShape }).noUnknown()

/** Takes an invitation and signs in. Where it is for an account that is there, its name is not asked for. */
export default openApi({ body }, async ({ event, context, body: { key, name, password } }) => {
  const address = addressOf(event)
  const offer = await offerOf(context, key, address)
  const chosen = offer.name ?? (await nameShape.validate(name.trim()))
  const session = await acceptInvitation(context, { key, name: chosen, password, address })
  keepSession(event, session)
  return { name: session.account.name, role: session.account.role }
})
