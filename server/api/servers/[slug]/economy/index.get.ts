import { economyOf } from '../../../../services/economy'

/** What moves money on the server, as the drafts have it, as it stands, and as updates would have it. */
export default api({ role: 'viewer' }, async ({ context, server }) => economyOf(context, await server()))
