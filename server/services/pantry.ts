import { randomUUID } from 'node:crypto'
import { readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { PackageInfo } from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { PackageRow } from '../db/repositories/packages'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { note } from './note'
import { aboutOf } from './seen-packages'

/** Puts the packages of a download into the pantry. @throws ServiceError when it holds none, or another file of the same version is there */
export async function addPackages(
  context: Context,
  server: Server,
  bytes: Uint8Array,
  fileName: string,
  origin: string,
  account: string,
): Promise<PackageRow[]> {
  const { family } = server
  const others = (await context.families.all()).filter(({ id }) => id !== family.id)
  const rows: PackageRow[] = []
  for (const described of await context.unpacker.packages(bytes, family, fileName, others))
    rows.push(await addOne(context, server, { ...described, bytes: described.bytes ?? bytes }, origin, account))
  return rows
}

async function addOne(
  context: Context,
  server: Server,
  { info, root, bytes }: { readonly info: PackageInfo; readonly root: string; readonly bytes: Uint8Array },
  origin: string,
  account: string,
): Promise<PackageRow> {
  const familyId = server.family.id
  const known = await context.packages.find(familyId, info.name, info.version)
  if (known) {
    if (known.sha !== hashOf(bytes))
      throw new ServiceError(
        'bad-package',
        409,
        `The pantry has another file of ${info.name} ${info.version} already. An author who changes a package gives it a new version; ask which of the two is right.`,
      )
    return known
  }
  const row = { familyId, root, info: aboutOf(info), origin, addedAt: context.now().toISOString() }
  await context.packages.add(row, bytes, info.defaults)
  await note(context, account, 'pantry', `${info.name} ${info.version}, ${origin}`, server)
  return (await context.packages.find(familyId, info.name, info.version))!
}

/** Puts the packages that lie in a file into the pantry; the file is taken away. One after the other, since each is held whole. */
export function addPackageFile(
  context: Context,
  server: Server,
  file: string,
  named: { readonly name: string; readonly origin: string },
  account: string,
): Promise<PackageRow[]> {
  return context.intake.run(async () => {
    try {
      return await addPackages(context, server, await readFile(file), named.name, named.origin, account)
    } finally {
      await rm(file, { force: true })
    }
  })
}

/** A name for a file on its way in. */
export function scratchFile(context: Context): string {
  return join(context.scratch, randomUUID())
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
