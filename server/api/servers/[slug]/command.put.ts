import { object } from 'yup'
import { changeCommand } from '../../../services/servers'

const body = object({ command: commandShape }).noUnknown()

/** Changes how a server is started. */
export default api({ role: 'owner', body }, async ({ context, account, body: { command }, server }) => {
  await changeCommand(context, await server(), command, account)
  return { ok: true }
})
