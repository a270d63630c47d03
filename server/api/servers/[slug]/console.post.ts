import { object, string } from 'yup'

const body = object({ line: string().required().max(2000) })

/** Sends one line to the server's console. */
export default api({ role: 'editor', body }, async ({ context, account, body: { line }, server }) => {
  const { row, console } = await server()
  console.send(line)
  await context.record.add({ at: context.now().toISOString(), account: account.name, serverId: row.id, action: 'console', detail: line })
  return { ok: true }
})
