import { formatOrText, getNode, parse, parsePointer, readingFor, toJson } from '@pasticcio/core'
import type { Server } from './context'
import { SIZES } from './sizes'
import { decode } from './text'

/** The places a server has, as its family says where they are listed, or what folders they are. */
export function placesOf(server: Server): Promise<string[]> {
  return registryOf(server, 'places')
}

/** Ids the server keeps a list of; none where its family says of no such list. */
export async function registryOf({ family, place }: Server, kind: keyof Server['family']['registries']): Promise<string[]> {
  const registry = family.registries[kind]
  if (!registry) return []
  if (registry.folders !== undefined) {
    const base = registry.folders + '/'
    const files = await place.list(registry.folders, 1)
    return [
      ...new Set(files.map(({ path }) => path.slice(base.length)).flatMap((path) => (path.includes('/') ? [path.split('/')[0]!] : []))),
    ]
  }
  if (registry.file === undefined) return []
  const bytes = await place.read(registry.file, SIZES.settings)
  if (!bytes) return []
  const document = parse(decode(registry.file, bytes), formatOrText(registry.file), readingFor(registry.file, family))
  const node = getNode(document, parsePointer(registry.at) ?? [])
  return node ? idsIn(toJson(document, node), registry.id) : []
}

/** The keys of a section, or the items of a list: texts, or what each has under a key. */
function idsIn(data: unknown, id: string | undefined): string[] {
  if (Array.isArray(data))
    return data.flatMap((item: unknown) => {
      const value: unknown = id !== undefined && typeof item === 'object' && item !== null ? (item as Record<string, unknown>)[id] : item
      return typeof value === 'string' || typeof value === 'number' ? [String(value)] : []
    })
  return typeof data === 'object' && data !== null ? Object.keys(data) : []
}
