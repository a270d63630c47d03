import { LIKELY, arrangementOf, recogniseFamilies, type Family, type FamilyEvidence } from '@pasticcio/core'
import { PlaceError, openPlace, type Place } from '../places'
import type { Context } from './context'
import { ServiceError } from './errors'
import { Inventory, type Installed } from './inventory'
import { familyIn } from './profiles'

/** What was found in a folder, before it becomes a server of Pasticcio's. Nothing is written to find it out. */
export interface Survey {
  readonly folder: string
  readonly families: readonly FamilyEvidence[]
  /** The family it looks like, or the one that was asked for; null where nothing speaks for any. */
  readonly family: string | null
  readonly game: string
  readonly plugins: readonly SurveyedPlugin[]
  /** Files in the plugins' folder that look like packages and are none. */
  readonly strangers: readonly string[]
  readonly settingsFiles: number
  /** Settings files without a factory copy: of these it can be shown what they say, not what was changed. */
  readonly withoutFactory: readonly string[]
  /** Scripts in the folder that may start it. */
  readonly starters: readonly string[]
  /** A name for it that is free. */
  readonly slug: string
}

export interface SurveyedPlugin {
  readonly name: string
  readonly version: string
  readonly file: string
  readonly settingsFiles: number
  readonly records: number
}

/** @throws ServiceError saying why the folder cannot be a server */
export async function survey(context: Context, folder: string, wanted?: string): Promise<Survey> {
  await refuseTaken(context, folder)
  const place = openPlace({ type: 'local', folder } as { type: string })
  const families = await Promise.all((await context.families.all()).map((family) => familyIn(family, place, [])))
  const top = await place.list('', 0)
  const below = (
    await Promise.all(families.flatMap((family) => spotsOf(family).map(({ folder, depth }) => place.list(folder, depth))))
  ).flat()
  const evidence = recogniseFamilies(families, [...new Set([...top, ...below].map(({ path }) => path))])
  const chosen = families.find(({ id }) => id === (wanted ?? (evidence[0]!.score >= LIKELY ? evidence[0]!.family : null))) ?? null
  const found = chosen ? await look(context, chosen, place) : NOTHING
  const starters = top.map(({ path }) => path).filter((path) => /\.(sh|cmd|bat)$/.test(path))
  return { folder, families: evidence, family: chosen?.id ?? null, ...found, starters, slug: await freeSlug(context, folder) }
}

/** Folders that may tell whether a server is one of a family. */
function spotsOf(family: Family): { folder: string; depth: number }[] {
  const files = [family['game-version'].file, ...family.register.map(({ file }) => file)]
  const inFolders = files.filter((file) => file.includes('/')).map((file) => ({ folder: file.split('/').slice(0, -1).join('/'), depth: 0 }))
  return [...arrangementOf(family).roots(family), { folder: family.plugins.folder, depth: 1 }, ...inFolders]
}

/** @throws ServiceError for a folder that cannot be used, or that another server of Pasticcio's lies in, also by another path */
export async function refuseTaken(context: Context, folder: string): Promise<void> {
  const own = await openPlace({ type: 'local', folder } as { type: string })
    .probe()
    .catch((error: unknown) => {
      throw error instanceof PlaceError ? new ServiceError('bad-folder', 400, error.message, { cause: error }) : error
    })
  for (const { slug, connection } of await context.servers.list()) {
    if (connection.place.type !== 'local') continue
    const other = await openPlace(connection.place)
      .probe()
      .catch(() => null)
    if (other === own) throw new ServiceError('name-taken', 409, `${folder} is the folder of ${slug}, which is here already.`)
  }
}

type Found = Pick<Survey, 'game' | 'plugins' | 'strangers' | 'settingsFiles' | 'withoutFactory'>

const NOTHING: Found = { game: 'unknown', plugins: [], strangers: [], settingsFiles: 0, withoutFactory: [] }

async function look(context: Context, family: Family, place: Place): Promise<Found> {
  // an inventory of nobody's server: it reads, and nothing remembers it
  const connection = { place: { type: 'none' }, console: { type: 'none' } }
  const inventory = new Inventory(context, { id: 0, slug: '', familyId: family.id, connection }, family, place)
  const installed = await inventory.plugins()
  const withoutFactory: string[] = []
  for (const plugin of installed)
    for (const { path } of plugin.files) if (!(await inventory.factoryOf(plugin, path))) withoutFactory.push(path)
  return {
    game: await inventory.gameVersion(),
    plugins: installed.map(surveyed),
    strangers: inventory.strangerPaths,
    settingsFiles: installed.reduce((sum, plugin) => sum + plugin.files.length, 0),
    withoutFactory,
  }
}

const surveyed = ({ name, version, packagePath, files, records }: Installed): SurveyedPlugin => ({
  name,
  version,
  file: packagePath,
  settingsFiles: files.length,
  records: records.length,
})

/** The folder's name as a name for the server, with a number where that is taken. */
async function freeSlug(context: Context, folder: string): Promise<string> {
  const last = folder.split(/[\\/]/).filter(Boolean).pop() ?? 'server'
  const base =
    last
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 40) || 'server'
  const taken = new Set((await context.servers.list()).map(({ slug }) => slug))
  for (let n = 1; ; n++) {
    const slug = n === 1 ? base : `${base}-${n}`
    if (!taken.has(slug)) return slug
  }
}
