import { formatOrText, parse, readingFor } from '../formats/registry'
import { getNode, parsePointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import type { Family } from './family'

/** One of a list the server keeps. */
export interface Listed {
  readonly id: string
  /** What it is called; its id in words, where the list does not say. */
  readonly name: string | null
  readonly group: string | null
}

export type RegistryName = keyof Family['registries']

type Registry = NonNullable<Family['registries'][RegistryName]>

/** What a list of the server's holds, read from the text of its file. */
export function listedInText(family: Family, registry: Registry, path: string, text: string): Listed[] {
  const document = parse(text, formatOrText(path), readingFor(path, family))
  const node = getNode(document, parsePointer(registry.at) ?? [])
  return node ? entriesOf(toJson(document, node), registry) : []
}

/** The folders right below another, as a list. @param paths of the files below it */
export function listedFolders(folder: string, paths: Iterable<string>): Listed[] {
  const base = folder + '/'
  const found = new Set<string>()
  for (const path of paths) {
    const rest = path.startsWith(base) ? path.slice(base.length) : ''
    if (rest.includes('/')) found.add(rest.split('/')[0]!)
  }
  return [...found].map(bare)
}

/** All lists with ids by their names, and beside them the groups of items as `categories`; an empty list is not known. */
export function idsByList(lists: Readonly<Record<string, readonly Listed[]>>): Record<string, ReadonlySet<string>> {
  const known = Object.entries(lists).map(([name, listed]): [string, ReadonlySet<string>] => [name, new Set(listed.map(({ id }) => id))])
  const categories = new Set((lists['items'] ?? []).flatMap(({ group }) => group ?? []))
  return Object.fromEntries([...known, ['categories', categories] as const].filter(([, ids]) => ids.size > 0))
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
