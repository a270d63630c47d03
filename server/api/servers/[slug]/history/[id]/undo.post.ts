import { undoApply } from '../../../../../services/apply'

/** Goes back to before one change. */
export default api({ role: 'editor' }, async ({ context, account, number, server }) =>
  undoApply(context, await server(), number('id'), account.name),
)
