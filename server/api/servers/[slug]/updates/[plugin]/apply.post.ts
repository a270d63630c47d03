import { number, object, string } from 'yup'
import { applyUpdate } from '../../../../../services/updates'

const params = object({ plugin: string().required() })
const body = object({ packageId: number().integer().required() })

/** Carries out the update as planned. */
export default api({ role: 'editor', params, body }, async ({ context, account, params: { plugin }, body: { packageId }, server }) =>
  applyUpdate(context, await server(), plugin, packageId, account.name),
)
