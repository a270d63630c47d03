import { object, boolean } from 'yup'
import { signOut, signOutEverywhere } from '../services/accounts'

const body = object({ everywhere: boolean().default(false) }).noUnknown()

/** Ends this session, or all of this account. */
export default api({ role: 'viewer', body }, async ({ event, context, account, body: { everywhere } }) => {
  if (everywhere) await signOutEverywhere(context, account, account.name)
  else await signOut(context, sessionOf(event) ?? '')
  dropSession(event)
  return { ok: true }
})
