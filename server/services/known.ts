import { markupOf, type Markup } from '@pasticcio/core'
import type { Context, Server } from './context'
import type { Listed } from './registries'
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

/** Lists, nodes, ports and placeholders of a server. A list that cannot be read is empty, and keeps nothing back. */
export async function knownOf(context: Context, server: Server): Promise<Known> {
  const all = await workspaceFor(context, server)
  return {
    registries: all.lists,
    nodes: all.plugins.flatMap(({ name, info }) => Object.entries(info.nodes).map(([id, says]) => ({ id, says, plugin: name }))),
    ports: portsOf(all),
    placeholders: all.plugins.flatMap(({ name, info }) =>
      Object.entries(info.placeholders).map(([text, says]) => ({ text, says, plugin: name })),
    ),
    texts: markupOf(server.family),
  }
}

function portsOf({ files }: ServerWorkspace): UsedPort[] {
  return [...files].flatMap(([path, { facts }]) =>
    (facts?.ports ?? []).map(({ port, pointer }) => ({ port, plugin: facts?.plugin ?? '', path, pointer })),
  )
}
