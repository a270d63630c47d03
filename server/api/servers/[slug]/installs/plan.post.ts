import { planPlacing } from '../../../../services/placing'

/** What installing packages would do; nothing is written. */
export default api({ role: 'viewer', body: placingShape }, async ({ context, body, server }) => planPlacing(context, await server(), body))
