import { object } from 'yup'
import { setRole } from '../../../services/people'

const body = object({ role: roleShape }).noUnknown()

/** Gives somebody another role, which counts at once. */
export default api({ role: 'owner', params: personParams, body }, async ({ context, account, params: { name }, body: { role } }) => {
  await setRole(context, name, role, account)
  return { ok: true }
})
