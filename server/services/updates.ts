import {
  carryFiles,
  arrangementOf,
  formatOrText,
  pathOf,
  patternsFor,
  readingFor,
  type Choice,
  type Decision,
  type Family,
  type FileAction,
  type PluginFile,
} from '@pasticcio/core'
import type { ApplyRow, Placement } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import { applyChange, type PlannedAction } from './apply'
import { hashAt } from './apply-writes'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import type { Installed } from './inventory'
import { hashesOf, membersOf } from './package-contents'
import { requirePackage } from './pantry'
import { placementOf, planPlacing, type PlacingPlan, type ShownStep } from './placing'
import { SIZES } from './sizes'
import { decode } from './text'
import { readChoices, type PlanChoices } from './update-choices'
import { inRange, isNewer } from './versions'

export interface PlanFile {
  readonly path: string
  readonly factory: string | null
  /** The file of mine it continues, where that has another name; null for one that is new. */
  readonly from: string | null
  readonly mine: string | null
  readonly update: string
  /** What stands at this path now. */
  readonly old: string | null
  /** The file as it shall be; null for one the new version no longer has, which is left where it is. */
  readonly result: string | null
  readonly decisions: readonly Decision[]
  readonly baseline: boolean
}

export interface UpdatePlan {
  /** The hash of all that applying it would do: what is applied is what was looked at. */
  readonly sha: string
  readonly plugin: string
  readonly from: string
  readonly to: string
  readonly packageId: number
  readonly addedAt: string
  readonly changes: string
  readonly requires: readonly { readonly name: string; readonly range: string; readonly have: string | null; readonly fits: boolean }[]
  readonly problems: readonly string[]
  readonly files: readonly PlanFile[]
  readonly choices: PlanChoices
  readonly open: number
  /** Files with drafts in the tray, which must be applied or discarded first. */
  readonly staged: readonly string[]
  /** Files of the old version that the new one has not, which go; empty where packages stay one file. */
  readonly removed: readonly string[]
  /** Files of the plugin itself that somebody changed, which are replaced; what they hold is kept in History. */
  readonly rewritten: readonly string[]
}

/** The newest package in the pantry for each plugin that has one newer than what is installed; `plugins` saves a look. */
export async function listUpdates(
  context: Context,
  server: Server,
  plugins?: readonly Installed[],
): Promise<{ plugin: string; from: string; to: string; packageId: number }[]> {
  const pantry = await context.packages.list(server.family.id)
  return (plugins ?? (await server.inventory.plugins())).flatMap((item) => {
    const best = newestOf(pantry, item.name, item.version)
    return best ? [{ plugin: item.name, from: item.version, to: best.info.version, packageId: best.id }] : []
  })
}

export function newestOf(pantry: readonly PackageRow[], name: string, than: string): PackageRow | null {
  return (
    pantry
      .filter((row) => row.info.name === name && isNewer(row.info.version, than))
      .sort((a, b) => (isNewer(a.info.version, b.info.version) ? -1 : 1))[0] ?? null
  )
}

/** Works out what an update makes of the settings, with the choices made so far. Nothing is written. */
export async function planUpdate(context: Context, server: Server, plugin: string, packageId: number): Promise<UpdatePlan> {
  const all = await server.inventory.plugins()
  const installed = await server.inventory.require(plugin)
  const row = await requirePackage(context, server, packageId)
  if (row.info.name !== plugin) throw notFound(`update of ${plugin} with this number`)
  const choices = readChoices(await context.packages.getChoices(server.row.id, packageId))
  const files = await carryPlugin(server, installed, await context.packages.defaultTexts(packageId), choices)
  const { isSettings } = patternsFor(server.family, installed)
  const staged = (await context.drafts.list(server.row.id)).map((draft) => draft.path).filter(isSettings)
  const plan = await planPlacing(context, server, { packages: [packageId] })
  const left = await leftovers(context, server, installed, row)
  return {
    sha: hashOf(JSON.stringify([plan.sha, left, files.map(({ path, old, result }) => [path, old, result])])),
    plugin,
    from: installed.version,
    to: row.info.version,
    packageId,
    addedAt: row.addedAt,
    changes: row.info.changes,
    files,
    choices,
    staged,
    removed: left.removed,
    rewritten: left.rewritten,
    requires: Object.entries(row.info.requires).map(([name, range]) => {
      const have = all.find((item) => item.name === name)?.version ?? null
      return { name, range, have, fits: have !== null && inRange(have, range) }
    }),
    problems: [
      ...plan.problems.filter((problem) => problem.severity === 'error').map((problem) => problem.message),
      ...olderRequirements(plan, plugin),
    ],
    open: files.reduce((sum, file) => sum + file.decisions.filter((item) => item.weight === 'decide').length, 0),
  }
}

/** A plugin that must be updated first has settings of its own to carry, which is a plan of its own. */
function olderRequirements(plan: PlacingPlan, plugin: string): string[] {
  return plan.steps
    .filter((step) => step.name !== plugin && step.replaces !== null)
    .map(
      (step) =>
        `${step.requiredBy} needs ${step.name} ${step.version}, and this server has ${step.replaces!.version}. It is in the pantry: update ${step.name} first.`,
    )
}

/** What is kept of placing a new version: what it did, and what the old one had brought and is there still. */
async function placementOver(context: Context, server: Server, step: ShownStep): Promise<Placement> {
  const placed = placementOf(step)
  const before = (await context.applies.placementOf(server.row.id, step.name))?.actions ?? []
  const target = (action: FileAction): string => JSON.stringify(action.kind === 'put' ? action.path : { ...action, keep: undefined })
  const known = new Set(placed.actions.map(target))
  return { ...placed, actions: [...placed.actions, ...before.filter((action) => !known.has(target(action)))] }
}

