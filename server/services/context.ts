import type { Knex } from 'knex'
import type { Logger } from 'pino'
import { LocalFiles } from '../adapters/local-files'
import { ServerProcess } from '../adapters/server-process'
import { AccountRepository } from '../db/repositories/accounts'
import { ApplyRepository } from '../db/repositories/applies'
import { BlobRepository } from '../db/repositories/blobs'
import { DraftRepository } from '../db/repositories/drafts'
import { FactoryRepository } from '../db/repositories/factory'
import { PackageRepository } from '../db/repositories/packages'
import { RecordRepository } from '../db/repositories/record'
import { ServerRepository, type ServerRow } from '../db/repositories/servers'
import type { Family } from '@pasticcio/core'
import { notFound } from './errors'

/** What services work with; tests make their own. */
export interface Context {
  readonly db: Knex
  readonly log: Logger
  readonly now: () => Date
  readonly accounts: AccountRepository
  readonly applies: ApplyRepository
  readonly blobs: BlobRepository
  readonly drafts: DraftRepository
  readonly factory: FactoryRepository
  readonly packages: PackageRepository
  readonly record: RecordRepository
  readonly servers: ServerRepository
  /** Addresses packages may be fetched from. */
  readonly sites: readonly string[]
  readonly running: Map<number, ServerProcess>
  /** Servers that something is being written to. */
  readonly locks: Set<number>
}

export function createContext(db: Knex, log: Logger, now: () => Date, sites: readonly string[]): Context {
  return {
    db,
    log,
    now,
    sites,
    running: new Map(),
    locks: new Set(),
    accounts: new AccountRepository(db),
    applies: new ApplyRepository(db),
    blobs: new BlobRepository(db),
    drafts: new DraftRepository(db),
    factory: new FactoryRepository(db),
    packages: new PackageRepository(db),
    record: new RecordRepository(db),
    servers: new ServerRepository(db),
  }
}

/** A server with everything needed to work on it. */
export interface Server {
  readonly row: ServerRow
  readonly family: Family
  readonly files: LocalFiles
  readonly process: ServerProcess
}

/** @throws ServiceError `not-found` */
export async function requireServer(context: Context, slug: string): Promise<Server> {
  const row = await context.servers.get(slug)
  if (!row) throw notFound(`server ${slug}`)
  return openServer(context, row)
}

export async function openServer(context: Context, row: ServerRow): Promise<Server> {
  const family = await context.servers.requireFamily(row.familyId)
  let process = context.running.get(row.id)
  if (!process) {
    process = new ServerProcess(family, row.folder, row.command)
    context.running.set(row.id, process)
  }
  return { row, family, files: new LocalFiles(row.folder), process }
}
