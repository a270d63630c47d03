import type { Family } from '../family'
import type { Arrangement } from './arrangement'
import { packed } from './packed'

export type { Arrangement, PackageToPlace } from './arrangement'

const ARRANGEMENTS = { packed } as const satisfies Readonly<Record<string, Arrangement>>

export type ArrangementId = keyof typeof ARRANGEMENTS

/** How packages are kept on servers of a family. */
export function arrangementOf(family: Family): Arrangement {
  return ARRANGEMENTS[family.plugins.kept]
}
