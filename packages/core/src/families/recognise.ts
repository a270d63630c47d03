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
  /** Files that plugins are made known in, and those of them that are there. */
  readonly registers: readonly string[]
  readonly hasRegisters: readonly string[]
  /** 0 for nothing; above `LIKELY` it is proposed. */
  readonly score: number
}

/** Two of the signs, one of them a strong one. */
export const LIKELY = 3

/** Which families a folder may be a server of, the likeliest first. `paths` are its files at the top and where families have packages. */
export function recogniseFamilies(families: readonly Family[], paths: readonly string[]): FamilyEvidence[] {
  return families.map((family) => evidenceFor(family, paths)).sort((a, b) => b.score - a.score)
}

function evidenceFor(family: Family, paths: readonly string[]): FamilyEvidence {
  const versionFile = family['game-version'].file
  const { folder } = family.plugins
  const hasVersionFile = paths.includes(versionFile)
  const hasFolder = paths.some((path) => path.startsWith(folder + '/'))
  const packages = arrangementOf(family).find(family, paths).length
  const registers = [...new Set(family.register.map(({ file }) => file))]
  const hasRegisters = registers.filter((file) => paths.includes(file))
  const score = (hasVersionFile ? 3 : 0) + (hasFolder ? 1 : 0) + (packages > 0 ? 2 : 0) + (hasRegisters.length > 0 ? 2 : 0)
  return {
    family: family.id,
    title: family.title,
    versionFile,
    hasVersionFile,
    folder,
    hasFolder,
    packages,
    registers,
    hasRegisters,
    score,
  }
}
