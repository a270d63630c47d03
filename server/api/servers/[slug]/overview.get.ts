import { overviewOf } from '../../../services/overview'

export default api({ role: 'viewer' }, async ({ context, server }) => overviewOf(context, await server()))
