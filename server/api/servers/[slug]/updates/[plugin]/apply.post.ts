import { number, object } from 'yup'
import { applyUpdate } from '../../../../../services/updates'

const body = object({ packageId: number().integer().required() })

export default api({ role: 'editor', body }, async ({ context, account, param, body: { packageId }, server }) =>
  applyUpdate(context, await server(), param('plugin'), packageId, account.name),
)
