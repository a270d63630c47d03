import { createEventStream } from 'h3'
import type { NumberedLine, ServerState } from '../../../adapters/server-process'

/** State and console lines as they come (server-sent events). */
export default api({ role: 'viewer' }, async ({ event, server }) => {
  const { process } = await server()
  const stream = createEventStream(event)
  const send = (name: string, data: unknown): void => void stream.push({ event: name, data: JSON.stringify(data) })
  const onLine = (line: NumberedLine): void => send('line', line)
  const onState = (state: ServerState): void => send('state', state)
  process.events.on('line', onLine)
  process.events.on('state', onState)
  stream.onClosed(async () => {
    process.events.off('line', onLine)
    process.events.off('state', onState)
    await stream.close()
  })
  send('state', process.current)
  send('lines', process.since(Math.max(0, process.lastSeq - 400)))
  return stream.send()
})
