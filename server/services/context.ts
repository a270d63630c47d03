import { Checkers } from '@pasticcio/check'
import type { Knex } from 'knex'
import type { Logger } from 'pino'
import { openConsole, type Console } from '../consoles'
import { AccountRepository } from '../db/repositories/accounts'
import { ApplyRepository } from '../db/repositories/applies'
import { AsideRepository } from '../db/repositories/asides'
import { AttemptRepository } from '../db/repositories/attempts'
import { BlobRepository } from '../db/repositories/blobs'
import { CommandRepository } from '../db/repositories/commands'
import { AssumptionRepository } from '../db/repositories/assumptions'
import { DraftRepository } from '../db/repositories/drafts'
import { FactoryRepository } from '../db/repositories/factory'
import { FamilyRepository } from '../db/repositories/families'
import { InvitationRepository } from '../db/repositories/invitations'
import { PackageRepository } from '../db/repositories/packages'
import { RecordRepository } from '../db/repositories/record'
import { RewriteRepository } from '../db/repositories/rewrites'
import { RuleRepository } from '../db/repositories/rules'
import { SampleRepository } from '../db/repositories/samples'
import { ServerRepository, type ServerRow } from '../db/repositories/servers'
import { SiteRepository } from '../db/repositories/sites'
import { TaskRepository } from '../db/repositories/tasks'
import { SecretBox } from '../db/secrets'
import { openPlace, type Place } from '../places'
import type { Family } from '@pasticcio/core'
import type { CommandPolicy } from './commands'
import { ConsoleFeed } from './console-feed'
import { Downloads } from './downloads'
import { followFiles } from './drafts'
import { watchFiles } from './file-watch'
import { notFound } from './errors'
import { Inventory } from './inventory'
import { KnowledgeCache } from './knowledge'
import { PackageListings } from './package-contents'
import { OpenStreams } from './open-streams'
import { commandIn, familyIn } from './profiles'
import { PluginRuns } from './runs'
import { LoadSampler } from './sampler'
import { sitesOf } from './plugin-sites'
import { SiteOffers } from './sites'
import { ChangesCache } from './tray'
import { Tries } from './tries'
import { Turns } from './turns'
import { Unpacker } from './unpacker'
import { ServerWork } from './work'
import { WorkspaceCache } from './workspace'

/** What services work with; tests make their own. */
export interface Context {
  readonly db: Knex
  readonly log: Logger
  readonly now: () => Date
  readonly accounts: AccountRepository
  readonly applies: ApplyRepository
  /** Findings that somebody set aside. */
  readonly asides: AsideRepository
  readonly attempts: AttemptRepository
  readonly blobs: BlobRepository
  readonly assumptions: AssumptionRepository
  readonly drafts: DraftRepository
  /** What is said to consoles of single players. */
  readonly playerCommands: CommandRepository
  readonly factory: FactoryRepository
  readonly families: FamilyRepository
  readonly invitations: InvitationRepository
  readonly packages: PackageRepository
  readonly record: RecordRepository
  readonly rewrites: RewriteRepository
  readonly rules: RuleRepository
  readonly samples: SampleRepository
  /** How often it is measured how servers run. */
  readonly sampleSeconds: number
  readonly servers: ServerRepository
  readonly tasks: TaskRepository
  /** Accounts that a link signs in, and what the links are made from. */
  readonly signInLinks: SignInLinks
  /** Plugin sites that are set up outside. */
  readonly sites: readonly string[]
  /** Those that were added here. */
  readonly siteRows: SiteRepository
  readonly downloads: Downloads
  /** Connections that stay open, which end with the session they belong to. */
  readonly streams: OpenStreams
  /** Servers that are started once to see whether that works. */
  readonly tries: Tries
  /** Servers that were opened, by number. */
  readonly opened: Map<number, Promise<Server>>
  /** Which commands may be set from the page to run on this machine. */
  readonly commands: CommandPolicy
  /** So many changes of a server are kept in its history, beside those that are pinned or current. */
  readonly keptChanges: number
  /** A folder for what is on its way in. */
  readonly scratch: string
  readonly databaseFile: string
  readonly offers: SiteOffers
  /** Packages on their way into the pantry, one after the other. */
  readonly intake: Turns
  /** Opens archives, in a thread of its own. */
  readonly unpacker: Unpacker
  /** Checks settings files, in threads of their own. */
  readonly checkers: Checkers
  readonly listings: PackageListings
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
  readonly commands?: CommandPolicy
  readonly keptChanges?: number
  readonly sampleSeconds?: number
  readonly scratch: string
  readonly databaseFile: string
  /** The program of the thread that opens archives. */
  readonly unpackThread: () => Promise<string>
  /** The program of the threads that check files. */
  readonly checkThread: () => Promise<string>
}

