import { nameOf, type Family, type Rule } from '@pasticcio/core'
import type { Installed } from './inventory'

/**
 * What people say the settings of a file are, and what the plugin's author declares.
 * @param given what people say, by the path of the file
 */
export function rulesOf(given: ReadonlyMap<string, readonly Rule[]>, family: Family, plugin: Installed, path: string): readonly Rule[] {
  return [...(given.get(path) ?? []), ...(plugin.info.rules?.[nameOf(family, plugin, path)] ?? [])]
}
