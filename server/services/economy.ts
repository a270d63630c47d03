import {
  economyFacts,
  factsOf,
  findMoves,
  formatOrText,
  parse,
  readingFor,
  reckonedOf,
  workspaceFile,
  workspaceOf,
  type Assumed,
  type EconomyFacts,
  type EconomyPart,
  type FileFacts,
  type GatheredStream,
  type Reckoned,
  type Seen,
  type WorkspaceFile,
} from '@pasticcio/core'
import type { AssumedRow } from '../db/repositories/assumptions'
import type { Context, Server } from './context'
import { seenOf } from './economy-seen'
import { ServiceError } from './errors'
import { requireApply } from './history'
import type { Installed } from './inventory'
import { listedIn } from './registries'
import { SIZES } from './sizes'
import { decode } from './text'
import { readChoices } from './update-choices'
import { carryPlugin, listUpdates, type PlanFile } from './updates'
import { placesIn, workspaceFor, type ServerWorkspace } from './workspace'

/** Everything on a server that has to do with money. */
export interface ServerEconomy {
  /** As the drafts have it. */
  readonly facts: EconomyFacts
  /** As it stands on the server; null where no draft changes anything of it. */
  readonly standing: EconomyPart | null
  /** Categories of items that are traded, by the server's own list. */
  readonly kinds: Readonly<Record<string, string>>
  /** Lines of settings, by `file#pointer`. */
  readonly lines: Readonly<Record<string, number>>
  readonly assumed: AssumedRow | null
  readonly seen: Seen
  /** What several of its money are called; empty where no plugin says. */
  readonly money: string
  /** Files that could not be looked into, and are left out. */
  readonly unread: readonly { readonly file: string; readonly problem: string }[]
}

type Files = ReadonlyMap<string, FileFacts>

/** Gathers it from all plugins, drafts in their places. */
export async function economyOf(context: Context, server: Server): Promise<ServerEconomy> {
  const all = await workspaceFor(context, server)
  const files = filesIn(all)
  const facts = economyFacts([...files.values()])
  return {
    facts,
    standing: await standingFacts(server, all, files),
    kinds: await kindsOf(server, facts),
    lines: linesOf(all, facts),
    assumed: await context.assumptions.get(server.row.id),
    seen: await seenOf(context, server, all, facts),
    money: [...files.values()].find(({ keepsMoney, moneyName }) => keepsMoney && moneyName)?.moneyName ?? '',
    unread: [...all.files].flatMap(([file, { problem }]) => (problem === null ? [] : [{ file, problem }])),
  }
}

/** The same with all that is reckoned of it, days to come left out. */
export async function economyReckoned(context: Context, server: Server): Promise<Reckoned & { readonly money: string }> {
  const { facts, standing, kinds, assumed, seen, money } = await economyOf(context, server)
  return { money, ...reckonedOf({ facts, standing, kinds, assumed: assumed?.assumed ?? null, seen }) }
}

/** What counts: the settings of a plugin that is switched off move nothing. */
function filesIn({ files, plugins }: ServerWorkspace): Files {
  const off = offIn(plugins)
  return new Map([...files].flatMap(([path, { facts }]) => (facts && !off.has(facts.plugin ?? '') ? [[path, facts] as const] : [])))
}

const offIn = (plugins: ServerWorkspace['plugins']): ReadonlySet<string> =>
  new Set(plugins.flatMap(({ name, isOff }) => (isOff ? [name] : [])))

/**
 * The same as newer versions in the pantry would have it, with all that was set here carried onto them; null where there are none of it.
 * It is asked for by itself: no draft changes it, and to carry many files takes longer than to read them.
 */
export async function economyOfUpdates(context: Context, server: Server): Promise<EconomyPart | null> {
  const all = await workspaceFor(context, server)
  return updatedFacts(context, server, all, filesIn(all))
}

