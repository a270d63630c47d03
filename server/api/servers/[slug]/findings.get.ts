import { object, string } from 'yup'
import { findingsOf } from '../../../services/findings'

const query = object({ path: string().max(1000) }).noUnknown()

/** Everything that is wrong on the server, or in one of its files, drafts in their places, and what was set aside. */
export default api({ role: 'viewer', query }, async ({ context, query: { path }, server }) => findingsOf(context, await server(), path))
