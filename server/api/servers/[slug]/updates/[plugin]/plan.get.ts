import { planUpdate } from '../../../../../services/updates'

export default api({ role: 'viewer' }, async ({ context, param, number, server }) =>
  planUpdate(context, await server(), param('plugin'), number('package')),
)
