import { number, object } from 'yup'
import { install } from '../../../../services/pantry'

const body = object({ packageId: number().integer().required() })

export default api({ role: 'editor', body }, async ({ context, account, body: { packageId }, server }) =>
  install(context, await server(), packageId, account.name),
)
