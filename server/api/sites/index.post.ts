import { boolean, object, string } from 'yup'
import { addSite } from '../../services/plugin-sites'

const body = object({ address: string().required().max(500), mayBePrivate: boolean().default(false) })

/** Adds a plugin site. */
export default api({ role: 'owner', body }, async ({ context, account, body: { address, mayBePrivate } }) => {
  await addSite(context, address, mayBePrivate, account.name)
  return { ok: true }
})
