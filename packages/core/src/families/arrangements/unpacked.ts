import { fillIn, type Family } from '../family'
import { patternsFor } from '../folders'
import type { Arrangement, FoundPlugin } from './arrangement'

const description = (family: Family): string => family.descriptor.file ?? ''

/** The plugin whose description this is; null for other files, and for one that lies in another plugin's folder. */
function found(family: Family, path: string, listing: ReadonlySet<string>): FoundPlugin | null {
  const { folder: top, depth = 1 } = family.plugins
  const file = description(family)
  if (!path.startsWith(top + '/') || !path.endsWith('/' + file)) return null
  const home = path.slice(0, -file.length - 1)
  const parts = home.slice(top.length + 1).split('/')
  if (home.length <= top.length || parts.length > depth) return null
  for (let above = 1; above < parts.length; above++) if (listing.has([top, ...parts.slice(0, above), file].join('/'))) return null
  return { path, unpacked: { folder: parts.at(-1)!, home }, isOff: false }
}

/** What a folder may be called, as a regular expression. */
export const folderPattern = (family: Family): string => family.plugins['folder-name'] ?? '^[A-Za-z0-9][A-Za-z0-9_.-]*$'

/** A folder name made of a plugin's: what its family lets a folder be called. */
function folderName(family: Family, name: string): string {
  const isAllowed = new RegExp(folderPattern(family))
  if (isAllowed.test(name)) return name
  const plain = name
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '')
  const tries = [
    plain,
    plain.replaceAll('_', '-'),
    plain.toLowerCase(),
    plain.toLowerCase().replaceAll('_', '-'),
    plain.toLowerCase().replaceAll('_', ''),
  ]
  return tries.find((item) => isAllowed.test(item)) ?? plain.toLowerCase()
}

/** An archive that is unpacked into a folder of its own. */
export const unpacked: Arrangement = {
  arrives: 'folder',
  roots: (family) => [{ folder: family.plugins.folder, depth: (family.plugins.depth ?? 1) + description(family).split('/').length - 1 }],
  find: (family, listing) => {
    const all = new Set(listing)
    return listing.flatMap((path) => found(family, path, all) ?? [])
  },
  placeNew: (family, name, wanted) => {
    const folder = wanted ?? folderName(family, name)
    const home = fillIn(family.plugins['install-as'] ?? `${family.plugins.folder}/{folder}`, { folder, plugin: name })
    return { name, folder, home }
  },
  install: (family, plugin, { sha, root, members }) => {
    const { isSettings, isRecord } = patternsFor(family, plugin)
    return members.map((member) => {
      const path = `${plugin.home}/${member}`
      const content = { package: sha, member: root + member }
      // settings that were kept from before are not written over
      return { kind: 'put', path, content, ...(isSettings(path) || isRecord(path) ? { ifAbsent: true } : {}) }
    })
  },
  mainPath: (family, { home }) => `${home}/${description(family)}`,
  isPackage: (family, path) => found(family, path, new Set()) !== null,
}
