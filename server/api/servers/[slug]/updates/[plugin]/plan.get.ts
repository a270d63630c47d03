import { number, object, string } from 'yup'
import { shownUpdate } from '../../../../../services/shown-update'

const params = object({ plugin: string().required() })
const query = object({ package: number().integer().required() })

/** What an update would make of the settings. */
export default api({ role: 'viewer', params, query }, async ({ context, params: { plugin }, query, server }) =>
  shownUpdate(context, await server(), plugin, query.package),
)
