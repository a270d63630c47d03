import { number, object } from 'yup'
import { planFor } from '../../../../services/pantry'

const query = object({ package: number().integer().required() })

/** What installing a package would do. */
export default api({ role: 'viewer', query }, async ({ context, query, server }) => planFor(context, await server(), query.package))
