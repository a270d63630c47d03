import { object, string } from 'yup'
import { viewFile } from '../../../services/settings'

const query = object({ path: string().required() })

/** One settings file: what is on the server, its factory copy, the draft, and what an update would ship. */
export default api({ role: 'viewer', query }, async ({ context, query: { path }, server }) => viewFile(context, await server(), path))
