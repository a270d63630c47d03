import {
  PackageError,
  inOrder,
  planInstall,
  planParts,
  type InstallPlan,
  type InstallStep,
  type Offer,
  type PackageAbout,
  type PlanPart,
} from '@pasticcio/core'
import type { ApplyRow, Placement } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import { applyChange } from './apply'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { frameworkOf, type FrameworkState } from './framework'
import { contentOf } from './package-contents'
import { requirePackage } from './pantry'
import { placesOf } from './registries'
import { maskPair } from './masking'
import { previewOf, type PartPreview } from './previews'
import type { SiteOffer } from './sites'
import { inRange, isNewer } from './versions'

/** The number of a package in the pantry, or its link where a plugin site has it. */
export type OfferId = number | string

/** What is to be installed, and how. */
export interface PlacingInput {
  /** Numbers of packages in the pantry. */
  readonly packages: readonly number[]
  /** Folders by plugin, where others are wanted than those proposed. */
  readonly folders?: Readonly<Record<string, string>>
  /** Companions that shall not come along. */
  readonly without?: readonly string[]
  /** The place that what belongs into one goes to. */
  readonly place?: string | null
  /** Files that are replaced though one is there. */
  readonly overwrite?: readonly string[]
  /** Whether what loads plugins is switched on along with it. */
  readonly switchOn?: boolean
}

export interface ShownPart extends PlanPart, PartPreview {}

export interface ShownStep extends InstallStep<OfferId> {
  readonly parts: readonly ShownPart[]
  readonly tasks: readonly string[]
  readonly nodes: Readonly<Record<string, string>>
  readonly commands: Readonly<Record<string, string>>
  readonly placeholders: Readonly<Record<string, string>>
  /** What works together with it: what that adds, and whether it is here. */
  readonly hooks: readonly { readonly name: string; readonly adds: string; readonly isThere: boolean }[]
  /** All builds of it that can be had, the best first, each with why it does not fit. */
  readonly builds: readonly { readonly id: OfferId; readonly version: string; readonly game: string; readonly why: string }[]
}

export interface PlacingPlan extends Omit<InstallPlan<OfferId>, 'steps'> {
  /** The hash of all that carrying it out would do. */
  readonly sha: string
  readonly steps: readonly ShownStep[]
  readonly framework: FrameworkState
  /** How what is new comes to count. */
  readonly after: 'restart' | 'load'
  /** The places to choose from, where something goes into one; null where nothing does. */
  readonly places: readonly string[] | null
}

/** What installing packages means: every file it would write, and what stands against it. Nothing is written. */
export async function planPlacing(context: Context, server: Server, input: PlacingInput): Promise<PlacingPlan> {
  const pantry = await context.packages.list(server.family.id)
  const offers = [...pantry.map(inPantry), ...(await onSites(context, server, pantry))]
  const plan = planInstall<OfferId>({
    family: server.family,
    wanted: await Promise.all(input.packages.map(async (id) => inPantry(await requirePackage(context, server, id)))),
    offers,
    installed: await server.inventory.plugins(),
    gameVersion: await server.inventory.gameVersion(),
    satisfies: inRange,
    newer: isNewer,
    ...(input.folders ? { folders: input.folders } : {}),
    ...(input.without ? { without: input.without } : {}),
  })
  const framework = await frameworkOf(server, input.switchOn ?? false)
  const parts = await partsOf(context, server, plan, input)
  const previewed = await shownTo(context, server, await previewOf(server, framework.part ? [[framework.part], ...parts] : parts))
  const shown = framework.part ? previewed.slice(1) : previewed
  const steps = await Promise.all(
    plan.steps.map((step, i) => shownStep(server, step, shown[i]!, { pantry, offers, gameVersion: plan.gameVersion })),
  )
  const needsPlace = steps.some((step) => step.parts.some(({ path }) => path.includes('{place}'))) || (input.place ?? null) !== null
  return {
    sha: hashOf(JSON.stringify([parts, framework.part, plan.steps.map(({ id, version, home }) => [id, version, home])])),
    steps,
    problems: [...plan.problems, ...framework.problems],
    gameVersion: plan.gameVersion,
    framework: { isOn: framework.isOn, says: framework.says, part: framework.part ? previewed[0]![0]! : null },
    after: server.family['after-install'],
    places: needsPlace ? await placesOf(server) : null,
  }
}

/** Parts as they are looked at: their texts have dots for secrets. */
const shownTo = <P extends PartPreview>(context: Context, server: Server, steps: readonly (readonly P[])[]): Promise<P[][]> =>
  Promise.all(
    steps.map((parts) =>
      Promise.all(
        parts.map(async (part) => ({ ...part, texts: await Promise.all(part.texts.map((text) => maskPair(context, server, text))) })),
      ),
    ),
  )

const inPantry = ({ id, info }: PackageRow): Offer<OfferId> => ({ id, info, from: 'pantry' })

/** What plugin sites have that the pantry has not. */
async function onSites(context: Context, { family }: Server, pantry: readonly PackageRow[]): Promise<Offer<OfferId>[]> {
  const isHere = ({ name, version }: SiteOffer): boolean => pantry.some(({ info }) => info.name === name && info.version === version)
  return (await context.offers.list())
    .flatMap(({ offers }) => offers)
    .filter((offer) => (offer.family === '' || offer.family === family.id) && !isHere(offer))
    .map(({ link, ...info }) => ({ id: link, from: 'site', info }))
}

