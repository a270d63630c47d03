import { closeServers, requireServer, type Context } from '../services/context'
import { control } from '../services/control'
import { inviteOwner, isSetUp } from '../services/people'
import { settle } from '../services/recovery'
import { clearStorage } from '../services/storage'
import { releaseData, useContext } from '../utils/app-context'
import { strangeVariables, useEnvironment, type Environment } from '../utils/environment'

/** At start: the environment must be right, families and accounts are kept, and the demo is set up where it was asked for. */
export default defineNitroPlugin((nitro) => {
  const done = start().catch((error: unknown) => {
    process.stderr.write(`Pasticcio cannot start: ${(error as Error).message}\n`)
    process.exit(1)
  })
  // a stop waits for answers under way, and streams never end by themselves
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void useContext().then(({ streams }) => streams.endAll()))
  nitro.hooks.hook('close', async () => {
    await done
    const context = await useContext()
    await closeServers(context)
    clearInterval(clearing)
    await context.db.destroy()
    releaseData()
  })
})

const HOUR_MS = 3_600_000
let clearing: NodeJS.Timeout | undefined

/** What is of no use any more is taken away once an hour, and at the start. */
function keepClear(context: Context): void {
  const clear = (): void =>
    void clearStorage(context).catch((error: unknown) => context.log.error({ error }, 'what is of no use was not cleared away'))
  clearing = setInterval(clear, HOUR_MS).unref()
  clear()
}

const warn = (text: string): void => void process.stderr.write(`Pasticcio: ${text}\n`)

async function start(): Promise<void> {
  const environment = useEnvironment()
  for (const name of strangeVariables()) warn(`${name} is set and is no setting of Pasticcio's; it changes nothing.`)
  const context = await useContext()
  const families = useStorage('assets:families')
  for (const key of await families.getKeys()) await context.families.ship(String(await families.getItem(key)))
  for (const { name, role } of environment.PASTICCIO_ACCOUNTS) {
    await context.accounts.ensure(name, role)
    const kept = (await context.accounts.get(name))!.role
    if (kept !== role) warn(`PASTICCIO_ACCOUNTS has ${name} as ${role}, who is ${kept} here and stays so. Change it on the page People.`)
  }
  await printOwnerLink(context, environment)
  await addServer(context, environment)
  keepClear(context)
  // one server that cannot be reached keeps nobody else waiting: it is settled before its next change
  for (const row of await context.servers.list()) {
    const starts = environment.PASTICCIO_SERVER?.slug === row.slug && environment.PASTICCIO_SERVER.start
    void look(context, row.slug, starts).catch((error: unknown) =>
      context.log.error({ error, server: row.slug }, 'the server was not looked at'),
    )
  }
}

/** Where nobody can sign in yet, a link creates the owner; it is printed once, and works once. */
async function printOwnerLink(context: Context, environment: Environment): Promise<void> {
  const isNew = !(await isSetUp(context))
  if (!isNew && !environment.PASTICCIO_OWNER_LINK) return
  const port = process.env['NITRO_PORT'] || process.env['PORT'] || '3000'
  const origin = environment.PASTICCIO_ORIGIN ?? `http://localhost:${port}`
  const what = isNew ? 'Nobody has an account yet. This link creates the owner' : 'This link creates another owner'
  process.stdout.write(`\n${what}. It works once, within a day:\n\n  ${origin}/join#${await inviteOwner(context)}\n\n`)
}

async function addServer(context: Context, { PASTICCIO_SERVER: setup }: Environment): Promise<void> {
  if (!setup) return
  const { slug, familyId, folder, command } = setup
  const connection = { place: { type: 'local', folder }, console: { type: 'process', folder, command } }
  const kept = await context.servers.get(slug)
  if (!kept) return context.servers.add({ slug, familyId, connection })
  const isSame = kept.familyId === familyId && JSON.stringify(kept.connection) === JSON.stringify(connection)
  if (!isSame)
    warn(
      `PASTICCIO_SERVER says otherwise of ${slug} than what is kept, and what is kept stays. Change it on its page, or forget the server there.`,
    )
}

/** Settles what was interrupted on a server, remembers what lies there, and starts it where that was asked for. */
async function look(context: Context, slug: string, starts: boolean): Promise<void> {
  const server = await requireServer(context, slug)
  await server.console.lifecycle?.look()
  await server.work.run('settle', 'Pasticcio', async () => {
    await settle(context, server)
    await server.inventory.remember()
  })
  if (starts && server.console.state.status === 'stopped') await control(context, server, 'start', 'Pasticcio')
}
