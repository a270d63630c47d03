import { object, string } from 'yup'
import { detach } from '../../../../services/rule-sheets'

const query = object({ path: string().max(1000).required('path is missing') }).noUnknown()

/** Takes the description of a settings file away. */
export default api({ role: 'editor', query }, async ({ context, account, query: { path }, server }) => {
  await detach(context, await server(), path, account.name)
  return { done: true }
})