/** The same as it was before a change of the server's history. @throws ServiceError `not-found` for no such change */
export async function economyBefore(context: Context, server: Server, applyId: number): Promise<EconomyFacts> {
  await requireApply(context, server, applyId)
  const all = await workspaceFor(context, server)
  const then = new Map<string, string | null>()
  for (const { id } of (await context.applies.list(server.row.id)).filter(({ id }) => id >= applyId))
    // the oldest of them is the last in the list, and says how it was
    for (const { path, beforeSha } of await context.applies.files(id)) then.set(path, beforeSha)
  const files = new Map<string, FileFacts>()
  const off = offIn(all.plugins)
  for (const [path, file] of all.files) {
    const text = then.has(path) ? await textBefore(context, then.get(path)!) : await standingText(server, all, path)
    const facts = text === null ? null : text === undefined ? file.facts : factsIn(server, all, file.readAs(text))
    if (facts && !off.has(facts.plugin ?? '')) files.set(path, facts)
  }
  return economyFacts([...files.values()])
}

const textBefore = async (context: Context, sha: string | null): Promise<string | null> =>
  sha === null ? null : context.blobs.requireText(sha)

/** The text of a file with a draft as it stands; undefined for a file without one, and null where it is not there. */
async function standingText(server: Server, all: ServerWorkspace, path: string): Promise<string | null | undefined> {
  if (!all.drafts.has(path)) return undefined
  const bytes = await server.place.read(path, SIZES.settings)
  return bytes && decode(path, bytes)
}

function factsIn({ family }: Server, { plugins, knowledge }: ServerWorkspace, file: WorkspaceFile | null): FileFacts | null {
  return file && factsOf(workspaceOf([file], family, plugins, knowledge), file)
}

/** Plugins whose drafts have to do with money, as they stand. */
async function standingFacts(server: Server, all: ServerWorkspace, files: Files): Promise<EconomyPart | null> {
  const standing = new Map(files)
  const plugins = new Set<string>()
  const off = offIn(all.plugins)
  for (const path of all.drafts.keys()) {
    if (off.has(all.files.get(path)?.facts?.plugin ?? '')) continue
    const text = await standingText(server, all, path)
    const facts = typeof text === 'string' ? factsIn(server, all, all.files.get(path)?.readAs(text) ?? null) : null
    const [now, before] = [files.get(path), facts]
    if (!hasMoney(now) && !hasMoney(before)) continue
    plugins.add(now?.plugin ?? before?.plugin ?? '')
    if (facts) standing.set(path, facts)
    else standing.delete(path)
  }
  return partOf(standing.values(), plugins)
}

const partOf = (files: Iterable<FileFacts>, plugins: ReadonlySet<string>): EconomyPart | null =>
  plugins.size === 0 ? null : { plugins: [...plugins], facts: economyFacts([...files].filter(({ plugin }) => plugins.has(plugin ?? ''))) }

const hasMoney = (facts: FileFacts | null | undefined): boolean =>
  Boolean(facts) &&
  (facts!.resale !== null ||
    [facts!.goods, facts!.categories, facts!.deals, facts!.streams, facts!.draws, facts!.exchange].some((list) => list.length > 0))

/** What newer versions of plugins with money would make of their settings, all choices as they are made so far. */
async function updatedFacts(context: Context, server: Server, all: ServerWorkspace, files: Files): Promise<EconomyPart | null> {
  const changed = new Map(files)
  const plugins = new Set<string>()
  const was = new Map<string, string>()
  for (const { plugin, packageId } of await listUpdates(context, server, all.plugins)) {
    if (![...files.values()].some((facts) => facts.plugin === plugin && hasMoney(facts))) continue
    const installed = all.plugins.find(({ name }) => name === plugin)!
    const carried = await carriedFacts(context, server, all, installed, packageId)
    if (carried === null) continue
    plugins.add(plugin)
    for (const path of carried.gone) changed.delete(path)
    for (const facts of carried.files) changed.set(facts.path, facts)
    for (const [id, old] of carried.was) was.set(id, old)
  }
  const part = partOf(changed.values(), plugins)
  return part && { ...part, facts: { ...part.facts, streams: part.facts.streams.map((stream) => withWas(stream, was)) } }
}

