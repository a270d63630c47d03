import { planFor } from '../../../../services/pantry'

/** What installing a package would do. */
export default api({ role: 'viewer' }, async ({ context, number, server }) => planFor(context, await server(), number('package')))
