import { checkRules, formatOf, inferRules, layer, parse, readingFor } from '@pasticcio/core'
import type { Context, Server } from './context'
import { gameVersion, listInstalled } from './installed'
import { decode } from './settings'
import { listUpdates } from './updates'

export interface FileSummary {
  readonly path: string
  readonly name: string
  readonly settings: number
  readonly mine: number
  readonly errors: number
  readonly warnings: number
  readonly staged: boolean
  readonly record: boolean
}

export interface PluginSummary {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly authors: readonly string[]
  readonly files: readonly FileSummary[]
  readonly mine: number
  readonly update: { readonly to: string; readonly packageId: number } | null
}

export interface Overview {
  readonly slug: string
  readonly title: string
  readonly game: string
  readonly folder: string
  readonly plugins: readonly PluginSummary[]
  readonly staged: number
}

/** Everything the spine shows of one server. */
export async function overviewOf(context: Context, server: Server): Promise<Overview> {
  const updates = await listUpdates(context, server)
  const drafts = new Map((await context.drafts.list(server.row.id)).map((draft) => [draft.path, draft.sha]))
  const plugins: PluginSummary[] = []
  for (const item of await listInstalled(context, server)) {
    const files: FileSummary[] = []
    for (const path of item.files) files.push(await summarise(context, server, item.name, item.version, path, drafts.get(path) ?? null))
    for (const path of item.records)
      files.push({ path, name: path.split('/').pop()!, settings: 0, mine: 0, errors: 0, warnings: 0, staged: false, record: true })
    const update = updates.find((other) => other.plugin === item.name)
    plugins.push({
      name: item.name,
      version: item.version,
      summary: item.info.summary,
      authors: item.info.authors,
      files,
      mine: files.reduce((sum, file) => sum + file.mine, 0),
      update: update ? { to: update.to, packageId: update.packageId } : null,
    })
  }
  return {
    slug: server.row.slug,
    title: server.family.title,
    game: await gameVersion(server),
    folder: server.row.folder,
    plugins,
    staged: drafts.size,
  }
}

async function summarise(
  context: Context,
  server: Server,
  plugin: string,
  version: string,
  path: string,
  draftSha: string | null,
): Promise<FileSummary> {
  const name = path.split('/').pop()!
  const empty = { path, name, settings: 0, mine: 0, errors: 0, warnings: 0, staged: draftSha !== null, record: false }
  const format = formatOf(path)
  const bytes = draftSha ? await context.blobs.requireBytes(draftSha) : await server.files.read(path)
  if (!format || !bytes) return empty
  try {
    const document = parse(decode(path, bytes), format, readingFor(path, server.family))
    const factorySha = await context.factory.get(server.row.id, plugin, version, path)
    const factory = factorySha ? parse(await context.blobs.requireText(factorySha), format, readingFor(path, server.family)) : null
    const findings = [...document.findings, ...(factory ? checkRules(document, inferRules(factory)) : [])]
    return {
      ...empty,
      mine: factory ? layer(factory, document).length : 0,
      settings: document.text.split('\n').length,
      errors: findings.filter((finding) => finding.severity === 'error').length,
      warnings: findings.filter((finding) => finding.severity === 'warning').length,
    }
  } catch (error) {
    context.log.warn({ path, error }, 'file not summarised')
    return { ...empty, errors: 1 }
  }
}
