import { asStartedNow } from '../../../services/servers'

/** Looks at the server's files anew, and remembers packages that came there by other ways. */
export default api({ role: 'editor' }, async ({ context, server }) => {
  const { inventory } = await asStartedNow(context, await server())
  inventory.forget()
  await inventory.remember()
  return { ok: true }
})
