import { fillIn, type Family } from '../family'
import { placedByName, type Placed } from '../folders'
import type { Arrangement, FoundPlugin } from './arrangement'

const below = (folder: string, ending: string, path: string): boolean =>
  path.startsWith(folder + '/') && path.endsWith('.' + ending) && !path.slice(folder.length + 1).includes('/')

function isPackage({ plugins: { folder, ending = '' } }: Family, path: string): boolean {
  return below(folder, ending, path)
}

/** Where packages lie that are switched off, and what their files end with. */
function offPlace(family: Family): { folder: string; ending: string } | null {
  const template = family.plugins.off
  if (template === undefined) return null
  const [folder, file] = [template.split('/').slice(0, -1).join('/'), template.split('/').pop()!]
  return { folder, ending: file.split('.').slice(1).join('.') }
}

function found(family: Family, path: string): FoundPlugin | null {
  if (isPackage(family, path)) return { path, unpacked: null, isOff: false }
  const off = offPlace(family)
  return off && below(off.folder, off.ending, path) ? { path, unpacked: null, isOff: true } : null
}

const mainPath = (family: Family, plugin: Placed): string =>
  fillIn(family.plugins['install-as'] ?? '', { plugin: plugin.name, folder: plugin.folder })

/** One archive a plugin, which stays packed. */
export const packed: Arrangement = {
  arrives: 'archive',
  roots: (family) => {
    const off = offPlace(family)?.folder
    const { folder } = family.plugins
    return [folder, ...(off !== undefined && off !== folder ? [off] : [])].map((name) => ({ folder: name, depth: 0 }))
  },
  isPackage: (family, path) => found(family, path) !== null,
  find: (family, listing) => listing.flatMap((path) => found(family, path) ?? []),
  placeNew: (family, name) => placedByName(family, name),
  // one that is replaced keeps its file name, whatever that is
  install: (family, plugin, { sha, replaces }) => [{ kind: 'put', path: replaces ?? mainPath(family, plugin), content: { sha } }],
  mainPath,
}

/** One text a plugin, whose first lines say what it is. */
export const singleFile: Arrangement = { ...packed, arrives: 'text' }
