import { arrangementOf, nameOf, type FileFinding } from '@pasticcio/core'
import { placeInWords } from '../db/repositories/servers'
import type { Context, Server } from './context'
import type { Installed } from './inventory'
import type { PluginRun } from './runs'
import { canSwitch } from './switching'
import { listUpdates } from './updates'
import { workspaceFor, type KnownFile, type ServerWorkspace } from './workspace'

export interface FileSummary {
  readonly path: string
  /** The path below the plugin's folder. */
  readonly name: string
  readonly settings: number
  readonly mine: number
  readonly errors: number
  readonly warnings: number
  readonly staged: boolean
  readonly record: boolean
  /** Why the file cannot be shown; null where it can. */
  readonly problem: string | null
}

export interface PluginSummary {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly authors: readonly string[]
  readonly files: readonly FileSummary[]
  readonly mine: number
  /** The folder it was unpacked into; its name, where it stays packed. */
  readonly folder: string
  /** Whether it lies in a folder of its own, which can be renamed. */
  readonly isUnpacked: boolean
  /** Switched off, or not made known to the server. */
  readonly isOff: boolean
  readonly canSwitch: boolean
  /** Its package in the pantry; null where that has none. */
  readonly packageId: number | null
  /** What of it could not be looked into, and why. */
  readonly problems: readonly string[]
  /** What became of it since the server was started; null where it does not run, or nobody can know. */
  readonly run: PluginRun | null
  readonly update: { readonly to: string; readonly packageId: number } | null
}

export interface Overview {
  readonly slug: string
  readonly title: string
  readonly game: string
  /** Where the server's files are, in words. */
  readonly folder: string
  readonly plugins: readonly PluginSummary[]
  readonly staged: number
}

/** Everything the spine shows of one server. */
export async function overviewOf(context: Context, server: Server): Promise<Overview> {
  const all = await workspaceFor(context, server)
  const updates = new Map((await listUpdates(context, server, all.plugins)).map((update) => [update.plugin, update]))
  const runs = server.runs.of(server, all.plugins)
  const findings = countOf(all.findings)
  const isUnpacked = arrangementOf(server.family).arrives === 'folder'
  const plugins = all.plugins.map((plugin): PluginSummary => {
    const files = [
      ...plugin.files.map(({ path }) => settingsSummary(server, plugin, path, all, findings)),
      ...plugin.records.map(({ path }) => recordSummary(server, plugin, path)),
    ]
    const update = updates.get(plugin.name)
    return {
      name: plugin.name,
      version: plugin.version,
      summary: plugin.info.summary,
      authors: plugin.info.authors,
      files,
      mine: files.reduce((sum, file) => sum + file.mine, 0),
      folder: plugin.folder,
      isUnpacked,
      isOff: plugin.isOff,
      canSwitch: canSwitch(server),
      packageId: plugin.packageId,
      problems: plugin.problems,
      run: runs.get(plugin.name) ?? null,
      update: update ? { to: update.to, packageId: update.packageId } : null,
    }
  })
  return {
    slug: server.row.slug,
    title: server.family.title,
    game: await server.inventory.gameVersion(),
    folder: placeInWords(server.row.connection),
    plugins,
    staged: all.drafts.size,
  }
}

/** How many findings of each severity a file has; found by both together. */
function countOf(findings: readonly FileFinding[]): (path: string, severity: FileFinding['severity']) => number {
  const counts = new Map<string, number>()
  for (const { severity, file } of findings) counts.set(`${severity} ${file}`, (counts.get(`${severity} ${file}`) ?? 0) + 1)
  return (path, severity) => counts.get(`${severity} ${path}`) ?? 0
}

function settingsSummary(
  server: Server,
  plugin: Installed,
  path: string,
  all: ServerWorkspace,
  count: ReturnType<typeof countOf>,
): FileSummary {
  const known = all.files.get(path) as KnownFile
  return {
    path,
    name: shownName(server, plugin, path),
    settings: known.lines,
    mine: known.mine,
    errors: count(path, 'error') + (known.problem ? 1 : 0),
    warnings: count(path, 'warning'),
    staged: all.drafts.has(path),
    record: false,
    problem: known.problem,
  }
}

function recordSummary(server: Server, plugin: Installed, path: string): FileSummary {
  const name = shownName(server, plugin, path)
  return { path, name, settings: 0, mine: 0, errors: 0, warnings: 0, staged: false, record: true, problem: null }
}

/** A file outside of its plugin's folder is called by its path. */
function shownName(server: Server, plugin: Installed, path: string): string {
  const name = nameOf(server.family, plugin, path)
  return name.startsWith('/') ? path : name
}
