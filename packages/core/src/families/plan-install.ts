import type { FileAction } from './actions'
import { arrangementOf } from './arrangements'
import type { Family } from './family'
import { nameOnDisk, type PackageAbout } from './package-info'

/** A package that can be had, or is installed. */
export interface Offer<Id> {
  readonly id: Id
  readonly info: PackageAbout
  /** SHA-256 of the package. */
  readonly sha: string
}

export interface InstallStep<Id> {
  readonly id: Id
  readonly plugin: string
  readonly version: string
  /** What is done to the server's files. */
  readonly actions: readonly FileAction[]
  /** Where it goes, relative to the server's folder: for showing. */
  readonly path: string
  readonly because: 'asked' | 'required'
  readonly requiredBy: string | null
  readonly replaces: string | null
}

export interface InstallProblem {
  readonly code: 'other-capitals' | 'game-version' | 'missing-requirement' | 'older-requirement' | 'older-companion' | 'installed-already'
  readonly severity: 'error' | 'warning'
  readonly message: string
}

export interface InstallPlan<Id> {
  /** In the order in which they must be there. */
  readonly steps: readonly InstallStep<Id>[]
  readonly problems: readonly InstallProblem[]
  readonly gameVersion: string
  /** Whether the server must be restarted for it. */
  readonly restart: boolean
}

export interface PlanInput<Id> {
  readonly family: Family
  readonly wanted: Offer<Id>
  readonly pantry: readonly Offer<Id>[]
  readonly installed: readonly (Pick<PackageAbout, 'name' | 'version'> & { readonly packagePath: string })[]
  readonly gameVersion: string
  /** Whether a version lies in a range; the order of versions is the caller's to know. */
  readonly satisfies: (version: string, range: string) => boolean
  readonly newer: (a: string, b: string) => boolean
}

/** Works out what installing a package means: which files go where, what comes along, and what stands against it. */
export function planInstall<Id>(input: PlanInput<Id>): InstallPlan<Id> {
  const steps: InstallStep<Id>[] = []
  const problems: InstallProblem[] = []
  visit(input, input.wanted, null, steps, problems, [])
  return { steps, problems, gameVersion: input.gameVersion, restart: input.family['after-install'] === 'restart' }
}

function visit<Id>(
  input: PlanInput<Id>,
  offer: Offer<Id>,
  requiredBy: string | null,
  steps: InstallStep<Id>[],
  problems: InstallProblem[],
  path: readonly string[],
): void {
  const { info } = offer
  if (path.includes(info.name) || steps.some((step) => step.plugin === info.name)) return
  if (!input.satisfies(input.gameVersion, info.game))
    problems.push({
      code: 'game-version',
      severity: 'error',
      message: `${info.name} ${info.version} is for game ${info.game}, and this server runs ${input.gameVersion}. Look for another version of it.`,
    })
  for (const [name, range] of Object.entries(info.requires)) require(input, info, name, range, steps, problems, [...path, info.name])
  problems.push(...oldCompanions(input, info))
  const namesake = input.installed.find((item) => item.name !== info.name && nameOnDisk(item.name) === nameOnDisk(info.name))
  if (namesake)
    problems.push({
      code: 'other-capitals',
      severity: 'error',
      message: `This server has ${namesake.name}, and ${info.name} would be the same file on a disk that knows no capitals. Ask the author of ${info.name} for another name.`,
    })
  const there = input.installed.find((item) => item.name === info.name)
  if (there && there.version === info.version) {
    if (requiredBy === null)
      problems.push({ code: 'installed-already', severity: 'error', message: `${info.name} ${info.version} is on this server already.` })
    return
  }
  const actions = arrangementOf(input.family).install(input.family, {
    name: info.name,
    sha: offer.sha,
    ...(there ? { replaces: there.packagePath } : {}),
  })
  steps.push({
    id: offer.id,
    plugin: info.name,
    version: info.version,
    actions,
    path: actions.find((action) => action.kind === 'put')?.path ?? '',
    because: requiredBy === null ? 'asked' : 'required',
    requiredBy,
    replaces: there?.version ?? null,
  })
}

/** What works together with others, where they are there, may not do so with the versions that are. */
function oldCompanions<Id>(input: PlanInput<Id>, info: PackageAbout): InstallProblem[] {
  return Object.entries(info.optional).flatMap(([name, range]): InstallProblem[] => {
    const there = input.installed.find((item) => item.name === name)
    if (!there || input.satisfies(there.version, range)) return []
    const message = `${info.name} works together with ${name} ${range}, and this server has ${there.version}. It runs, but without what the two do together.`
    return [{ code: 'older-companion', severity: 'warning', message }]
  })
}

function require<Id>(
  input: PlanInput<Id>,
  info: PackageAbout,
  name: string,
  range: string,
  steps: InstallStep<Id>[],
  problems: InstallProblem[],
  path: readonly string[],
): void {
  const there = input.installed.find((item) => item.name === name)
  if (there && input.satisfies(there.version, range)) return
  const offers = input.pantry.filter((item) => item.info.name === name && input.satisfies(item.info.version, range))
  const best = offers.sort((a, b) => (input.newer(a.info.version, b.info.version) ? -1 : 1))[0]
  if (best) return visit(input, best, info.name, steps, problems, path)
  problems.push(
    there
      ? {
          code: 'older-requirement',
          severity: 'error',
          message: `${info.name} needs ${name} ${range}, and this server has ${there.version}. Put a newer ${name} into the pantry first.`,
        }
      : {
          code: 'missing-requirement',
          severity: 'error',
          message: `${info.name} needs ${name} ${range}, which is neither on this server nor in the pantry. Add it to the pantry first.`,
        },
  )
}
