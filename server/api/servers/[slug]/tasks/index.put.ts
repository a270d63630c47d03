import { boolean, object, string } from 'yup'
import { tickTask } from '../../../../services/tasks'

const body = object({ plugin: string().required(), task: string().required(), done: boolean().required() }).noUnknown()

/** Ticks one off, or says that it is open after all. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  tickTask(context, await server(), body, account.name),
)
