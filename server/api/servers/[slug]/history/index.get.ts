import { historyOf } from '../../../../services/history'

export default api({ role: 'viewer' }, async ({ context, server }) => historyOf(context, await server()))
