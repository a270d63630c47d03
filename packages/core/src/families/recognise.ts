import { arrangementOf } from './arrangements'
import type { Family } from './family'

/** What speaks for a folder being a server of a family. */
export interface FamilyEvidence {
  readonly family: string
  readonly title: string
  /** The file that names the game's version, and whether it is there. */
  readonly versionFile: string
  readonly hasVersionFile: boolean
  /** The plugins' folder, and whether there is anything in it. */
  readonly folder: string
  readonly hasFolder: boolean
  /** How many files there are that look like packages. */
  readonly packages: number
  /** 0 for nothing; above `LIKELY` it is proposed. */
  readonly score: number
}

/** Two of the three signs, one of them a strong one. */
export const LIKELY = 3

/** Which families a folder may be a server of, the likeliest first. `paths` are the files at its top and just below. */
export function recogniseFamilies(families: readonly Family[], paths: readonly string[]): FamilyEvidence[] {
  return families.map((family) => evidenceFor(family, paths)).sort((a, b) => b.score - a.score)
}

function evidenceFor(family: Family, paths: readonly string[]): FamilyEvidence {
  const versionFile = family['game-version'].file
  const { folder } = family.plugins
  const hasVersionFile = paths.includes(versionFile)
  const hasFolder = paths.some((path) => path.startsWith(folder + '/'))
  const packages = arrangementOf(family).find(family, paths).length
  const score = (hasVersionFile ? 3 : 0) + (hasFolder ? 1 : 0) + (packages > 0 ? 2 : 0)
  return { family: family.id, title: family.title, versionFile, hasVersionFile, folder, hasFolder, packages, score }
}
