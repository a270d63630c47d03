import { object, string } from 'yup'
import { signInByLink, signInByPassword } from '../services/accounts'

const body = object({ key: string().max(300), name: string().max(100), password: string().max(200) })
  .noUnknown()
  .test('either', 'give a name and a password, or the key of a link', ({ key, name, password }) =>
    key === undefined ? name !== undefined && password !== undefined : name === undefined && password === undefined,
  )

/** Opens a session, by name and password or by a link of the demo. */
export default openApi({ body }, async ({ event, context, body: { key, name = '', password = '' } }) => {
  const address = addressOf(event)
  const session = key === undefined ? await signInByPassword(context, name, password, address) : await signInByLink(context, key, address)
  keepSession(event, session)
  return { name: session.account.name, role: session.account.role }
})
