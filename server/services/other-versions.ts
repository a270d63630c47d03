import { nameOf, type OtherVersions } from '@pasticcio/core'
import type { PackageRow } from '../db/repositories/packages'
import type { Context, Server } from './context'
import type { Installed } from './inventory'
import { isNewer } from './versions'

/** So many versions are looked into, those nearest to the one that is installed. */
const MOST = 4
/** A file of so many characters is compared with other versions; larger ones are lists of goods rather than settings. */
const LONGEST = 100_000

/** Packages of other versions of a plugin than the one that is installed, the oldest first. */
export function otherPackages(pantry: readonly PackageRow[], { name, version }: Installed): readonly PackageRow[] {
  const byVersion = new Map(
    pantry.filter(({ info }) => info.name === name && info.version !== version).map((row) => [row.info.version, row]),
  )
  const sorted = [...byVersion.values()].sort((a, b) => (isNewer(a.info.version, b.info.version) ? 1 : -1))
  const older = sorted.filter(({ info }) => !isNewer(info.version, version))
  const newer = sorted.filter(({ info }) => isNewer(info.version, version))
  return [...older.slice(-MOST / 2), ...newer.slice(0, MOST / 2)]
}

/** What other versions of a plugin ship in the place of a file; null where the pantry has none that ship it. */
export async function othersOf(
  context: Context,
  { family }: Server,
  plugin: Installed,
  path: string,
  packages: readonly PackageRow[],
): Promise<OtherVersions | null> {
  if (packages.length === 0) return null
  const name = nameOf(family, plugin, path)
  const texts = await Promise.all(
    packages.map(async ({ id, info }) => ({
      version: info.version,
      isNewer: isNewer(info.version, plugin.version),
      text: await context.packages.defaultText(id, name),
    })),
  )
  const versions = texts.flatMap(({ text, ...of }) => (text !== null && text.length <= LONGEST ? [{ ...of, text }] : []))
  return versions.length > 0 ? { installed: plugin.version, versions } : null
}
