import { tasksOf } from '../../../../services/tasks'

/** What the plugins of a server leave to people. */
export default api({ role: 'viewer' }, async ({ context, server }) => tasksOf(context, await server()))
