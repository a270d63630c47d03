import { createEventStream } from 'h3'
import { hashOf } from '../../../db/repositories/blobs'

/** State and console lines as they come (server-sent events). */
export default api({ role: 'viewer' }, async ({ event, context, account, server }) => {
  const { console } = await server()
  const stream = createEventStream(event)
  const send = (name: string, data: unknown): void => void stream.push({ event: name, data: JSON.stringify(data) })
  const stop = console.listen({ line: (line) => send('line', line), state: (state) => send('state', state) })
  const forget = context.streams.add({
    accountId: account.id,
    session: hashOf(sessionOf(event) ?? ''),
    close: () => void stream.close(),
  })
  stream.onClosed(async () => {
    stop()
    forget()
    await stream.close()
  })
  send('state', console.state)
  send('lines', console.since(Math.max(0, console.lastSeq - 400)))
  return stream.send()
})
