import { dataFolder, patternsFor, type Family, type Placed } from '@pasticcio/core'
import type { Installed } from './inventory'

/** The plugin a console speaks of, by its name or by its folder's. */
export function pluginSaid<P extends Placed>(plugins: readonly P[], said: string): P | null {
  return plugins.find(({ name }) => name === said) ?? plugins.find(({ folder, home }) => folder === said || home === said) ?? null
}

/** The settings file of a plugin that a console speaks of: below its folder, or below the server's; null where it is none. */
export function fileSaid(family: Family, plugin: Placed & Partial<Pick<Installed, 'files'>>, said: string): string | null {
  const data = dataFolder(family, plugin)
  const { isSettings } = patternsFor(family, plugin)
  const isOwn = (path: string): boolean => isSettings(path) || (plugin.files?.some((file) => file.path === path) ?? false)
  return [...(data === null ? [] : [`${data}/${said}`]), said].find(isOwn) ?? null
}
