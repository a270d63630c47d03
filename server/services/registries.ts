import { listedFolders, listedInText, type Listed, type RegistryName } from '@pasticcio/core'
import type { Server } from './context'
import { SIZES } from './sizes'
import { decode } from './text'

export type { Listed, RegistryName } from '@pasticcio/core'

/** The places a server has, as its family says where they are listed, or what folders they are. */
export function placesOf(server: Server): Promise<string[]> {
  return registryOf(server, 'places')
}

/** Ids the server keeps a list of; none where its family says of no such list. */
export async function registryOf(server: Server, kind: RegistryName): Promise<string[]> {
  return (await listedIn(server, kind)).map(({ id }) => id)
}

/** The same with what the list says of each. @param read reads a file otherwise, as drafts have it */
export async function listedIn(
  { family, place }: Pick<Server, 'family' | 'place'>,
  kind: RegistryName,
  read?: (path: string) => Promise<string | null>,
): Promise<readonly Listed[]> {
  const registry = family.registries[kind]
  if (!registry) return []
  if (registry.folders !== undefined) {
    const files = await place.list(registry.folders, 1)
    return listedFolders(
      registry.folders,
      files.map(({ path }) => path),
    )
  }
  const { file } = registry
  if (file === undefined) return []
  const bytes = read ? null : await place.read(file, SIZES.settings)
  const text = read ? await read(file) : bytes && decode(file, bytes)
  return text === null ? [] : listedInText(family, registry, file, text)
}
