import { object } from 'yup'
import { planRemoval } from '../../../../../services/removing'

const query = object({ settings: keepShape })

/** What removing a plugin would do. */
export default api({ role: 'viewer', params: pluginParams, query }, async ({ context, params, query, server }) =>
  planRemoval(context, await server(), params.plugin, query.settings),
)
