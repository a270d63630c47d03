import { inNamedProfile, mayNameProfile, type Family } from '@pasticcio/core'
import type { Connection } from '../db/repositories/servers'
import type { Place } from '../places'
import { SIZES } from './sizes'

/**
 * A description as it holds for one server: the profile's folder is the one its start command names, or a script of its
 * folder. Scripts that the command runs count before others, and folders that are there before those that are not.
 * @param command how it is started; empty where that is not known
 */
export async function familyIn(family: Family, place: Place, command: readonly string[]): Promise<Family> {
  if (!family.profile) return family
  const scripts = (await place.list('', 0)).map(({ path }) => path).filter((path) => mayNameProfile(family, path))
  const run = scripts.filter((path) => command.some((word) => word.split(/[\s'";&|]+/).some((part) => part.replace(/^\.\//, '') === path)))
  const texts = [command.join(' '), ...(await textsOf(place, run.length > 0 ? run : scripts))]
  return inNamedProfile(family, texts, (folder) => isThere(place, folder))
}

/** How a server is started: the program and its arguments; null where others start it. */
export function commandIn({ console }: Connection): readonly string[] | null {
  return Array.isArray(console['command']) ? (console['command'] as string[]) : null
}

const isThere = async (place: Place, folder: string): Promise<boolean> => (await place.list(folder, 1)).length > 0

async function textsOf(place: Place, paths: readonly string[]): Promise<string[]> {
  const contents = await Promise.all(paths.map((path) => place.read(path, SIZES.settings).catch(() => null)))
  return contents.map((bytes) => bytes?.toString('utf8') ?? '')
}
