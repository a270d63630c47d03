import { hashOf } from '../../../db/repositories/blobs'

/** State and console lines as they come (server-sent events), for as long as the session lasts. */
export default api({ role: 'viewer' }, async ({ event, context, account, server }) => {
  const { feed, row } = await server()
  const { res } = event.node
  const session = hashOf(sessionOf(event) ?? '')
  const forget = context.streams.add({ accountId: account.id, session, serverId: row.id, close: () => void res.end() })
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
  const stop = feed.subscribe({ write: (text) => void res.write(text), backlog: () => res.writableLength })
  await new Promise<void>((resolve) => res.once('close', resolve))
  stop()
  forget()
})
