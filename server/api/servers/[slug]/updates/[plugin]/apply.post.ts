import { number, object, string } from 'yup'
import { applyUpdate } from '../../../../../services/updates'

const params = object({ plugin: string().required() })
const body = object({
  packageId: number().integer().required(),
  planSha: string().required('planSha is missing: name the plan you looked at by its sha, as GET …/plan gives it'),
}).noUnknown()

/** Carries out the update as planned. */
export default api({ role: 'editor', params, body }, async ({ context, account, params: { plugin }, body, server }) =>
  applyUpdate(context, await server(), plugin, body, account.name),
)
