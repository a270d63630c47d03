import { economyReckoned } from '../../../../services/economy'

/** What the numbers of all plugins come to: flow, prices, loops, chances, bundles; as docs/economy.md says. */
export default api({ role: 'viewer' }, async ({ context, server }) => economyReckoned(context, await server()))
