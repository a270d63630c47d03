import { arrangementOf } from './arrangements'
import type { Family } from './family'
import type { Placed } from './folders'
import { nameOnDisk, type PackageAbout } from './package-info'
import { isPlainPath } from './paths'

/** A package that can be had. */
export interface Offer<Id> {
  readonly id: Id
  readonly info: Pick<PackageAbout, 'name' | 'version' | 'game' | 'requires' | 'optional' | 'conflicts' | 'companions'>
  /** Whether it lies in the pantry, or a plugin site has it. */
  readonly from: 'pantry' | 'site'
}

/** A plugin that is on the server. */
export interface PresentPlugin extends Placed {
  readonly version: string
  readonly packagePath: string
  readonly info: Pick<PackageAbout, 'conflicts' | 'requires'>
}

/** One package that is put in its place. */
export interface InstallStep<Id> extends Placed {
  readonly id: Id
  readonly from: 'pantry' | 'site'
  readonly version: string
  readonly because: 'asked' | 'required' | 'companion'
  /** Who requires it, or whose companion it is. */
  readonly requiredBy: string | null
  readonly replaces: { readonly version: string; readonly path: string } | null
}

export type InstallProblemCode =
  | 'bad-folder'
  | 'conflict'
  | 'folder-taken'
  | 'framework-off'
  | 'game-version'
  | 'installed-already'
  | 'missing-requirement'
  | 'older-companion'
  | 'older-requirement'
  | 'other-capitals'

export interface InstallProblem {
  readonly code: InstallProblemCode
  readonly severity: 'error' | 'warning'
  readonly message: string
}

export interface InstallPlan<Id> {
  /** In the order in which they must be there. */
  readonly steps: readonly InstallStep<Id>[]
  readonly problems: readonly InstallProblem[]
  readonly gameVersion: string
}

/** The order of versions, and what lies in a range, are the caller's to know. */
export interface Versions {
  satisfies(version: string, range: string): boolean
  newer(a: string, b: string): boolean
}

export interface PlanInput<Id> extends Versions {
  readonly family: Family
  readonly wanted: readonly Offer<Id>[]
  readonly offers: readonly Offer<Id>[]
  readonly installed: readonly PresentPlugin[]
  readonly gameVersion: string
  /** Folders by plugin, where somebody wants others than those proposed. */
  readonly folders?: Readonly<Record<string, string>>
  /** Companions that shall not come along. */
  readonly without?: readonly string[]
}

/** Works out what installing packages means: what comes along, in which order and where to, and what stands against it. */
export function planInstall<Id>(input: PlanInput<Id>): InstallPlan<Id> {
  const planning = new Planning(input)
  for (const offer of input.wanted) planning.visit(offer, 'asked', null, [])
  return { steps: planning.steps, problems: planning.problems, gameVersion: input.gameVersion }
}

class Planning<Id> {
  readonly steps: InstallStep<Id>[] = []
  readonly problems: InstallProblem[] = []

  constructor(private readonly input: PlanInput<Id>) {}

  private add(code: InstallProblemCode, message: string, severity: InstallProblem['severity'] = 'error'): void {
    this.problems.push({ code, severity, message })
  }

  visit(offer: Offer<Id>, because: InstallStep<Id>['because'], requiredBy: string | null, path: readonly string[]): void {
    const { family, installed, satisfies, gameVersion } = this.input
    const { info } = offer
    if (path.includes(info.name) || this.steps.some((step) => step.name === info.name)) return
    if (!satisfies(gameVersion, info.game))
      this.add(
        'game-version',
        `${info.name} ${info.version} is for game ${info.game}, and this server runs ${gameVersion}. Look for another version of it.`,
      )
    const onTheWay = [...path, info.name]
    for (const [name, range] of Object.entries(info.requires)) this.require(info, name, range, onTheWay)
    this.oldCompanions(info)
    this.conflicts(offer)
    const there = installed.find((item) => item.name === info.name)
    if (there?.version === info.version) {
      if (because === 'asked') this.add('installed-already', `${info.name} ${info.version} is on this server already.`)
    } else {
      const placed = there ?? arrangementOf(family).placeNew(family, info.name, this.input.folders?.[info.name])
      if (!there) this.place(placed)
      const { name, folder, home } = placed
      const replaces = there ? { version: there.version, path: there.packagePath } : null
      this.steps.push({ id: offer.id, from: offer.from, name, folder, home, version: info.version, because, requiredBy, replaces })
    }
    for (const [name, range] of Object.entries(info.companions)) this.accompany(info, name, range, onTheWay)
  }

