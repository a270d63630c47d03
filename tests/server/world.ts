import { execFileSync } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import pino from 'pino'
import type { ApplyRow } from '../../server/db/repositories/applies'
import type { PackageRow } from '../../server/db/repositories/packages'
import type { Connection } from '../../server/db/repositories/servers'
import type { SiteRow } from '../../server/db/repositories/sites'
import { databaseFile, openDatabase } from '../../server/db/connection'
import { saveDraft } from '../../server/services/drafts'
import { addPackages } from '../../server/services/pantry'
import { install, planPlacing, type PlacingPlan } from '../../server/services/placing'
import { viewFile } from '../../server/services/settings'
import { applyTray, listTray } from '../../server/services/tray'
import { applyUpdate, planUpdate, type UpdatePlan } from '../../server/services/updates'
import { closeServers, createContext, requireServer, type Context, type ContextOptions, type Server } from '../../server/services/context'

const root = join(dirname(fileURLToPath(import.meta.url)), '../..')
const built = (name: string): string => join(root, 'packages/standin/dist', name)

export interface World {
  readonly folder: string
  readonly context: Context
  /** Opens the server as a request would. */
  server(): Promise<Server>
  path(name: string): string
  read(name: string): string
  pack(name: string): Buffer
  /** Ends it as Pasticcio does when it stops; its folder stays. */
  leave(): Promise<void>
  /** Ends it, and takes its folder away. */
  close(): Promise<void>
}

export interface WorldOptions {
  /** Changes the text of the family before it is kept. */
  readonly family?: (text: string) => string
  /** What time it is. */
  readonly now?: () => Date
  /** Another kind of place for the same folder. */
  readonly place?: string
  readonly context?: Partial<ContextOptions>
  /** Another command to start the server with. */
  readonly command?: readonly string[]
}

/** A package with some of its files changed, or others beside them; null takes one away. */
export function repacked(pack: Uint8Array, change: (files: Record<string, string>) => Record<string, string | Uint8Array>): Buffer {
  const texts = Object.fromEntries(Object.entries(unzipSync(pack)).map(([name, bytes]) => [name, strFromU8(bytes)]))
  const files = Object.entries(change(texts)).map(([name, content]) => [name, typeof content === 'string' ? strToU8(content) : content])
  return Buffer.from(zipSync(Object.fromEntries(files) as Record<string, Uint8Array>, { level: 0 }))
}

let bare = ''

/** The demo's bare servers and its plugin site, built once for all worlds of these tests. */
function bareDemo(): string {
  if (bare === '') {
    bare = mkdtempSync(join(tmpdir(), 'pasticcio-bare-'))
    execFileSync(process.execPath, [built('demo.mjs'), bare, 'bare'])
    process.once('exit', () => rmSync(bare, { recursive: true, force: true }))
  }
  return bare
}

/** A server folder, a database and a data folder of their own, as the product has them. */
export async function makeWorld(options: WorldOptions = {}): Promise<World> {
  if (!existsSync(built('demo.mjs'))) throw new Error('the stand-ins are not built; run "npm run build:packages"')
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-world-'))
  cpSync(bareDemo(), folder, { recursive: true })
  cpSync(join(folder, 'site/purse-1.8.pack'), join(folder, 'servers/lantern-row/extras/Purse.pack'))
  const world = await openWorld(folder, options)
  const { context } = world
  await context.families.ship((options.family ?? ((text) => text))(readFileSync(join(root, 'families/archive.yml'), 'utf8')))
  for (const [name, role] of [
    ['maren', 'owner'],
    ['tobiah', 'editor'],
    ['isolde', 'viewer'],
  ] as const)
    await context.accounts.ensure(name, role)
  await context.servers.add({ slug: 'lantern-row', familyId: 'archive', connection: connectionIn(folder, options) })
  return world
}

