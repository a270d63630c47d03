import { listTray } from '../../../../services/settings'

export default api({ role: 'viewer' }, async ({ context, server }) => listTray(context, await server()))
