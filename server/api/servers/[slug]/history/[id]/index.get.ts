import { number, object } from 'yup'
import { applyDetail } from '../../../../../services/history'

const params = object({ id: number().integer().required() })

/** One change, with the files as they were and became. */
export default api({ role: 'viewer', params }, async ({ context, params: { id }, server }) => applyDetail(context, await server(), id))
