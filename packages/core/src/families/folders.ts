import { fillIn, type Family } from './family'

/** The folder one plugin keeps its files in, relative to the server's. */
export function dataFolder(family: Family, plugin: string): string {
  return fillIn(family.plugins['data-folder'], { plugin })
}

/** The plugin whose folder a path lies in; null for others. Names hold no slashes. */
export function pluginOfPath(family: Family, path: string): string | null {
  const [before = '', after = ''] = family.plugins['data-folder'].split('{plugin}')
  if (!path.startsWith(before)) return null
  const rest = path.slice(before.length)
  const end = rest.indexOf(after + '/')
  return end > 0 && !rest.slice(0, end).includes('/') ? rest.slice(0, end) : null
}

/** A path below a plugin's folder as the plugin names it; null for others. */
export function nameInFolder(family: Family, plugin: string, path: string): string | null {
  const folder = dataFolder(family, plugin) + '/'
  return path.startsWith(folder) ? path.slice(folder.length) : null
}