export function createContext(options: ContextOptions): Context {
  const { db, log, now, secret, sites, linked = [], commands = { kind: 'none' }, keptChanges = 500 } = options
  const blobs = new BlobRepository(db, now)
  const siteRows = new SiteRepository(db)
  return {
    db,
    log,
    now,
    sites,
    commands,
    keptChanges,
    scratch: options.scratch,
    databaseFile: options.databaseFile,
    siteRows,
    offers: new SiteOffers(() => sitesOf({ sites, siteRows }), log),
    downloads: new Downloads(),
    intake: new Turns(),
    signInLinks: { secret, accounts: linked },
    opened: new Map(),
    unpacker: new Unpacker(options.unpackThread),
    checkers: new Checkers(options.checkThread),
    listings: new PackageListings(),
    accounts: new AccountRepository(db),
    asides: new AsideRepository(db),
    applies: new ApplyRepository(db),
    attempts: new AttemptRepository(db),
    streams: new OpenStreams(),
    tries: new Tries(),
    blobs,
    assumptions: new AssumptionRepository(db),
    drafts: new DraftRepository(db, blobs),
    playerCommands: new CommandRepository(db),
    factory: new FactoryRepository(db),
    families: new FamilyRepository(db),
    invitations: new InvitationRepository(db),
    packages: new PackageRepository(db, blobs),
    record: new RecordRepository(db),
    rewrites: new RewriteRepository(db),
    rules: new RuleRepository(db),
    samples: new SampleRepository(db),
    sampleSeconds: options.sampleSeconds ?? 60,
    servers: new ServerRepository(db, new SecretBox(secret)),
    tasks: new TaskRepository(db),
  }
}

/** A server with everything needed to work on it; one for all requests. */
export interface Server {
  readonly row: ServerRow
  readonly family: Family
  readonly place: Place
  readonly console: Console
  readonly feed: ConsoleFeed
  readonly inventory: Inventory
  readonly workspace: WorkspaceCache
  /** What is known of it beside its settings. */
  readonly knowledge: KnowledgeCache
  /** What became of its plugins since it was started. */
  readonly runs: PluginRuns
  readonly sampler: LoadSampler
  readonly changes: ChangesCache
  readonly work: ServerWork
  /** Whether what was interrupted has been settled since Pasticcio started. */
  settled: Promise<void> | null
}

/** @throws ServiceError `not-found` */
export async function requireServer(context: Context, slug: string): Promise<Server> {
  const row = await context.servers.get(slug)
  if (!row) throw notFound(`server ${slug}`)
  return openServer(context, row)
}

/** Opens a server at its first use. Opening touches neither its console nor, but for scripts that start it, its files. */
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
  const place = openPlace(row.connection.place)
  const family = await familyIn(await context.families.require(row.familyId), place, commandIn(row.connection) ?? [])
  const console = openConsole(row.connection.console, family)
  const inventory = new Inventory(context, row, family, place)
  // plugins write files of their own when they start
  console.listen({ line: (line) => line.event && ['ready', 'generated'].includes(line.event.type) && inventory.forget() })
  const opened: Server = {
    row,
    family,
    place,
    console,
    feed: new ConsoleFeed(console, (tell) => followWrites(context, opened, tell)),
    inventory,
    workspace: new WorkspaceCache(),
    knowledge: new KnowledgeCache(),
    runs: new PluginRuns(console),
    sampler: samplerFor(context, row, console),
    changes: new ChangesCache(),
    work: new ServerWork(row.slug),
    settled: null,
  }
  return opened
}

/** While somebody looks at a server, its files are looked at, too: drafts follow what is written there, and pages hear of it. */
function followWrites(context: Context, server: Server, tell: (event: string, data: unknown) => void): () => void {
  let said = ''
  return watchFiles(server.inventory, {
    async changed(paths) {
      // what is being written here is told when it is done
      if (server.work.kind === 'write') await server.work.whenFree()
      await followFiles(context, server, paths)
      tell('files', paths)
    },
    failed(error) {
      // what is wrong again and again is said once
      if (String(error) !== said) context.log.warn({ error, server: server.row.slug }, 'the files were not looked at')
      said = String(error)
    },
  })
}

function samplerFor({ samples, sampleSeconds, now, log }: Context, { id, slug }: ServerRow, console: Console): LoadSampler {
  const failed = (error: unknown): void => log.error({ error, server: slug }, 'how it runs was not kept')
  return new LoadSampler(console, samples, { serverId: id, everySeconds: sampleSeconds, now, failed })
}

/** Closes all servers, as when Pasticcio stops. */
export async function closeServers(context: Context): Promise<void> {
  await context.tries.close()
  context.downloads.close()
  await context.unpacker.close()
  await context.checkers.close()
  const servers = await Promise.allSettled(context.opened.values())
  context.opened.clear()
  for (const server of servers) {
    if (server.status !== 'fulfilled') continue
    server.value.sampler.close()
    // what is being written is written to its end
    if (server.value.work.kind === 'write') await server.value.work.whenFree()
    await server.value.console.close().catch((error: unknown) => context.log.warn({ error }, 'the console did not close'))
    await server.value.place.close().catch((error: unknown) => context.log.warn({ error }, 'the place did not close'))
  }
}
