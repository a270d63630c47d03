import type { Family } from '../family'
import type { Arrangement } from './arrangement'
import { packed, singleFile } from './packed'
import { unpacked } from './unpacked'

export type { Arrangement, FoundPlugin, PackageToPlace } from './arrangement'

const ARRANGEMENTS: Readonly<Record<Family['plugins']['kept'], Arrangement>> = { packed, 'single-file': singleFile, unpacked }

/** How packages are kept on servers of a family. */
export function arrangementOf(family: Family): Arrangement {
  return ARRANGEMENTS[family.plugins.kept]
}