/** How the server in a world's folder is reached. */
export function connectionIn(folder: string, options: Pick<WorldOptions, 'place' | 'command'> = {}): Connection {
  const home = join(folder, 'servers/lantern-row')
  return {
    place: { type: options.place ?? 'local', folder: home },
    console: { type: 'process', folder: home, command: options.command ?? [process.execPath, built('server.mjs')] },
  }
}

/** A world that was made before, as Pasticcio has it when it is started again. */
export async function openWorld(folder: string, options: WorldOptions = {}): Promise<World> {
  const db = await openDatabase(join(folder, 'data'))
  const context = createContext({
    db,
    log: pino({ level: 'silent' }),
    now: options.now ?? (() => new Date('2026-11-23T12:00:00Z')),
    secret: 'a secret of sixteen',
    sites: [],
    linked: ['maren', 'tobiah', 'isolde'],
    commands: { kind: 'any' },
    scratch: mkdtempSync(join(folder, 'incoming-')),
    databaseFile: databaseFile(join(folder, 'data')),
    unpackThread: async () => readFileSync(join(root, 'packages/unpack/dist/thread.cjs'), 'utf8'),
    checkThread: async () => readFileSync(join(root, 'packages/check/dist/check-thread.cjs'), 'utf8'),
    ...options.context,
  })
  const path = (name: string): string => join(folder, 'servers/lantern-row', name)
  const leave = async (): Promise<void> => {
    await closeServers(context)
    await db.destroy()
  }
  return {
    folder,
    context,
    path,
    server: () => requireServer(context, 'lantern-row'),
    read: (name) => readFileSync(path(name), 'utf8'),
    pack: (name) => readFileSync(join(folder, 'site', `${name}.pack`)),
    leave,
    async close() {
      await leave()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Saves a draft as somebody who has just opened the file. */
export async function draft(world: World, path: string, change: (text: string) => string, account = 'tobiah'): Promise<string | null> {
  const server = await world.server()
  const view = await viewFile(world.context, server, path)
  const baseSha = view.draft?.baseSha ?? view.sha
  const text = change(view.draft?.text ?? view.text)
  return (await saveDraft(world.context, server, { path, text, baseSha, draftSha: view.draft?.sha ?? null }, account)).draftSha
}

/** Applies all that is staged, as somebody who has just looked at it. */
export async function applyAll(world: World, account = 'tobiah'): Promise<ApplyRow> {
  const server = await world.server()
  return applyTray(world.context, server, await listTray(world.context, server), account)
}

/** Applies an update as it is planned right now. */
export async function updateAll(world: World, plugin: string, packageId: number, account: string): Promise<ApplyRow> {
  const server = await world.server()
  const { sha } = await planUpdate(world.context, server, plugin, packageId)
  return applyUpdate(world.context, server, plugin, { packageId, planSha: sha }, account)
}

/** Plugin sites at some addresses, which may be on this machine. */
export const sitesAt =
  (...addresses: readonly string[]) =>
  async (): Promise<SiteRow[]> =>
    addresses.map((address) => ({ id: null, address, mayBePrivate: true, addedBy: '' }))

/** Puts a package into the pantry that is the only one of its download. */
export async function addPackage(...args: Parameters<typeof addPackages>): Promise<PackageRow> {
  return (await addPackages(...args))[0]!
}

/** What installing one package of the pantry means. */
export const planFor = (context: Context, server: Server, id: number): Promise<PlacingPlan> =>
  planPlacing(context, server, { packages: [id] })

/** Installs one package of the pantry as it is planned right now. */
export async function installOne(context: Context, server: Server, id: number, account: string): Promise<ApplyRow> {
  const { sha } = await planFor(context, server, id)
  return install(context, server, { packages: [id], planSha: sha }, account)
}

/** Carries out an update as it is planned right now; gives the plan, too. */
export async function updateOf(
  context: Context,
  server: Server,
  plugin: string,
  packageId: number,
): Promise<{ update: UpdatePlan; result: ApplyRow }> {
  const update = await planUpdate(context, server, plugin, packageId)
  const result = await applyUpdate(context, server, plugin, { packageId, planSha: update.sha }, 'maren')
  return { update, result }
}
