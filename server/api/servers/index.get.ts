import { listServers } from '../../services/servers'

/** The servers, with how they are right now. */
export default api({ role: 'viewer' }, async ({ context }) => listServers(context))
