import { readFile, rm } from 'node:fs/promises'
import { fillIn, isLeftOver, nameOnDisk, type FileAction } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { applyChange } from './apply'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { placesOf } from './registries'

/** The places of a server, and whether one can be added from an archive. */
export interface Places {
  readonly places: readonly string[]
  /** The folder they lie in; null where they are no folders. */
  readonly folder: string | null
}

export async function listPlaces(server: Server): Promise<Places> {
  return { places: await placesOf(server), folder: server.family.registries.places?.folders ?? null }
}

export interface AddedPlace {
  readonly change: ApplyRow
  /** What opens it in the console; null where the family has no such command. */
  readonly command: string | null
}

/**
 * Unpacks an archive as a place of exactly this name, which consoles tell by its capitals. An outer folder is left out.
 * The archive's file is taken away. @throws ServiceError `not-allowed`, `name-taken`, `bad-input`, `bad-package`
 */
export function addPlace(context: Context, server: Server, file: string, name: string, account: string): Promise<AddedPlace> {
  return context.intake.run(async () => {
    try {
      const folder = await requireFree(server, name)
      const bytes = await readFile(file)
      const members = (await context.unpacker.listing(bytes, name)).map((member) => member.name).filter((member) => !isLeftOver(member))
      if (members.length === 0) throw new ServiceError('bad-package', 422, 'The archive holds no file. Pack the folder of the place.')
      const sha = await context.blobs.put(bytes)
      const outer = outerFolder(members)
      const actions = members.map((member): FileAction => ({
        kind: 'put',
        path: `${folder}/${name}/${member.slice(outer.length)}`,
        content: { package: sha, member },
      }))
      const change = await applyChange(
        context,
        server,
        { kind: 'install', title: `Add the place ${name}`, actions, plugins: [], restart: false },
        account,
      )
      const template = server.family.console['open-place']
      return { change, command: template === undefined ? null : fillIn(template, { place: name }) }
    } finally {
      await rm(file, { force: true })
    }
  })
}

async function requireFree(server: Server, name: string): Promise<string> {
  const { places, folder } = await listPlaces(server)
  if (folder === null)
    throw new ServiceError('not-allowed', 409, 'Places of this server are no folders, so none can be put there from an archive.')
  if (!/^[\p{L}\p{N}][\p{L}\p{N} _.-]{0,63}$/u.test(name) || name.endsWith('.'))
    throw new ServiceError('bad-input', 400, `“${name}” cannot be the name of a folder. Take letters, digits, dashes and underscores.`)
  const there = places.find((place) => nameOnDisk(place) === nameOnDisk(name))
  if (there !== undefined) throw new ServiceError('name-taken', 409, `${folder}/${there} is there already. Choose another name.`)
  return folder
}

/** The folder all files of an archive lie in, with a slash at the end; empty where they share none. */
function outerFolder(members: readonly string[]): string {
  const first = members[0]!.split('/')[0]! + '/'
  return members.every((member) => member.startsWith(first)) ? first : ''
}
