import { arrangementOf, fillIn, folderPattern, nameOf, pathOf, registrationsOf, wordsFor, type FileAction } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import { applyChange } from './apply'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { ownFilesOf, type Installed } from './inventory'
import { isUp, placedBy } from './removing'
import { SIZES } from './sizes'

/** Whether plugins of a server can be switched off without being removed. */
export const canSwitch = ({ family }: Server): boolean => family.register.length > 0 || family.plugins.off !== undefined

/** Switches a plugin off or on: it stays where it is, and the server does or does not know of it. */
export async function switchPlugin(context: Context, server: Server, name: string, on: boolean, account: string): Promise<ApplyRow> {
  const plugin = await server.inventory.require(name)
  if (!canSwitch(server))
    throw new ServiceError('not-allowed', 409, `Plugins of this family cannot be switched off. Remove ${name}, and keep its settings.`)
  if (plugin.isOff !== on) throw new ServiceError('nothing-to-do', 409, `${name} is switched ${on ? 'on' : 'off'} already.`)
  const actions: FileAction[] =
    server.family.register.length > 0 ? registrationsOf(server.family, plugin, on) : await moved(context, server, plugin, on)
  const title = `Switch ${name} ${on ? 'on' : 'off'}`
  return applyChange(context, server, { kind: 'switch', title, actions, plugins: [name], restart: isUp(server) }, account)
}

async function moved(context: Context, server: Server, plugin: Installed, on: boolean): Promise<FileAction[]> {
  const { family, place } = server
  const bytes = await place.read(plugin.packagePath, SIZES.package)
  if (!bytes) throw notFound(`file ${plugin.packagePath}`)
  const path = on ? arrangementOf(family).mainPath(family, plugin) : fillIn(family.plugins.off!, wordsFor(family, plugin))
  return [
    { kind: 'put', path, content: { sha: await context.blobs.put(bytes) } },
    { kind: 'remove', path: plugin.packagePath, ifSha: hashOf(bytes) },
  ]
}

/** So deep below its folder files of a plugin are moved with it. */
const DEEPEST = 8

/** Gives the folder of an unpacked plugin another name: its files, and what it is known by to the server, go along. */
export async function renameFolder(context: Context, server: Server, name: string, folder: string, account: string): Promise<ApplyRow> {
  const { family, place } = server
  const plugin = await server.inventory.require(name)
  if (arrangementOf(family).arrives !== 'folder')
    throw new ServiceError('not-allowed', 409, 'Plugins of this family have no folder that could be renamed.')
  const to = { ...plugin, folder, home: [...plugin.home.split('/').slice(0, -1), folder].join('/') }
  await refuseFolder(server, plugin, to)
  const inside = (await place.list(plugin.home, DEEPEST)).map(({ path }) => [path, to.home + path.slice(plugin.home.length)] as const)
  // what lies elsewhere and is named after the folder goes along
  const outside = ownFilesOf(family, plugin)
    .filter(({ path }) => !path.startsWith(plugin.home + '/'))
    .map(({ path }) => [path, pathOf(family, to, nameOf(family, plugin, path))] as const)
  const moves = new Map([...inside, ...outside].filter(([from, target]) => from !== target))
  const actions: FileAction[] = []
  for (const [path, target] of moves) {
    const bytes = await place.read(path, SIZES.package)
    if (!bytes) continue
    actions.push({ kind: 'put', path: target, content: { sha: await context.blobs.put(bytes) } })
    actions.push({ kind: 'remove', path, ifSha: hashOf(bytes) })
  }
  const known = plugin.isOff ? [] : [...registrationsOf(family, to, true), ...registrationsOf(family, plugin, false)]
  const placed = (await placedBy(context, server, plugin)).map((action) => ({ ...action, path: moves.get(action.path) ?? action.path }))
  return applyChange(
    context,
    server,
    {
      kind: 'switch',
      title: `Rename ${plugin.home} to ${folder}`,
      actions: [...actions, ...known],
      plugins: [name],
      restart: isUp(server),
      placements: [{ plugin: name, version: plugin.version, isOut: false, actions: placed }],
    },
    account,
  )
}

async function refuseFolder({ family, place, inventory }: Server, plugin: Installed, to: Installed): Promise<void> {
  const pattern = folderPattern(family)
  if (!new RegExp(pattern).test(to.folder) || /[/\\]|^\.\.?$/.test(to.folder))
    throw new ServiceError('bad-input', 400, `“${to.folder}” cannot be the name of a folder here: it must fit ${pattern}.`)
  const other = (await inventory.plugins()).find(({ name, home }) => name !== plugin.name && home.toLowerCase() === to.home.toLowerCase())
  if (other ?? (await place.list(to.home, 0)).length > 0)
    throw new ServiceError('name-taken', 409, `${to.home} is there already${other ? `: it is the folder of ${other.name}` : ''}.`)
}
