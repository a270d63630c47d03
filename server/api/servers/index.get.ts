import { openServer } from '../../services/context'

/** The servers, with how they are right now. One that cannot be opened is listed as failed. */
export default api({ role: 'viewer' }, async ({ context }) =>
  Promise.all(
    (await context.servers.list()).map(async (row) => {
      const opened = await openServer(context, row).catch(() => null)
      return { slug: row.slug, ...(opened?.console.state ?? { status: 'failed' as const, players: null, ticks: null }) }
    }),
  ),
)
