import {
  appliesOf,
  blocksWriting,
  checkWorkspace,
  inferRules,
  layer,
  parse,
  readingFor,
  workspaceFile,
  workspaceOf,
  type Applies,
  type AppliesBy,
  type Customisation,
} from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { NO_FILE, type DraftRow } from '../db/repositories/drafts'
import type { PlannedCommand } from '../db/repositories/commands'
import { applyChange, type Change, type PlannedAction } from './apply'
import { hashAt } from './apply-writes'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { ownersOf, type Installed } from './inventory'
import { holding, refuseErrors, type Overruled } from './findings'
import { maskFor } from './masking'
import { note } from './note'
import { plannedCommands } from './player-changes'
import { rulesOf } from './file-rules'
import { countsBy, isRecordOf, isText } from './settings'
import { SIZES } from './sizes'
import { decode } from './text'
import { workspaceFor, type PlacedFinding } from './workspace'

/** What a draft changes, worked out once for each pair of texts. */
export interface DraftChanges {
  /** The first of them. */
  readonly changes: readonly Customisation[]
  readonly count: number
  /** Mistakes that keep the file from being written. */
  readonly blocking: number
  /** What the changed settings ask for so that they count, and which of them asks for most; null where nothing is said. */
  readonly asks: AppliesBy | null
}

export interface TrayFile extends DraftChanges {
  readonly path: string
  readonly plugin: string
  readonly sha: string
  readonly changedBy: string
  /** Whether the file on the server is no longer what the draft was made from. */
  readonly drifted: boolean
  /** Errors in it, by their codes, that keep it from being written until they are mended, set aside or overruled. */
  readonly held: readonly { readonly code: string; readonly count: number }[]
  /** What makes it count once it is written. */
  readonly after: Applies
  /** Whether it is a text with settings; else a picture or another file that is taken whole. */
  readonly text: boolean
}

/** The texts of one staged file. */
export interface TrayText {
  readonly base: string
  readonly draft: string
  /** What stands on the server now, where that is not what the draft was made from; empty for nothing. */
  readonly now: string | null
}

/** So many changes of a file are listed. */
const MOST_CHANGES = 200
const MOST_KNOWN = 500

/** What drafts change, by the hashes of both texts. */
export class ChangesCache {
  private readonly known = new Map<string, DraftChanges>()

  async get(key: string, work: () => Promise<DraftChanges>): Promise<DraftChanges> {
    const there = this.known.get(key)
    if (there) return there
    const made = await work()
    if (this.known.size >= MOST_KNOWN) this.known.delete(this.known.keys().next().value!)
    this.known.set(key, made)
    return made
  }
}

/** Everything staged for this server. */
export async function listTray(context: Context, server: Server): Promise<TrayFile[]> {
  const drafts = await context.drafts.list(server.row.id)
  if (drafts.length === 0) return []
  const paths = drafts.map(({ path }) => path)
  const held = await holding(context, server, paths, await workspaceFor(context, server))
  return Promise.all(
    drafts.map(async (draft) => {
      const changes = await changesOf(context, server, draft)
      return {
        held: byCode(held.filter(({ file, check }) => file === draft.path && check !== 'reads')),
        path: draft.path,
        ...(await ownedBy(server, draft.path, changes)),
        sha: draft.sha,
        changedBy: draft.changedBy,
        drifted: await hasDrifted(server, draft),
        text: await isText(server, draft.path),
        ...changes,
      }
    }),
  )
}

function byCode(findings: readonly PlacedFinding[]): TrayFile['held'] {
  const counts = new Map<string, number>()
  for (const { code } of findings) counts.set(code, (counts.get(code) ?? 0) + 1)
  return [...counts].map(([code, count]) => ({ code, count }))
}

const hasDrifted = async (server: Server, { path, baseSha }: DraftRow): Promise<boolean> =>
  ((await hashAt(server, path)) ?? NO_FILE) !== baseSha

async function ownedBy(server: Server, path: string, { asks }: DraftChanges): Promise<Pick<TrayFile, 'plugin' | 'after'>> {
  const owner = await server.inventory.ownerNear(path)
  return { plugin: owner?.name ?? '', after: owner ? countsBy(server, owner, path, asks?.applies) : server.family['after-change'] }
}

/** One staged file with its texts, to be looked at: secrets are dots. @throws ServiceError `not-found` */
export async function trayText(context: Context, server: Server, path: string): Promise<TrayText> {
  const draft = await context.drafts.get(server.row.id, path)
  if (!draft) throw notFound(`draft of ${path} in the tray`)
  if (!(await isText(server, path))) throw new ServiceError('not-text', 422, `${path} is no text. Look at it as the picture or file it is.`)
  const drifted = await hasDrifted(server, draft)
  const bytes = drifted ? await server.place.read(path, SIZES.settings) : null
  const base = await context.blobs.requireText(draft.baseSha)
  const mine = await context.blobs.requireText(draft.sha)
  const now = drifted ? (bytes ? decode(path, bytes) : '') : null
  const mask = await maskFor(context, server, path, [base, mine, now])
  return { base: mask.text(base), draft: mask.text(mine, base), now: mask.text(now, base) }
}

