import { object, string } from 'yup'
import { getFamily } from '../../../services/families'

const params = object({ id: string().required() })

/** One description, with its YAML. */
export default api({ role: 'viewer', params }, async ({ context, params: { id } }) => getFamily(context, id))
