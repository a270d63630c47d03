import { object, string } from 'yup'
import { removePlugin } from '../../../../../services/removing'

const body = object({
  settings: keepShape,
  planSha: string().required('planSha is missing: name the plan you looked at by its sha, as GET …/removal gives it'),
}).noUnknown()

/** Takes a plugin out as planned. */
export default api({ role: 'editor', params: pluginParams, body }, async ({ context, account, params, body, server }) =>
  removePlugin(context, await server(), { ...params, ...body }, account.name),
)
