import { deleteCookie, getCookie } from 'h3'
import { hashOf } from '../db/repositories/blobs'

export default api({ role: 'viewer' }, async ({ event, context }) => {
  await context.accounts.endSession(hashOf(getCookie(event, SESSION_COOKIE) ?? ''))
  deleteCookie(event, SESSION_COOKIE)
  return { ok: true }
})
