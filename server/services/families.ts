import { ConsoleReader, FamilyError, readFamily, type Family, type FamilyFault } from '@pasticcio/core'
import type { FamilyRow } from '../db/repositories/families'
import { openServer, requireServer, type Context, type Server } from './context'
import { ServiceError, notFound } from './errors'
import { Inventory, type Installed } from './inventory'
import { note } from './note'
import { familyIn } from './profiles'
import { commandOf, letGo } from './servers'

/** A family as it stands in the list of all. */
export interface FamilySummary {
  readonly id: string
  readonly title: string
  readonly kept: Family['plugins']['kept']
  /** `shipped` as it came with Pasticcio, `changed` here since, or made here: `own`. */
  readonly state: 'shipped' | 'changed' | 'own'
  readonly servers: readonly string[]
  readonly changedBy: string
  readonly changedAt: string
}

export interface FamilyView extends FamilySummary {
  readonly text: string
  /** As it came with Pasticcio; null for one made here. */
  readonly shipped: string | null
}

export async function listFamilies(context: Context): Promise<FamilySummary[]> {
  return Promise.all((await context.families.rows()).map((row) => summary(context, row)))
}

async function summary(context: Context, { id, text, shipped, changedBy, changedAt }: FamilyRow): Promise<FamilySummary> {
  const { title, plugins } = readFamily(text)
  const state = shipped === null ? 'own' : shipped === text ? 'shipped' : 'changed'
  return { id, title, kept: plugins.kept, state, servers: await context.families.serversOf(id), changedBy, changedAt }
}

/** @throws ServiceError `not-found` */
export async function getFamily(context: Context, id: string): Promise<FamilyView> {
  const row = await context.families.get(id)
  if (!row) throw notFound(`family ${id}`)
  return { ...(await summary(context, row)), text: row.text, shipped: row.shipped }
}

/** A description as it can be used, or what is wrong in it, each with its line. @throws ServiceError `bad-family` */
export function readDescription(text: string): Family {
  try {
    return readFamily(text)
  } catch (error) {
    if (!(error instanceof FamilyError)) throw error
    const { faults } = error
    throw badFamily(faults, error)
  }
}

const badFamily = (faults: readonly FamilyFault[], cause: Error): ServiceError =>
  new ServiceError('bad-family', 422, `Line ${faults[0]!.line} of the description: ${faults[0]!.message}.`, { cause, data: { faults } })

/** Keeps a description: a new one, or one that is here in its new shape, which counts from now on. @throws ServiceError `bad-family` */
export async function saveFamily(context: Context, text: string, by: string): Promise<FamilyView> {
  const family = readDescription(text)
  await letGoOf(context, family.id)
  await context.families.save(text, by, context.now().toISOString())
  await note(context, by, 'family', family.id)
  return getFamily(context, family.id)
}

/** Takes a description away; one that came with Pasticcio becomes what it was. @throws ServiceError `in-use` */
export async function dropFamily(context: Context, id: string, by: string): Promise<void> {
  const { shipped, servers } = await getFamily(context, id)
  if (shipped === null && servers.length > 0)
    throw new ServiceError('in-use', 409, `${servers.join(', ')} is of the family ${id}, so it stays. Forget the server first.`)
  await letGoOf(context, id)
  if (shipped === null) await context.families.remove(id)
  else await context.families.save(shipped, '', '')
  await note(context, by, 'drop-family', id)
}

/** Servers of a family are opened anew with what it says by now; none may run meanwhile. */
async function letGoOf(context: Context, id: string): Promise<void> {
  const rows = (await context.servers.list()).filter(({ familyId }) => familyId === id)
  const opened: Server[] = []
  for (const row of rows) {
    const server = await openServer(context, row)
    if (!['stopped', 'failed'].includes(server.console.state.status))
      throw new ServiceError(
        'server-running',
        409,
        `${row.slug} is running by this description. Stop it first, then change the description.`,
      )
    opened.push(server)
  }
  for (const server of opened) await letGo(context, server)
}

/** What a description finds on a server. */
export interface FamilyTrial {
  readonly game: string
  readonly plugins: readonly {
    readonly name: string
    readonly version: string
    readonly folder: string
    readonly settings: number
    readonly records: number
    readonly isOff: boolean
  }[]
  /** Files that look like packages and are none, by this description. */
  readonly strangers: readonly string[]
  /** How many of the console's last lines mean something, by what they mean. */
  readonly lines: Readonly<Record<string, number>>
  /** Some of those that mean nothing. */
  readonly unread: readonly string[]
}

const MOST_LINES = 400
const MOST_UNREAD = 40

/** Tries a description against a server of ours, by its files and the last lines of its console. Nothing is kept. */
export async function tryFamily(context: Context, text: string, slug: string): Promise<FamilyTrial> {
  const server = await requireServer(context, slug)
  const family = await familyIn(readDescription(text), server.place, commandOf(server) ?? [])
  // an inventory of nobody's: it reads, and nothing remembers it
  const inventory = new Inventory(context, { ...server.row, id: 0 }, family, server.place)
  const plugins = await inventory.plugins()
  const { counts, unread } = readLines(
    family,
    server.console
      .since(0)
      .slice(-MOST_LINES)
      .map((line) => line.text),
  )
  return {
    game: await inventory.gameVersion(),
    plugins: plugins.map(found),
    strangers: inventory.strangerPaths,
    lines: counts,
    unread: unread.slice(-MOST_UNREAD),
  }
}

const found = ({ name, version, folder, files, records, isOff }: Installed): FamilyTrial['plugins'][number] => ({
  name,
  version,
  folder,
  settings: files.length,
  records: records.length,
  isOff,
})

function readLines(family: Family, lines: readonly string[]): { counts: Record<string, number>; unread: string[] } {
  const reader = new ConsoleReader(family)
  const counts: Record<string, number> = {}
  const unread: string[] = []
  for (const line of lines) {
    const event = reader.event(reader.line(line))
    if (event) counts[event.type] = (counts[event.type] ?? 0) + 1
    else unread.push(line)
  }
  return { counts, unread }
}
