import { applyDetail } from '../../../../../services/history'

export default api({ role: 'viewer' }, async ({ context, number, server }) => applyDetail(context, await server(), number('id')))
