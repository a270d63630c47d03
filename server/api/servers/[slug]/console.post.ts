import { object, string } from 'yup'
import { note } from '../../../services/note'

const body = object({ line: string().required().max(2000) })

/** Sends one line to the server's console. */
export default api({ role: 'editor', body }, async ({ context, account, body: { line }, server }) => {
  const opened = await server()
  opened.console.send(line)
  await note(context, account.name, 'console', line, opened)
  return { ok: true }
})
