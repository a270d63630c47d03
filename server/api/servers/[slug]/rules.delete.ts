import { object, string } from 'yup'
import { dropRule } from '../../../services/rules'

const query = object({ path: string().required(), pointer: string().required() })

/** Takes back what somebody said a setting is. */
export default api({ role: 'editor', query }, async ({ context, account, query: { path, pointer }, server }) => {
  await dropRule(context, await server(), path, pointer, account.name)
  return { done: true }
})
