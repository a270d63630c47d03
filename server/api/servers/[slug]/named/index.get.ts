import { object, string } from 'yup'
import { namedFiles } from '../../../../services/named-files'

const query = object({ path: string().required(), pointer: string().defined() })

/** The files that a setting may name, with the folder they lie in. */
export default api({ role: 'viewer', query }, async ({ context, query, server }) => namedFiles(context, await server(), query))
