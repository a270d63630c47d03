import { object, string } from 'yup'
import { referencesTo } from '../../../services/entries'

const query = object({ path: string().required(), pointer: string().required() })

/** What refers to an entry, in all files of the server. */
export default api({ role: 'viewer', query }, async ({ context, query: { path, pointer }, server }) =>
  referencesTo(context, await server(), path, pointer),
)
