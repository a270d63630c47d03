import {
  arrangementOf,
  formatOrText,
  formatPointer,
  getNode,
  inverseOf,
  isTextAction,
  parse,
  readingFor,
  registrationsOf,
  type FileAction,
  type PlanPart,
} from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import { applyChange } from './apply'
import { hashAt } from './apply-writes'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { ownFilesOf, type Installed } from './inventory'
import { hashesOf, membersOf } from './package-contents'
import { requirePackage } from './pantry'
import { maskPair } from './masking'
import { previewOf, type TextPreview } from './previews'
import { SIZES } from './sizes'
import { decode } from './text'

/** What becomes of a plugin's settings and records: they stay where they are, or go and are kept in History. */
export type KeepSettings = 'keep' | 'archive'

export interface RemovalPlan {
  /** The hash of all that carrying it out would do. */
  readonly sha: string
  readonly plugin: string
  readonly version: string
  /** Files that go. */
  readonly removed: readonly string[]
  /** Its settings and records. */
  readonly settings: readonly string[]
  /** Files that somebody changed, which stay. */
  readonly changed: readonly string[]
  /** Lines and entries that go. */
  readonly texts: readonly TextPreview[]
  /** Settings of other files that it brought and somebody changed since, which stay. */
  readonly left: readonly string[]
  /** Plugins that need it. */
  readonly neededBy: readonly string[]
}

interface WorkedOut extends RemovalPlan {
  readonly actions: readonly FileAction[]
}

/** What taking a plugin out means. Nothing is written. */
export async function planRemoval(context: Context, server: Server, name: string, settings: KeepSettings): Promise<RemovalPlan> {
  const { actions: _actions, ...plan } = await workOut(context, server, name, settings)
  return plan
}

async function workOut(context: Context, server: Server, name: string, keeping: KeepSettings): Promise<WorkedOut> {
  const installed = await server.inventory.plugins()
  const plugin = await server.inventory.require(name)
  const own = ownFilesOf(server.family, plugin).map(({ path }) => path)
  const done = await placedBy(context, server, plugin)
  const shas = await shasOf(context, done)
  const removed: string[] = []
  const changed: string[] = []
  const actions: FileAction[] = []
  const gone = (path: string, sha: string): void => {
    removed.push(path)
    actions.push({ kind: 'remove', path, ifSha: sha })
  }
  for (const [path, sha] of shas) {
    const now = own.includes(path) ? null : await hashAt(server, path)
    if (now === sha) gone(path, sha)
    else if (now !== null) changed.push(path)
  }
  if (keeping === 'archive')
    for (const path of own) {
      const now = await hashAt(server, path)
      if (now !== null) gone(path, now)
    }
  const texts = textInverses(server, plugin, done)
  const part: PlanPart = { kind: 'register', path: '', from: null, of: null, actions: texts, because: '', skipped: '' }
  const preview = (await previewOf(server, [[part]]))[0]![0]!
  const all = [...actions, ...texts]
  return {
    sha: hashOf(JSON.stringify([all, preview.texts])),
    plugin: name,
    version: plugin.version,
    removed,
    settings: own,
    changed,
    texts: await Promise.all(preview.texts.map((text) => maskPair(context, server, text))),
    left: await stillThere(server, texts, preview.texts),
    neededBy: installed.filter(({ info }) => Object.hasOwn(info.requires, name)).map((item) => item.name),
    actions: all,
  }
}

/** What was done to place a plugin, wherever its package lies by now. */
export async function placedBy(context: Context, server: Server, plugin: Installed): Promise<readonly FileAction[]> {
  const placed = await context.applies.placementOf(server.row.id, plugin.name)
  if (!placed) return assumedActions(context, server, plugin)
  if (arrangementOf(server.family).arrives === 'folder') return placed.actions
  // one that was switched off lies somewhere else than where it was put
  const others = placed.actions.filter((action) => action.kind !== 'put' || !('sha' in action.content))
  return [...(await assumedActions(context, server, plugin)), ...others]
}