/** What an unpacked plugin has in its folder that its new version has not, or that somebody changed. */
async function leftovers(
  context: Context,
  server: Server,
  installed: Installed,
  update: PackageRow,
): Promise<{ removed: string[]; rewritten: string[] }> {
  const { family } = server
  const [removed, rewritten]: [string[], string[]] = [[], []]
  if (arrangementOf(family).arrives !== 'folder' || installed.packageId === null) return { removed, rewritten }
  const old = await requirePackage(context, server, installed.packageId)
  const names = (await membersOf(context, server, old)).map(({ name }) => name)
  const next = new Set((await membersOf(context, server, update)).map(({ name }) => name))
  const hashes = await hashesOf(
    context,
    old.sha,
    names.map((name) => old.root + name),
  )
  const { isSettings, isRecord } = patternsFor(family, installed)
  for (const name of names) {
    const path = `${installed.home}/${name}`
    const now = isSettings(path) || isRecord(path) ? null : await hashAt(server, path)
    if (now === null) continue
    if (now !== hashes.get(old.root + name)) rewritten.push(path)
    else if (!next.has(name)) removed.push(path)
  }
  return { removed, rewritten: rewritten.filter((path) => next.has(path.slice(installed.home.length + 1))) }
}

/** Carries all settings files of a plugin at once, since an update may move settings between them. */
export async function carryPlugin(
  server: Server,
  installed: Installed,
  defaults: Readonly<Record<string, string>>,
  choices: PlanChoices,
): Promise<PlanFile[]> {
  const names = new Set([...(await server.inventory.shippedNames(installed)), ...Object.keys(defaults)])
  const factory: PluginFile[] = []
  const mine: PluginFile[] = []
  const update = Object.entries(defaults).map(([name, text]) => pluginFile(server.family, pathOf(server.family, installed, name), text))
  for (const name of names) {
    const path = pathOf(server.family, installed, name)
    const shipped = await server.inventory.factoryText(installed, path)
    if (shipped !== null) factory.push(pluginFile(server.family, path, shipped))
    const bytes = await server.place.read(path, SIZES.settings)
    if (bytes) mine.push(pluginFile(server.family, path, decode(path, bytes)))
  }
  const known = factory.length > 0 || mine.length === 0
  const result = carryFiles(
    { factory: known ? factory : null, mine, update },
    { choices: Object.assign({}, ...Object.values(choices)) as Record<string, Choice> },
  )
  const text = (files: readonly PluginFile[], path: string | null): string | null => files.find((file) => file.path === path)?.text ?? null
  return result.files.map((file) => {
    if (file.broken.includes('mine'))
      throw new ServiceError(
        'has-errors',
        409,
        `${file.from ?? file.path} does not read, so nothing can be carried forward from it. Mend it first; Settings shows where.`,
      )
    const old = text(mine, file.path)
    return {
      path: file.path,
      from: file.from,
      factory: text(factory, file.from ?? file.path),
      mine: text(mine, file.from),
      update: text(update, file.path) ?? '',
      old,
      result: file.text,
      decisions: file.decisions,
      baseline: result.baseline,
    }
  })
}

function pluginFile(family: Family, path: string, text: string): PluginFile {
  return { path, text, format: formatOrText(path), reading: readingFor(path, family) }
}

/** Replaces the package, writes the carried files, restarts and reads the console. @throws ServiceError when decisions are open */
export async function applyUpdate(
  context: Context,
  server: Server,
  plugin: string,
  wanted: { readonly packageId: number; readonly planSha: string },
  account: string,
): Promise<ApplyRow> {
  const { packageId, planSha } = wanted
  const plan = await planUpdate(context, server, plugin, packageId)
  if (plan.sha !== planSha)
    throw new ServiceError(
      'plan-changed',
      409,
      'What this update would do is not what you looked at: a choice or a file was changed since. Look at the plan once more; nothing was written.',
    )
  if (plan.problems.length > 0) throw new ServiceError('plan-blocked', 409, plan.problems[0]!)
  if (plan.staged.length > 0)
    throw new ServiceError(
      'drafts-open',
      409,
      `${plan.staged[0]} has changes in the tray. Apply or discard them first, so that they are carried too.`,
    )
  if (plan.open > 0) throw new ServiceError('decisions-open', 409, `${plan.open} decisions are still open.`)
  const { steps } = await planPlacing(context, server, { packages: [packageId] })
  const along = steps.filter((step) => step.name !== plugin).map(({ name }) => name)
  const carried = new Set(plan.files.map(({ path }) => path))
  // settings are carried, and not taken as they come
  const actions: PlannedAction[] = steps
    .flatMap(({ parts }) => parts.flatMap((part) => part.actions))
    .filter(({ path }) => !carried.has(path))
  for (const path of plan.removed) actions.push({ kind: 'remove', path })
  for (const file of plan.files) {
    // files the new version no longer has stay where they are: they do no harm, and nothing of them is lost
    if (file.result === null || file.result === file.old) continue
    actions.push({
      kind: 'put',
      path: file.path,
      content: { sha: await context.blobs.put(Buffer.from(file.result, 'utf8')) },
      expected: file.old === null ? null : hashOf(Buffer.from(file.old, 'utf8')),
    })
  }
  const title = `Update ${plugin} ${plan.from} to ${plan.to}${along.length > 0 ? ` with ${along.join(', ')}` : ''}`
  return applyChange(
    context,
    server,
    {
      kind: 'update',
      title,
      actions,
      plugins: [...along, plugin],
      restart: true,
      placements: await Promise.all(steps.map((step) => placementOver(context, server, step))),
    },
    account,
  )
}
