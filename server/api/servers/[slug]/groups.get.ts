import { object, string } from 'yup'
import { groupsOf } from '../../../services/entries'

const query = object({ path: string().required() })

/** Where in a file entries can be copied to. */
export default api({ role: 'viewer', query }, async ({ context, query: { path }, server }) => groupsOf(context, await server(), path))