async function changesOf(context: Context, server: Server, { path, baseSha, sha }: DraftRow): Promise<DraftChanges> {
  if (!(await isText(server, path))) return { changes: [], count: 1, blocking: 0, asks: null }
  const owner = await server.inventory.ownerOf(path)
  const said = owner ? rulesOf(await context.rules.of(server.row.id), server.family, owner, path) : []
  return server.changes.get(JSON.stringify([path, owner?.version, baseSha, sha, said]), async () => {
    const reading = readingFor(path, server.family)
    const [base, text] = [await context.blobs.requireText(baseSha), await context.blobs.requireText(sha)]
    const file = workspaceFile({ path, plugin: null, text, factory: null, reading })
    if (!file) return { changes: [], count: 0, blocking: 0, asks: null }
    const changes = layer(parse(base, file.document.format, reading), file.document)
    const blocking = checkWorkspace(workspaceOf([file], server.family)).filter(blocksWriting).length
    const mask = await maskFor(context, server, path, [base, text])
    const factory = owner ? await server.inventory.factoryText(owner, path) : null
    const rules = factory === null ? said : [...said, ...inferRules(parse(factory, file.document.format, reading))]
    return {
      changes: changes.slice(0, MOST_CHANGES).map((change) => mask.change(change)),
      count: changes.length,
      blocking,
      asks: appliesOf(changes, rules),
    }
  })
}

/** A draft as somebody looked at it before applying. */
export interface Reviewed {
  readonly path: string
  readonly sha: string
}

/**
 * Writes the drafts that were reviewed to the server; what is staged beside them stays. @throws ServiceError
 * `draft-changed` where one of them is another by now, `has-errors` where errors in them are not overruled by their codes: then
 * nothing is written
 */
export async function applyTray(
  context: Context,
  server: Server,
  reviewed: readonly Reviewed[],
  account: string,
  overruled: readonly Overruled[] = [],
  commandIds: readonly number[] = [],
): Promise<ApplyRow> {
  if (reviewed.length + commandIds.length === 0) throw new ServiceError('nothing-to-do', 409, 'Nothing is staged.')
  const drafts = pick(await context.drafts.list(server.row.id), reviewed)
  const commands = await plannedCommands(context, server, commandIds)
  await refuseErrors(
    context,
    server,
    drafts.map(({ path }) => path),
    overruled,
  )
  const actions = await Promise.all(
    drafts.map(async ({ path, sha, baseSha }): Promise<PlannedAction> => {
      const isNew = baseSha === NO_FILE && (await hashAt(server, path)) === null
      return { kind: 'put', path, content: { sha }, expected: isNew ? null : baseSha }
    }),
  )
  const owned = await ownedFiles(server, drafts)
  const paths = drafts.map(({ path }) => path)
  const plugins = [...new Set([...(await ownersOf(server, paths)), ...owned.map(({ owner }) => owner.name)])]
  const title = await titleOf(context, server, drafts, plugins, commands)
  const asked = new Map(
    await Promise.all(drafts.map(async (draft) => [draft.path, (await changesOf(context, server, draft)).asks] as const)),
  )
  const restart = owned.some(({ owner, path }) => countsBy(server, owner, path, asked.get(path)?.applies) !== 'reload')
  const flush = [...new Set(owned.filter(({ owner, path }) => isRecordOf(owner, path)).map(({ owner }) => owner))]
  // what was written leaves the tray as the change ends
  const change: Change = { kind: 'settings', title, actions, plugins, restart, stoppedStays: true, flush, commands }
  const row = await applyChange(context, server, change, account)
  for (const { code, reason } of overruled) await note(context, account, 'overruled', `${code}: ${reason}`, server)
  return row
}

/** Drafts with the plugins whose files they are of. */
async function ownedFiles({ inventory }: Server, drafts: readonly DraftRow[]): Promise<{ owner: Installed; path: string }[]> {
  const owned = await Promise.all(drafts.map(async ({ path }) => ({ owner: await inventory.ownerNear(path), path })))
  return owned.flatMap(({ owner, path }) => (owner ? [{ owner, path }] : []))
}

function pick(drafts: readonly DraftRow[], reviewed: readonly Reviewed[]): DraftRow[] {
  return reviewed.map(({ path, sha }) => {
    const draft = drafts.find((item) => item.path === path)
    if (draft?.sha === sha) return draft
    const what = draft
      ? `${draft.changedBy} changed the draft of ${path} since you looked at it`
      : `The draft of ${path} is no longer staged`
    throw new ServiceError('draft-changed', 409, `${what}. Look at the review once more; nothing was written.`)
  })
}

/** Takes drafts out of the tray: all with the commands, those of one path, or exactly the one that was looked at. */
export async function discardDrafts(context: Context, server: Server, path?: string, sha?: string): Promise<void> {
  if (path === undefined)
    for (const { id } of await context.playerCommands.staged(server.row.id)) await context.playerCommands.discard(server.row.id, id)
  for (const draft of await context.drafts.list(server.row.id)) {
    if (path !== undefined && draft.path !== path) continue
    const isOther = sha !== undefined && draft.sha !== sha
    if (isOther || !(await context.drafts.removeIf(server.row.id, draft.path, draft.sha)))
      throw new ServiceError(
        'draft-changed',
        409,
        `${draft.changedBy} changed the draft of ${draft.path} meanwhile, so it was not discarded.`,
      )
  }
}

async function titleOf(
  context: Context,
  server: Server,
  drafts: readonly DraftRow[],
  plugins: readonly string[],
  commands: readonly PlannedCommand[],
): Promise<string> {
  let count = 0
  for (const draft of drafts) count += (await changesOf(context, server, draft)).count || 1
  const said = commands.length === 0 ? '' : `${commands.length} command${commands.length === 1 ? '' : 's'}`
  const written = count === 0 ? '' : `${count} change${count === 1 ? '' : 's'} in ${plugins.join(', ')}`
  return [written, said].filter(Boolean).join(', ')
}
