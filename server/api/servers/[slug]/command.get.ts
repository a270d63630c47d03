import { commandOf } from '../../../services/servers'

/** How a server is started. For the owner alone: arguments may hold what others need not know. */
export default api({ role: 'owner' }, async ({ server }) => ({ command: commandOf(await server()) }))
