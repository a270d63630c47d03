import { openServer } from '../../services/context'

/** The servers, with how they are right now. */
export default api({ role: 'viewer' }, async ({ context }) =>
  Promise.all((await context.servers.list()).map(async (row) => ({ slug: row.slug, ...(await openServer(context, row)).process.current }))),
)
