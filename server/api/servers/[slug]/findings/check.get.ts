import { progressOf } from '../../../../services/findings'

/** How far a check is that goes on: `{ progress: { done, total } }`, with null where none does. */
export default api({ role: 'viewer' }, async ({ server }) => ({ progress: progressOf(await server()) }))
