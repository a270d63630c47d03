import type { Knex } from 'knex'
import type { Logger } from 'pino'
import { openConsole, type Console } from '../consoles'
import { AccountRepository } from '../db/repositories/accounts'
import { ApplyRepository } from '../db/repositories/applies'
import { AttemptRepository } from '../db/repositories/attempts'
import { BlobRepository } from '../db/repositories/blobs'
import { DraftRepository } from '../db/repositories/drafts'
import { FactoryRepository } from '../db/repositories/factory'
import { InvitationRepository } from '../db/repositories/invitations'
import { PackageRepository } from '../db/repositories/packages'
import { RecordRepository } from '../db/repositories/record'
import { ServerRepository, type ServerRow } from '../db/repositories/servers'
import { SecretBox } from '../db/secrets'
import { openPlace, type Place } from '../places'
import type { Family } from '@pasticcio/core'
import { notFound } from './errors'
import { Inventory } from './inventory'
import { OpenStreams } from './open-streams'
import { ChangesCache } from './tray'
import { Tries } from './tries'
import { WorkspaceCache } from './workspace'

/** What services work with; tests make their own. */
export interface Context {
  readonly db: Knex
  readonly log: Logger
  readonly now: () => Date
  readonly accounts: AccountRepository
  readonly applies: ApplyRepository
  readonly attempts: AttemptRepository
  readonly blobs: BlobRepository
  readonly drafts: DraftRepository
  readonly factory: FactoryRepository
  readonly invitations: InvitationRepository
  readonly packages: PackageRepository
  readonly record: RecordRepository
  readonly servers: ServerRepository
  /** Accounts that a link signs in, and what the links are made from. */
  readonly signInLinks: SignInLinks
  /** Addresses packages may be fetched from. */
  readonly sites: readonly string[]
  /** Connections that stay open, which end with the session they belong to. */
  readonly streams: OpenStreams
  /** Servers that are started once to see whether that works. */
  readonly tries: Tries
  /** Servers that were opened, by number. */
  readonly opened: Map<number, Promise<Server>>
  /** Servers that something is being written to. */
  readonly locks: Set<number>
}

/** The demo's accounts have links instead of passwords; elsewhere there are none. */
export interface SignInLinks {
  readonly secret: string
  readonly accounts: readonly string[]
}

export interface ContextOptions {
  readonly db: Knex
  readonly log: Logger
  readonly now: () => Date
  /** The installation's secret, which what is kept encrypted is encrypted with. */
  readonly secret: string
  readonly sites: readonly string[]
  /** Names of accounts that links sign in. */
  readonly linked?: readonly string[]
}

export function createContext({ db, log, now, secret, sites, linked = [] }: ContextOptions): Context {
  return {
    db,
    log,
    now,
    sites,
    signInLinks: { secret, accounts: linked },
    opened: new Map(),
    locks: new Set(),
    accounts: new AccountRepository(db),
    applies: new ApplyRepository(db),
    attempts: new AttemptRepository(db),
    streams: new OpenStreams(),
    tries: new Tries(),
    blobs: new BlobRepository(db),
    drafts: new DraftRepository(db),
    factory: new FactoryRepository(db),
    invitations: new InvitationRepository(db),
    packages: new PackageRepository(db),
    record: new RecordRepository(db),
    servers: new ServerRepository(db, new SecretBox(secret)),
  }
}

/** A server with everything needed to work on it; one for all requests. */
export interface Server {
  readonly row: ServerRow
  readonly family: Family
  readonly place: Place
  readonly console: Console
  readonly inventory: Inventory
  readonly workspace: WorkspaceCache
  readonly changes: ChangesCache
  /** Whether what was interrupted has been settled since Pasticcio started. */
  settled: Promise<void> | null
}

/** @throws ServiceError `not-found` */
export async function requireServer(context: Context, slug: string): Promise<Server> {
  const row = await context.servers.get(slug)
  if (!row) throw notFound(`server ${slug}`)
  return openServer(context, row)
}

/** Opens a server at its first use. Opening touches neither its files nor its console. */
export function openServer(context: Context, row: ServerRow): Promise<Server> {
  let opened = context.opened.get(row.id)
  if (!opened) {
    opened = open(context, row)
    context.opened.set(row.id, opened)
    // what cannot be opened is tried again the next time
    opened.catch(() => context.opened.delete(row.id))
  }
  return opened
}

async function open(context: Context, row: ServerRow): Promise<Server> {
  const family = await context.servers.requireFamily(row.familyId)
  const place = openPlace(row.connection.place)
  const console = openConsole(row.connection.console, family)
  const inventory = new Inventory(context, row, family, place)
  // plugins write files of their own when they start
  console.listen({ line: (line) => line.event && ['ready', 'generated'].includes(line.event.type) && inventory.forget() })
  return { row, family, place, console, inventory, workspace: new WorkspaceCache(), changes: new ChangesCache(), settled: null }
}

/** Closes all servers, as when Pasticcio stops. */
export async function closeServers(context: Context): Promise<void> {
  await context.tries.close()
  const servers = await Promise.allSettled(context.opened.values())
  context.opened.clear()
  for (const server of servers) {
    if (server.status !== 'fulfilled') continue
    await server.value.console.close().catch((error: unknown) => context.log.warn({ error }, 'the console did not close'))
    await server.value.place.close().catch((error: unknown) => context.log.warn({ error }, 'the place did not close'))
  }
}
