import { findingsOf } from '../../../services/findings'

/** Everything that is wrong on the server, drafts in their places, with line and column, and what was set aside. */
export default api({ role: 'viewer' }, async ({ context, server }) => findingsOf(context, await server()))
