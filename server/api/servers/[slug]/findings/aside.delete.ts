import { object, string } from 'yup'
import { takeUp } from '../../../../services/findings'

const query = object({ subject: string().max(64).required('subject is missing') }).noUnknown()

/** Takes a finding up again that was set aside. */
export default api({ role: 'editor', query }, async ({ context, account, query: { subject }, server }) => {
  await takeUp(context, await server(), subject, account.name)
  return { ok: true }
})
