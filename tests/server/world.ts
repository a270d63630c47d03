import { execFileSync } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import pino from 'pino'
import { openDatabase } from '../../server/db/connection'
import { createContext, requireServer, type Context, type Server } from '../../server/services/context'

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
  close(): Promise<void>
}

/** A server folder, a database and a data folder of their own, as the product has them. */
export async function makeWorld(): Promise<World> {
  if (!existsSync(built('demo.mjs'))) throw new Error('the stand-ins are not built; run "npm run build:packages"')
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-world-'))
  execFileSync(process.execPath, [built('demo.mjs'), folder])
  cpSync(join(folder, 'site/purse-1.8.pack'), join(folder, 'servers/lantern-row/extras/Purse.pack'))
  const db = await openDatabase(join(folder, 'data'))
  const context = createContext(db, pino({ level: 'silent' }), () => new Date('2026-11-23T12:00:00Z'), [])
  await context.servers.saveFamily(readFileSync(join(root, 'families/archive.yml'), 'utf8'))
  for (const [name, role] of [
    ['maren', 'owner'],
    ['tobiah', 'editor'],
    ['isolde', 'viewer'],
  ] as const)
    await context.accounts.ensure(name, role)
  await context.servers.add({
    slug: 'lantern-row',
    familyId: 'archive',
    folder: join(folder, 'servers/lantern-row'),
    command: [process.execPath, built('server.mjs')],
  })
  const path = (name: string): string => join(folder, 'servers/lantern-row', name)
  return {
    folder,
    context,
    path,
    server: () => requireServer(context, 'lantern-row'),
    read: (name) => readFileSync(path(name), 'utf8'),
    pack: (name) => readFileSync(join(folder, 'site', `${name}.pack`)),
    async close() {
      for (const running of context.running.values()) await running.stop()
      await db.destroy()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