const withWas = (stream: GatheredStream, was: ReadonlyMap<string, string>): GatheredStream => {
  const old = was.get(`${stream.file}#${stream.pointer}`)
  return old === undefined ? stream : { ...stream, was: old }
}

/** What an update makes of a plugin, and where its settings stood before, as `file#pointer`, where they moved. */
interface Carried {
  readonly files: readonly FileFacts[]
  readonly gone: ReadonlySet<string>
  readonly was: ReadonlyMap<string, string>
}

/** Null where what is here does not read, so that nothing can be carried. */
async function carriedFacts(
  context: Context,
  server: Server,
  all: ServerWorkspace,
  plugin: Installed,
  packageId: number,
): Promise<Carried | null> {
  const choices = readChoices(await context.packages.getChoices(server.row.id, packageId))
  try {
    const plan = await carryPlugin(server, plugin, await context.packages.defaultTexts(packageId), choices)
    const known = all.knowledge.lists
    const files = plan.flatMap(({ path, result, update }) => {
      if (result === null) return []
      const input = { path, plugin: plugin.name, text: result, factory: update, reading: readingFor(path, server.family), known }
      return factsIn(server, all, workspaceFile(input)) ?? []
    })
    const was = new Map(plan.flatMap((file) => [...movesOf(server, file)]))
    return { files, was, gone: new Set(plan.flatMap(({ from, path }) => (from !== null && from !== path ? [from] : []))) }
  } catch (error) {
    if (error instanceof ServiceError && error.code === 'has-errors') return null
    throw error
  }
}

async function kindsOf(server: Server, { offers }: EconomyFacts): Promise<Record<string, string>> {
  const traded = new Set(offers.map(({ item }) => item))
  const listed = await listedIn(server, 'items')
  return Object.fromEntries(listed.flatMap(({ id, group }) => (group !== null && traded.has(id) ? [[id, group]] : [])))
}

/** What the carried file has elsewhere than the one that is here. */
function movesOf({ family }: Server, { path, from, mine, result }: PlanFile): readonly (readonly [string, string])[] {
  if (mine === null || result === null) return []
  const read = (text: string): ReturnType<typeof parse> => parse(text, formatOrText(path), readingFor(path, family))
  return [...findMoves(read(mine), read(result))].map(([old, now]) => [`${path}#${now}`, `${from ?? path}#${old}`] as const)
}

function linesOf({ files }: ServerWorkspace, { offers, streams, draws, deals, maybe }: EconomyFacts): Record<string, number> {
  const placeOf = placesIn(files)
  const lines: Record<string, number> = {}
  const add = (file: string, pointer: string, from: number): void => {
    const place = placeOf(file, from)
    if (place) lines[`${file}#${pointer}`] = place.line
  }
  for (const { file, pointer, from } of [...offers, ...streams, ...maybe]) add(file, pointer, from)
  for (const { file, entries } of draws) for (const { pointer, from } of entries) add(file, pointer, from)
  for (const { file, money } of deals) if (money) add(file, money.pointer, money.from)
  return lines
}

/**
 * Keeps what is assumed of the players of a server.
 * @param since the revision that was seen; 0 for none
 * @throws ServiceError `assumptions-changed` where somebody else saved others since
 */
export async function assume(context: Context, server: Server, assumed: Assumed, since: number, by: string): Promise<AssumedRow> {
  const at = context.now().toISOString()
  const revision = await context.assumptions.save(server.row.id, assumed, since, by, at)
  if (revision === null) {
    const other = await context.assumptions.get(server.row.id)
    throw new ServiceError(
      'assumptions-changed',
      409,
      `${other?.by ?? 'Somebody'} changed what is assumed meanwhile. Yours were not kept; load the page anew and change them once more.`,
    )
  }
  return { assumed, revision, by, at }
}
