import { knownOf } from '../../../services/known'

export default api({ role: 'viewer' }, async ({ context, server }) => knownOf(context, await server()))
