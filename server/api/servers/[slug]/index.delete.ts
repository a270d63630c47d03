import { forgetServer } from '../../../services/servers'

/** Forgets a server; its files stay. */
export default api({ role: 'owner' }, async ({ context, account, server }) => {
  await forgetServer(context, await server(), account)
  return { ok: true }
})
