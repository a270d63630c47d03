import { nameOf, type Rule } from '@pasticcio/core'
import type { Context, Server } from './context'
import type { Installed } from './inventory'

/** What people say the settings of a file are, and what the plugin's author declares. */
export async function rulesOf(context: Context, { row, family }: Server, plugin: Installed, path: string): Promise<readonly Rule[]> {
  const yours = (await context.rules.of(row.id)).get(path) ?? []
  const declared = plugin.info.rules?.[nameOf(family, plugin, path)] ?? []
  return [...yours, ...declared]
}
