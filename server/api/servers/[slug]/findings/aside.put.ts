import { object, string } from 'yup'
import { setAside } from '../../../../services/findings'

const body = object({
  subject: string().max(64).required('subject is missing: take it from the finding, as GET …/findings gives it'),
  reason: string().trim().min(1).max(500).required('reason is missing: say why it may stay'),
}).noUnknown()

/** Sets a finding aside, with a reason, while its value stays. */
export default api({ role: 'editor', body }, async ({ context, account, body: { subject, reason }, server }) => {
  await setAside(context, await server(), subject, reason, account.name)
  return { ok: true }
})
