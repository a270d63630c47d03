import { number, object } from 'yup'
import { undoApply } from '../../../../../services/undo'

const params = object({ id: number().integer().required() })

/** Goes back to before one change. */
export default api({ role: 'editor', params }, async ({ context, account, params: { id }, server }) =>
  undoApply(context, await server(), id, account.name),
)