/** What each step does; nothing is known yet of one that a plugin site has. */
async function partsOf(context: Context, server: Server, plan: InstallPlan<OfferId>, input: PlacingInput): Promise<PlanPart[][]> {
  const installed = await server.inventory.plugins()
  const parts: PlanPart[][] = []
  for (const step of plan.steps) {
    // where a folder cannot be, nothing can lie in it
    if (typeof step.id === 'string' || plan.problems.some(({ code }) => code === 'bad-folder')) parts.push([])
    else {
      const row = await requirePackage(context, server, step.id)
      parts.push(
        partsAsTold({
          family: server.family,
          plugin: step,
          content: await contentOf(context, server, row),
          pieces: row.info.pieces,
          follows: [...Object.keys(row.info.requires), ...Object.keys(row.info.optional)],
          others: [...installed, ...plan.steps],
          place: input.place ?? null,
          ...(step.replaces ? { replaces: step.replaces.path } : {}),
          ...(input.overwrite ? { overwrite: input.overwrite } : {}),
        }),
      )
    }
  }
  return parts
}

function partsAsTold(input: Parameters<typeof planParts>[0]): PlanPart[] {
  try {
    return planParts(input)
  } catch (error) {
    if (!(error instanceof PackageError)) throw error
    throw new ServiceError('bad-package', 422, `${input.plugin.name} cannot be placed: ${error.message}. Tell its author.`, {
      cause: error,
    })
  }
}

interface Known {
  readonly pantry: readonly PackageRow[]
  readonly offers: readonly Offer<OfferId>[]
  readonly gameVersion: string
}

async function shownStep(server: Server, step: InstallStep<OfferId>, parts: readonly ShownPart[], known: Known): Promise<ShownStep> {
  const info: Partial<PackageAbout> = known.pantry.find(({ id }) => id === step.id)?.info ?? {}
  const installed = await server.inventory.plugins()
  const builds = inOrder(
    known.offers.filter(({ info: { name } }) => name === step.name),
    known.gameVersion,
    { satisfies: inRange, newer: isNewer },
  )
  return {
    ...step,
    parts,
    tasks: info.tasks ?? [],
    nodes: info.nodes ?? {},
    commands: info.commands ?? {},
    placeholders: info.placeholders ?? {},
    hooks: Object.keys(info.optional ?? {}).map((name) => ({
      name,
      adds: info.adds?.[name] ?? '',
      isThere: installed.some((item) => item.name === name),
    })),
    builds: builds.map(({ id, info: { version, game } }) => ({
      id,
      version,
      game,
      why: inRange(known.gameVersion, game) ? '' : `asks for game ${game}, and this server runs ${known.gameVersion}`,
    })),
  }
}

/**
 * Installs packages as the plan of this hash says, with what they need: all files go to their places as one change, and the
 * console is read. @throws ServiceError `not-fetched` where a plugin site has one of them: nobody has seen its files yet
 */
export async function install(
  context: Context,
  server: Server,
  input: PlacingInput & { readonly planSha: string },
  account: string,
): Promise<ApplyRow> {
  const plan = await planPlacing(context, server, input)
  if (plan.sha !== input.planSha)
    throw new ServiceError(
      'plan-changed',
      409,
      'What installing this would do is not what you looked at: a file or the pantry was changed since. Look at the plan once more; nothing was written.',
    )
  refuseBlocked(plan)
  const along = plan.steps.filter(({ because }) => because !== 'asked')
  const asked = plan.steps.filter(({ because }) => because === 'asked')
  const withThem = along.length > 0 ? ` with ${along.map(({ name }) => name).join(', ')}` : ''
  const title = `Install ${asked.map(({ name, version }) => `${name} ${version}`).join(', ')}${withThem}`
  const switching = plan.framework.part?.actions ?? []
  return applyChange(
    context,
    server,
    {
      kind: 'install',
      title,
      actions: [...switching, ...plan.steps.flatMap(({ parts }) => parts.flatMap(({ actions }) => actions))],
      plugins: plan.steps.map(({ name }) => name),
      // what loads plugins is looked at when the server starts
      restart: true,
      load: plan.after === 'load' && switching.length === 0,
      placements: plan.steps.map(placementOf),
    },
    account,
  )
}

/** What is kept of placing a plugin, so that it can be taken out again. */
export function placementOf({ name, version, parts }: Pick<ShownStep, 'name' | 'version' | 'parts'>): Placement {
  // a file that was there already is not taken out, and neither is what somebody had set
  const own = parts.flatMap(({ actions, leftAsIs }) =>
    actions.filter((action) => !leftAsIs.includes(action.kind === 'entry' ? `${action.path}#/${action.at.join('/')}` : action.path)),
  )
  return { plugin: name, version, isOut: false, actions: own }
}

function refuseBlocked(plan: PlacingPlan): void {
  const problem = plan.problems.find(({ severity }) => severity === 'error')
  if (problem) throw new ServiceError('plan-blocked', 409, problem.message)
  const replaced = plan.steps.find(({ replaces }) => replaces !== null)
  if (replaced)
    throw new ServiceError(
      'plan-blocked',
      409,
      `${replaced.name} ${replaced.replaces!.version} is on this server. Use Updates, so that your settings are carried forward.`,
    )
  const onSite = plan.steps.filter(({ id }) => typeof id === 'string')
  if (onSite.length > 0)
    throw new ServiceError(
      'not-fetched',
      409,
      `${onSite.map(({ name, version }) => `${name} ${version}`).join(', ')} is at a plugin site, and its files are not in the plan. Add it to the pantry first, and look at the plan once more.`,
    )
  const open = plan.steps.flatMap(({ parts }) => parts).find(({ path }) => path.includes('{place}'))
  if (open) throw new ServiceError('plan-blocked', 409, `Choose the place that ${open.from ?? 'it'} goes to first.`)
}
