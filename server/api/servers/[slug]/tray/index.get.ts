import { listTray } from '../../../../services/tray'

export default api({ role: 'viewer' }, async ({ context, server }) => listTray(context, await server()))
