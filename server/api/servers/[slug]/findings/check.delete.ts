import { endCheck } from '../../../../services/findings'

/** Ends a check that goes on. What was found so far stays known. */
export default api({ role: 'editor' }, async ({ server }) => ({ ended: endCheck(await server()) }))
