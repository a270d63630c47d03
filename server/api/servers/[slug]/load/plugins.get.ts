import { number, object } from 'yup'
import { pluginLoads } from '../../../../services/load'

const query = object({ before: number().integer().min(0).max(99_999_999_999).nullable().default(null) })

/** What plugins take of each tick: by now, and before something was done. */
export default api({ role: 'viewer', query }, async ({ context, query: { before }, server }) =>
  pluginLoads(context, await server(), before),
)
