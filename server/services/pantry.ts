import { randomUUID } from 'node:crypto'
import { readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { planInstall, type InstallPlan, type Offer } from '@pasticcio/core'
import type { ApplyRow } from '../db/repositories/applies'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import { applyChange } from './apply'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { note } from './note'
import { fetchPackage } from './sites'
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
  const { defaults, ...info } = await context.unpacker.describe(bytes, server.family, fileName)
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
  await context.packages.add({ familyId: server.family.id, info, origin, addedAt: context.now().toISOString() }, bytes, defaults)
  await note(context, account, 'pantry', `${info.name} ${info.version}, ${origin}`, server)
  return (await context.packages.find(server.family.id, info.name, info.version))!
}

/** Puts a package that lies in a file into the pantry; the file is taken away. One after the other, since each is held whole. */
export function addPackageFile(
  context: Context,
  server: Server,
  file: string,
  named: { readonly name: string; readonly origin: string },
  account: string,
): Promise<PackageRow> {
  return context.intake.run(async () => {
    try {
      return await addPackage(context, server, await readFile(file), named.name, named.origin, account)
    } finally {
      await rm(file, { force: true })
    }
  })
}

/** A name for a file on its way in. */
export function scratchFile(context: Context): string {
  return join(context.scratch, randomUUID())
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
  const file = scratchFile(context)
  try {
    await fetchPackage(url, file)
    const name = url.pathname.split('/').pop() || 'package'
    return await addPackageFile(context, server, file, { name, origin: 'from the plugin site' }, account)
  } finally {
    await rm(file, { force: true })
  }
}

/** Takes a package out of the pantry. @throws ServiceError `in-use` for one that lies on a server */
export async function removePackage(context: Context, server: Server, id: number, account: string): Promise<void> {
  const { info } = await requirePackage(context, server, id)
  const servers = await context.packages.serversWith(id)
  if (servers.length > 0)
    throw new ServiceError('in-use', 409, `${info.name} ${info.version} is installed on ${servers.join(', ')}, so it stays in the pantry.`)
  await context.packages.remove(id)
  await note(context, account, 'remove-package', `${info.name} ${info.version}`, server)
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
