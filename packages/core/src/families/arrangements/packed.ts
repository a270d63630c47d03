import { fillIn, type Family } from '../family'
import type { Arrangement } from './arrangement'

function isPackage(family: Family, path: string): boolean {
  const { folder, ending } = family.plugins
  return path.startsWith(folder + '/') && path.endsWith('.' + ending) && !path.slice(folder.length + 1).includes('/')
}

/** One archive a plugin, which stays packed. */
export const packed: Arrangement = {
  id: 'packed',
  depth: 0,
  isPackage,
  find: (family, listing) => listing.filter((path) => isPackage(family, path)),
  // one that is replaced keeps its file name, whatever that is
  install: (family, { name, sha, replaces }) => [
    { kind: 'put', path: replaces ?? fillIn(family.plugins['install-as'], { plugin: name }), content: { sha } },
  ],
  remove: (_family, { path, sha }) => [{ kind: 'remove', path, ifSha: sha }],
}
