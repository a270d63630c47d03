import { object, string } from 'yup'
import { control } from '../../../services/control'
import { asStartedNow } from '../../../services/servers'

const body = object({
  action: string()
    .oneOf(['start', 'stop', 'restart'] as const)
    .required(),
})

/** Starts, stops or restarts the game server. */
export default api({ role: 'editor', body }, async ({ context, account, body: { action }, server }) => {
  const opened = await asStartedNow(context, await server())
  await control(context, opened, action, account.name)
  return opened.console.state
})
