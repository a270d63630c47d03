import { economyOfUpdates } from '../../../../services/economy'

/** What would move money after all updates that are here; `part` is null where there are none of it. */
export default api({ role: 'viewer' }, async ({ context, server }) => ({ part: await economyOfUpdates(context, await server()) }))
