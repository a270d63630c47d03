import { RuleBook, amountOf, eachSetting, formatPointer, type Mark, type Markup } from '@pasticcio/core'
import type { Context, Server } from './context'
import { listedIn, type Listed, type RegistryName } from './registries'
import { workspaceFor, type ServerWorkspace } from './workspace'

/** A port that a setting names. */
export interface UsedPort {
  readonly port: number
  readonly plugin: string
  readonly path: string
  readonly pointer: string
}

/** A permission node that a plugin declares. */
export interface KnownNode {
  readonly id: string
  readonly says: string
  readonly plugin: string
}

/** What is known of a server that values of settings are picked from. */
export interface Known {
  readonly registries: Readonly<Record<string, readonly Listed[]>>
  readonly nodes: readonly KnownNode[]
  readonly ports: readonly UsedPort[]
  /** Placeholders, what each stands for, and the plugin that fills it in. */
  readonly placeholders: readonly { readonly text: string; readonly says: string; readonly plugin: string }[]
  readonly texts: Markup
}

const REGISTRIES: readonly RegistryName[] = ['items', 'blocks', 'sounds', 'effects', 'places', 'groups']

/** Lists, nodes, ports and placeholders of a server. A list that cannot be read is empty, and keeps nothing back. */
export async function knownOf(context: Context, server: Server): Promise<Known> {
  const all = await workspaceFor(context, server)
  const lists = await Promise.all(
    REGISTRIES.map(async (name): Promise<[string, readonly Listed[]]> => {
      const listed = await listedIn(server, name).catch((error: unknown) => {
        context.log.warn({ registry: name, error }, 'list not read')
        return []
      })
      return [name, listed]
    }),
  )
  const { placeholder, 'line-break': lineBreak, codes, marks } = server.family.texts
  return {
    registries: Object.fromEntries(lists),
    nodes: all.plugins.flatMap(({ name, info }) => Object.entries(info.nodes).map(([id, says]) => ({ id, says, plugin: name }))),
    ports: portsOf(all),
    placeholders: all.plugins.flatMap(({ name, info }) =>
      Object.entries(info.placeholders).map(([text, says]) => ({ text, says, plugin: name })),
    ),
    texts: { placeholder: placeholder as string[], lineBreak: lineBreak ?? null, codes: codes ?? null, marks: marks as Mark[] },
  }
}

function portsOf({ files }: ServerWorkspace): UsedPort[] {
  return [...files.values()].flatMap(({ file }) => {
    if (!file?.rules.some(({ means }) => means === 'port')) return []
    const book = new RuleBook(file.rules)
    return [...eachSetting(file.document)].flatMap(({ keys, entry }) => {
      const port = book.find(keys)?.means === 'port' ? amountOf(file.document, entry.value) : null
      return port === null ? [] : [{ port, plugin: file.plugin ?? '', path: file.path, pointer: formatPointer(keys) }]
    })
  })
}
