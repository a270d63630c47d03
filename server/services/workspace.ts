import pLimit from 'p-limit'
import {
  checkFile,
  checkWorkspace,
  CHECKS,
  layer,
  listFindings,
  readingFor,
  workspaceFile,
  workspaceOf,
  type FileFinding,
  type Rule,
  type Workspace,
  type WorkspaceFile,
} from '@pasticcio/core'
import type { PlaceFile } from '../places'
import type { Context, Server } from './context'
import { asServiceError, ServiceError } from './errors'
import { rulesOf } from './file-rules'
import type { Installed } from './inventory'
import { SIZES } from './sizes'
import { decode } from './text'

/** Reading waits for the disk or the network, and only the rest for this process. */
const READ_AT_ONCE = 16

/** What is known of one settings file; kept as long as neither the file nor its draft nor its factory copy changes. */
export interface KnownFile {
  /** Null where the file cannot be shown; then `problem` says why. */
  readonly file: WorkspaceFile | null
  /** Findings of the checks that look at one file. */
  readonly findings: readonly FileFinding[]
  readonly mine: number
  readonly settings: number
  readonly problem: string | null
}

/** What was read of a server's files, by path, with what it was read from. */
export class WorkspaceCache {
  private readonly known = new Map<string, { readonly key: string; readonly file: KnownFile }>()

  async get(path: string, key: string, read: () => Promise<KnownFile>): Promise<KnownFile> {
    const there = this.known.get(path)
    if (there?.key === key) return there.file
    const file = await read()
    this.known.set(path, { key, file })
    return file
  }

  /** Drops what is no longer there. */
  keepOnly(paths: ReadonlySet<string>): void {
    for (const path of this.known.keys()) if (!paths.has(path)) this.known.delete(path)
  }
}

export interface ServerWorkspace {
  readonly workspace: Workspace
  readonly plugins: readonly Installed[]
  readonly files: ReadonlyMap<string, KnownFile>
  /** Everything that is wrong, also across files. */
  readonly findings: readonly FileFinding[]
  /** Hashes of drafts by path. */
  readonly drafts: ReadonlyMap<string, string>
}

/** Every settings file of a server, drafts in their places, with what is wrong in them: one pass over the inventory. */
export async function workspaceFor(context: Context, server: Server): Promise<ServerWorkspace> {
  const plugins = await server.inventory.plugins()
  const drafts = new Map((await context.drafts.list(server.row.id)).map((draft) => [draft.path, draft.sha]))
  const given = await context.rules.of(server.row.id)
  // what plugins share is known by the first of them
  const owned = new Map<string, { readonly plugin: Installed; readonly file: PlaceFile }>()
  for (const plugin of plugins) for (const file of plugin.files) if (!owned.has(file.path)) owned.set(file.path, { plugin, file })
  const turns = pLimit(READ_AT_ONCE)
  const known = await Promise.all(
    [...owned].map(([path, { plugin, file }]) =>
      turns(() => knownFile(context, server, plugin, file, drafts.get(path) ?? null, rulesOf(given, server.family, plugin, path))),
    ),
  )
  const files = new Map([...owned.keys()].map((path, index) => [path, known[index]!]))
  server.workspace.keepOnly(new Set(files.keys()))
  const workspace = workspaceOf(
    [...files.values()].map((known) => known.file),
    server.family,
    plugins,
  )
  const across = checkWorkspace(workspace, { changed: [], checks: CHECKS.filter((check) => check.scope === 'server') })
  return { workspace, plugins, files, drafts, findings: [...[...files.values()].flatMap((known) => known.findings), ...across] }
}

async function knownFile(
  context: Context,
  server: Server,
  plugin: Installed,
  file: PlaceFile,
  draftSha: string | null,
  rules: readonly Rule[],
): Promise<KnownFile> {
  const copy = await server.inventory.factoryOf(plugin, file.path)
  // the same text counts as the same, wherever it is kept by now
  const key = JSON.stringify([plugin.name, plugin.version, draftSha ?? `${file.size} ${file.changed}`, copy?.sha ?? 'none', rules])
  return server.workspace.get(file.path, key, async () => {
    try {
      const text = await textOf(context, server, file.path, draftSha)
      const factory = await server.inventory.factoryText(plugin, file.path)
      const reading = readingFor(file.path, server.family)
      return summarise(workspaceFile({ path: file.path, plugin: plugin.name, text, factory, reading, rules }))
    } catch (error) {
      const told = asServiceError(error)
      if (!(told instanceof ServiceError)) throw error
      return { file: null, findings: [], mine: 0, settings: 0, problem: told.message }
    }
  })
}

async function textOf(context: Context, server: Server, path: string, draftSha: string | null): Promise<string> {
  const bytes = draftSha ? await context.blobs.requireBytes(draftSha) : await server.place.read(path, SIZES.settings)
  return decode(path, bytes ?? new Uint8Array())
}

function summarise(file: WorkspaceFile | null): KnownFile {
  if (!file) return { file, findings: [], mine: 0, settings: 0, problem: null }
  return {
    file,
    findings: listFindings(file.path, checkFile(workspaceOf([file]), file)),
    mine: file.factory && file.factory.text !== file.document.text ? layer(file.factory, file.document).length : 0,
    settings: file.document.text.split('\n').length,
    problem: null,
  }
}
