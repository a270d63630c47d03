import { lazy, object, string } from 'yup'
import { signInByLink, signInByPassword } from '../services/accounts'

const byLink = object({ key: keyShape }).noUnknown()
const byPassword = object({ name: string().max(100).required(), password: string().max(200).required() }).noUnknown()
const isLink = (value: unknown): boolean => typeof value === 'object' && value !== null && 'key' in value
const body = lazy((value: unknown) => (isLink(value) ? byLink : byPassword))

/** Opens a session, by name and password or by a link of the demo. */
export default openApi({ body }, async ({ event, context, body: given }) => {
  const address = addressOf(event)
  const session =
    'key' in given ? await signInByLink(context, given.key, address) : await signInByPassword(context, given.name, given.password, address)
  keepSession(event, session)
  return { name: session.account.name, role: session.account.role }
})
