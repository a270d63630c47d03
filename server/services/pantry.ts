import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import { planInstall, type InstallPlan, type Offer } from '@pasticcio/core'
import { array, object, string } from 'yup'
import type { ApplyRow } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import { applyChange } from './apply'
import { readArchive } from './archives'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { SIZES } from './sizes'
import { inRange, isNewer } from './versions'

/** Puts a package into the pantry. @throws ServiceError when it is none, or another file of the same version is there */
export async function addPackage(
  context: Context,
  server: Server,
  bytes: Uint8Array,
  fileName: string,
  origin: string,
  account: string,
): Promise<PackageRow> {
  refuseLarge(bytes.length, fileName)
  const info = await readArchive(bytes, server.family, fileName)
  const known = await context.packages.find(server.family.id, info.name, info.version)
  if (known) {
    if (known.sha !== hashOf(bytes))
      throw new ServiceError(
        'bad-package',
        409,
        `The pantry has another file of ${info.name} ${info.version} already. An author who changes a package gives it a new version; ask which of the two is right.`,
      )
    return known
  }
  const sha = await context.blobs.put(bytes)
  await context.packages.add({ familyId: server.family.id, sha, info, origin, addedAt: context.now().toISOString() })
  await context.record.add({
    at: context.now().toISOString(),
    account,
    serverId: server.row.id,
    action: 'pantry',
    detail: `${info.name} ${info.version}, ${origin}`,
  })
  return (await context.packages.find(server.family.id, info.name, info.version))!
}

/** @throws ServiceError `too-large` */
export function refuseLarge(size: number, fileName: string): void {
  if (size > SIZES.package)
    throw new ServiceError(
      'too-large',
      413,
      `${fileName} is over ${SIZES.package / 1024 / 1024} MB, and packages that large are not taken.`,
    )
}

/** What a plugin site answers. @throws ServiceError `bad-link`, `too-large` */
async function fetchFrom(url: URL): Promise<Uint8Array> {
  try {
    const response = await fetch(url, { redirect: 'error', signal: AbortSignal.timeout(30_000) })
    if (response.ok) return await bodyOf(response, url.pathname)
    throw new ServiceError('bad-link', 502, `The plugin site answered ${response.status} for ${url.pathname}. Check the link.`)
  } catch (error) {
    if (error instanceof ServiceError) throw error
    throw new ServiceError('bad-link', 502, `The plugin site did not answer. Check that it is up, and try again.`, { cause: error })
  }
}

/** The bytes of an answer, given up on as soon as there are too many. */
async function bodyOf(response: Response, fileName: string): Promise<Uint8Array> {
  refuseLarge(Number(response.headers.get('content-length') ?? 0), fileName)
  const parts: Uint8Array[] = []
  let size = 0
  for await (const part of response.body ? Readable.fromWeb(response.body as WebStream) : []) {
    refuseLarge((size += (part as Uint8Array).length), fileName)
    parts.push(part as Uint8Array)
  }
  return Buffer.concat(parts)
}

/** Fetches a package from a plugin site. Only sites that were set up are asked, and no redirect leads elsewhere. */
export async function addFromLink(context: Context, server: Server, link: string, account: string): Promise<PackageRow> {
  const url = URL.canParse(link) ? new URL(link) : null
  if (!url || !context.sites.includes(url.origin))
    throw new ServiceError(
      'bad-link',
      400,
      `Packages are fetched from ${context.sites.join(', ') || 'no site yet'} only. Download this one yourself and drop it here.`,
    )
  const bytes = await fetchFrom(url)
  return addPackage(context, server, bytes, url.pathname.split('/').pop() ?? 'package', 'from the plugin site', account)
}

export interface SiteOffer {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  readonly link: string
}

/** One package in the list a plugin site gives of what it has. */
const offerSchema = object({
  name: string().required(),
  version: string().required(),
  summary: string().default(''),
  game: string().default(''),
  link: string().required(),
})

/** What the plugin sites offer; a site that does not answer offers nothing. */
export async function listSites(context: Context): Promise<SiteOffer[]> {
  const lists = await Promise.all(
    context.sites.map(async (site) => {
      try {
        const response = await fetch(`${site}/index.json`, { redirect: 'error', signal: AbortSignal.timeout(5_000) })
        const list = await array()
          .required()
          .validate(await response.json())
        // one that is not right keeps the others from nobody
        return list
          .filter((offer) => offerSchema.isValidSync(offer))
          .map((offer) => offerSchema.cast(offer))
          .map((offer) => ({ ...offer, link: new URL(offer.link, site).href }))
      } catch (error) {
        context.log.warn({ site, error }, 'the plugin site does not answer')
        return []
      }
    }),
  )
  return lists.flat()
}

export async function requirePackage(context: Context, server: Server, id: number): Promise<PackageRow> {
  const row = await context.packages.get(id)
  if (!row || row.familyId !== server.family.id) throw notFound('package with this number in the pantry')
  return row
}

/** What installing a package means. */
export async function planFor(context: Context, server: Server, packageId: number): Promise<InstallPlan<number>> {
  const offer = (row: PackageRow): Offer<number> => ({ id: row.id, info: row.info, sha: row.sha })
  return planInstall({
    family: server.family,
    wanted: offer(await requirePackage(context, server, packageId)),
    pantry: (await context.packages.list(server.family.id)).map(offer),
    installed: await server.inventory.plugins(),
    gameVersion: await server.inventory.gameVersion(),
    satisfies: inRange,
    newer: isNewer,
  })
}

/** Installs a package with what it needs: the files go to their places, the server restarts, the console is read. */
export async function install(context: Context, server: Server, packageId: number, account: string): Promise<ApplyRow> {
  const plan = await planFor(context, server, packageId)
  const problem = plan.problems.find((item) => item.severity === 'error')
  if (problem) throw new ServiceError('plan-blocked', 409, problem.message)
  const replaced = plan.steps.find((step) => step.replaces !== null)
  if (replaced)
    throw new ServiceError(
      'plan-blocked',
      409,
      `${replaced.plugin} ${replaced.replaces} is on this server. Use Updates, so that your settings are carried forward.`,
    )
  const actions = plan.steps.flatMap((step) => step.actions)
  const last = plan.steps[plan.steps.length - 1]!
  const along = plan.steps.slice(0, -1).map((step) => step.plugin)
  const title = `Install ${last.plugin} ${last.version}${along.length > 0 ? ` with ${along.join(', ')}` : ''}`
  return applyChange(
    context,
    server,
    { kind: 'install', title, actions, plugins: plan.steps.map((step) => step.plugin), restart: plan.restart },
    account,
  )
}
