import { recoverApplies } from '../services/apply'
import { requireServer } from '../services/context'
import { useContext, requireSecret } from '../utils/app-context'

/** At start: the secret must be there, interrupted writing is settled, and the demo is set up where it was asked for. */
export default defineNitroPlugin((nitro) => {
  requireSecret()
  const done = start().catch((error: unknown) => {
    process.stderr.write(`Pasticcio cannot start: ${(error as Error).message}\n`)
    process.exit(1)
  })
  nitro.hooks.hook('close', async () => {
    await done
    const context = await useContext()
    for (const running of context.running.values()) await running.stop().catch(() => running.kill())
    await context.db.destroy()
  })
})

async function start(): Promise<void> {
  const context = await useContext()
  const families = useStorage('assets:families')
  for (const key of await families.getKeys()) await context.servers.saveFamily(String(await families.getItem(key)))
  for (const account of (process.env['PASTICCIO_ACCOUNTS'] ?? 'owner:owner').split(',')) {
    const [name, role] = account.split(':')
    if (name && (role === 'owner' || role === 'editor' || role === 'viewer')) await context.accounts.ensure(name, role)
  }
  await recoverApplies(context)
  const setup = process.env['PASTICCIO_SERVER']
  if (setup) {
    const server = JSON.parse(setup) as { slug: string; familyId: string; folder: string; command: string[]; start: boolean }
    if (!(await context.servers.get(server.slug))) await context.servers.add(server)
    if (server.start)
      void requireServer(context, server.slug)
        .then((opened) => opened.process.start())
        .catch((error: unknown) => context.log.error({ error }, 'the demo server did not start'))
  }
}