/** What must have been done to place a plugin that came by other ways. */
async function assumedActions(context: Context, server: Server, plugin: Installed): Promise<FileAction[]> {
  const { family } = server
  if (arrangementOf(family).arrives !== 'folder') {
    const sha = await hashAt(server, plugin.packagePath)
    return sha === null ? [] : [{ kind: 'put', path: plugin.packagePath, content: { sha } }]
  }
  if (plugin.packageId !== null) {
    const row = await requirePackage(context, server, plugin.packageId)
    const members = (await membersOf(context, server, row)).map((member) => member.name)
    return [...arrangementOf(family).install(family, plugin, { sha: row.sha, root: row.root, members })]
  }
  // of one whose package is not known, everything in its folder but settings and records is its own
  const files = await server.place.list(plugin.home, 8)
  return Promise.all(
    files.map(async ({ path }): Promise<FileAction> => ({ kind: 'put', path, content: { sha: (await hashAt(server, path)) ?? '' } })),
  )
}

/** The hashes of what was put, by path. */
async function shasOf(context: Context, actions: readonly FileAction[]): Promise<ReadonlyMap<string, string>> {
  const shas = new Map<string, string>()
  const packed = new Map<string, { path: string; member: string }[]>()
  for (const action of actions) {
    if (action.kind !== 'put') continue
    if ('sha' in action.content) shas.set(action.path, action.content.sha)
    else {
      const { package: sha, member } = action.content
      packed.set(sha, [...(packed.get(sha) ?? []), { path: action.path, member }])
    }
  }
  for (const [sha, members] of packed) {
    const hashes = await hashesOf(
      context,
      sha,
      members.map(({ member }) => member),
    )
    for (const { path, member } of members) shas.set(path, hashes.get(member)!)
  }
  return shas
}

/** What takes lines and entries out again: those the plugin is known by now, and those it brought. */
function textInverses(server: Server, plugin: Installed, done: readonly FileAction[]): FileAction[] {
  const known = registrationsOf(server.family, plugin, false)
  const isKnown = (action: FileAction): boolean => known.some((other) => JSON.stringify(other) === JSON.stringify(action))
  const brought = done.filter(isTextAction).map(inverseOf)
  return [
    ...known,
    ...brought.filter(
      (action) => !isKnown(action) && !server.family.register.some(({ file }) => file === action.path && action.kind === 'line'),
    ),
  ]
}

/** Entries that are there still, since they have another value by now than the plugin gave them. */
async function stillThere({ family, place }: Server, actions: readonly FileAction[], texts: readonly TextPreview[]): Promise<string[]> {
  const left: string[] = []
  for (const action of actions) {
    if (action.kind !== 'entry') continue
    const preview = texts.find(({ path }) => path === action.path)
    const bytes = preview ? null : await place.read(action.path, SIZES.settings)
    const text = preview ? preview.after : bytes && decode(action.path, bytes)
    if (text && getNode(parse(text, formatOrText(action.path), readingFor(action.path, family)), action.at))
      left.push(`${action.path} ${formatPointer(action.at)}`)
  }
  return left
}

/** Takes a plugin out, as the plan of this hash says. */
export async function removePlugin(
  context: Context,
  server: Server,
  wanted: { readonly plugin: string; readonly settings: KeepSettings; readonly planSha: string },
  account: string,
): Promise<ApplyRow> {
  const { plugin, settings, planSha } = wanted
  const plan = await workOut(context, server, plugin, settings)
  if (plan.sha !== planSha)
    throw new ServiceError(
      'plan-changed',
      409,
      `What removing ${plugin} would do is not what you looked at: a file was changed since. Look at the plan once more; nothing was written.`,
    )
  const row = await applyChange(
    context,
    server,
    {
      kind: 'remove',
      title: `Remove ${plugin} ${plan.version}`,
      actions: plan.actions,
      plugins: [plugin],
      restart: isUp(server),
      placements: [{ plugin, version: plan.version, isOut: true, actions: [] }],
    },
    account,
  )
  // what was archived is to be had back from it
  if (settings === 'archive' && plan.settings.length > 0) await context.applies.setPinned(row.id, true)
  return (await context.applies.get(row.id))!
}

export const isUp = ({ console }: Server): boolean => ['running', 'unattended'].includes(console.state.status)
