import { applyTray } from '../../../../services/tray'

/** Writes what is staged to the server. */
export default api({ role: 'editor' }, async ({ context, account, server }) => applyTray(context, await server(), account.name))