  /** What works together with others, where they are there, may not do so with the versions that are. */
  private oldCompanions({ name, optional }: Offer<Id>['info']): void {
    for (const [other, range] of Object.entries(optional)) {
      const there = this.input.installed.find((item) => item.name === other)
      if (there && !this.input.satisfies(there.version, range))
        this.add(
          'older-companion',
          `${name} works together with ${other} ${range}, and this server has ${there.version}. It runs, but without what the two do together.`,
          'warning',
        )
    }
  }

  private conflicts({ info }: Offer<Id>): void {
    const { installed, satisfies } = this.input
    const present = [...installed, ...this.steps.map((step) => ({ ...step, info: null }))]
    for (const other of present) {
      const [theirs, ours] = [other.info?.conflicts[info.name], info.conflicts[other.name]]
      if ((ours !== undefined && satisfies(other.version, ours)) || (theirs !== undefined && satisfies(info.version, theirs)))
        this.add(
          'conflict',
          `${info.name} ${info.version} and ${other.name} ${other.version} do not run beside each other, as ${ours === undefined ? other.name : info.name} says. Remove one of them.`,
        )
    }
  }

  /** Whether a new plugin can lie where it is to. */
  private place({ name, folder, home }: Placed): void {
    const { family, installed } = this.input
    const pattern = family.plugins['folder-name']
    const isUnpacked = arrangementOf(family).arrives === 'folder'
    if (isUnpacked && (!isPlainPath(home) || (pattern !== undefined && !new RegExp(pattern).test(folder))))
      this.add(
        'bad-folder',
        `“${folder}” cannot be the name of a folder here${pattern === undefined ? '' : `: it must fit ${pattern}`}. Choose another name.`,
      )
    const present = [...installed, ...this.steps]
    const namesake = present.find((item) => item.name !== name && nameOnDisk(item.name) === nameOnDisk(name))
    if (namesake)
      this.add(
        'other-capitals',
        `This server has ${namesake.name}, and ${name} would be the same file on a disk that knows no capitals. Ask the author of ${name} for another name.`,
      )
    const taken = isUnpacked ? present.find((item) => nameOnDisk(item.home) === nameOnDisk(home)) : undefined
    if (taken) this.add('folder-taken', `${home} is the folder of ${taken.name}. Choose another name for that of ${name}.`)
  }

  private require(info: Offer<Id>['info'], name: string, range: string, path: readonly string[]): void {
    const there = this.input.installed.find((item) => item.name === name)
    if (there && this.input.satisfies(there.version, range)) return
    const best = this.best(name, range)
    if (best) return this.visit(best, 'required', info.name, path)
    if (there)
      this.add(
        'older-requirement',
        `${info.name} needs ${name} ${range}, and this server has ${there.version}. Put a newer ${name} into the pantry first.`,
      )
    else
      this.add(
        'missing-requirement',
        `${info.name} needs ${name} ${range}, which is neither on this server nor in the pantry. Add it to the pantry first.`,
      )
  }

  private accompany(info: Offer<Id>['info'], name: string, range: string, path: readonly string[]): void {
    if (this.input.without?.includes(name) || this.input.installed.some((item) => item.name === name)) return
    const best = this.best(name, range)
    if (best) this.visit(best, 'companion', info.name, path)
    else
      this.add(
        'older-companion',
        `${info.name} comes with ${name} ${range}, which is not in the pantry. It may lack something without it.`,
        'warning',
      )
  }

  /** The best of what is offered: one that fits the game before one that does not, newer before older, what is here before what is not. */
  private best(name: string, range: string): Offer<Id> | undefined {
    const { offers, gameVersion } = this.input
    const fitting = offers.filter(({ info }) => info.name === name && this.input.satisfies(info.version, range))
    return inOrder(fitting, gameVersion, this.input)[0]
  }
}

/** Builds of one plugin: those that fit the game first, newer before older. */
export function inOrder<Id>(offers: readonly Offer<Id>[], gameVersion: string, { satisfies, newer }: Versions): Offer<Id>[] {
  const rank = ({ info }: Offer<Id>): number => (satisfies(gameVersion, info.game) ? 0 : 1)
  const byVersion = (a: Offer<Id>, b: Offer<Id>): number =>
    Number(newer(b.info.version, a.info.version)) - Number(newer(a.info.version, b.info.version))
  return [...offers].sort((a, b) => rank(a) - rank(b) || byVersion(a, b) || Number(a.from === 'site') - Number(b.from === 'site'))
}
