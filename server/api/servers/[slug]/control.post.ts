import { object, string } from 'yup'
import { CONTROL_ACTIONS, control } from '../../../services/control'
import { asStartedNow } from '../../../services/servers'

const body = object({
  action: string().oneOf(CONTROL_ACTIONS).required(),
})

/** Starts, stops or restarts the game server, or ends one that does not stop. */
export default api({ role: 'editor', body }, async ({ context, account, body: { action }, server }) => {
  const opened = await asStartedNow(context, await server())
  await control(context, opened, action, account.name)
  return opened.console.state
})
