import { formatOrText, getNode, parse, parsePointer, readingFor, toJson } from '@pasticcio/core'
import type { Server } from './context'
import { SIZES } from './sizes'
import { decode } from './text'

/** The places a server has, as its family says where they are listed, or what folders they are. */
export function placesOf(server: Server): Promise<string[]> {
  return registryOf(server, 'places')
}

/** One of a list the server keeps. */
export interface Listed {
  readonly id: string
  /** What it is called; its id in words, where the list does not say. */
  readonly name: string | null
  readonly group: string | null
}

export type RegistryName = keyof Server['family']['registries']

/** Ids the server keeps a list of; none where its family says of no such list. */
export async function registryOf(server: Server, kind: RegistryName): Promise<string[]> {
  return (await listedIn(server, kind)).map(({ id }) => id)
}

/** The same with what the list says of each. */
export async function listedIn({ family, place }: Server, kind: RegistryName): Promise<Listed[]> {
  const registry = family.registries[kind]
  if (!registry) return []
  if (registry.folders !== undefined) {
    const base = registry.folders + '/'
    const files = await place.list(registry.folders, 1)
    const folders = files.map(({ path }) => path.slice(base.length)).flatMap((path) => (path.includes('/') ? [path.split('/')[0]!] : []))
    return [...new Set(folders)].map(bare)
  }
  if (registry.file === undefined) return []
  const bytes = await place.read(registry.file, SIZES.settings)
  if (!bytes) return []
  const document = parse(decode(registry.file, bytes), formatOrText(registry.file), readingFor(registry.file, family))
  const node = getNode(document, parsePointer(registry.at) ?? [])
  return node ? entriesOf(toJson(document, node), registry) : []
}

const bare = (id: string): Listed => ({ id, name: null, group: null })

interface ListKeys {
  readonly id?: string | undefined
  readonly name?: string | undefined
  readonly group?: string | undefined
}

/** The keys of a section, or the items of a list: texts, or what each has under its keys. */
function entriesOf(data: unknown, keys: ListKeys): Listed[] {
  const told = (id: string, item: unknown): Listed => ({ id, name: wordAt(item, keys.name), group: wordAt(item, keys.group) })
  if (Array.isArray(data))
    return data.flatMap((item: unknown) => {
      const id = word(item) ?? wordAt(item, keys.id)
      return id === null ? [] : [told(id, item)]
    })
  return typeof data === 'object' && data !== null ? Object.entries(data).map(([id, item]) => told(id, item)) : []
}

const word = (value: unknown): string | null => (typeof value === 'string' || typeof value === 'number' ? String(value) : null)

const wordAt = (item: unknown, key: string | undefined): string | null =>
  key !== undefined && typeof item === 'object' && item !== null ? word((item as Record<string, unknown>)[key]) : null
