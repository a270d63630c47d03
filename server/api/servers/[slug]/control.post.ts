import { object, string } from 'yup'
import { restartServer, startServer, stopServer } from '../../../services/control'

const body = object({
  action: string()
    .oneOf(['start', 'stop', 'restart'] as const)
    .required(),
})

/** Starts, stops or restarts the game server. */
export default api({ role: 'editor', body }, async ({ context, account, body: { action }, server }) => {
  const opened = await server()
  await context.record.add({ at: context.now().toISOString(), account: account.name, serverId: opened.row.id, action, detail: '' })
  if (action === 'start') await startServer(context, opened)
  else if (action === 'stop') await stopServer(opened)
  else await restartServer(context, opened)
  return opened.console.state
})
