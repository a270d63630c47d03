import type { ConsoleEvent } from '@pasticcio/core'
import type { Console, ServerStatus } from '../consoles'
import type { Server } from './context'
import type { Installed } from './inventory'
import { fileSaid, pluginSaid } from './said'

type Said = Extract<ConsoleEvent, { type: 'loaded' | 'failed' }>

/** What became of a plugin since its server was started last. */
export interface PluginRun {
  /** `waiting` while the server starts; `silent` where it is up and its console never spoke of the plugin. */
  readonly state: 'waiting' | 'loaded' | 'failed' | 'silent'
  /** Why it failed, in the console's words; empty otherwise. */
  readonly reason: string
  /** The settings file the console names, and the line in it. */
  readonly path: string | null
  readonly line: number | null
}

const plain = (state: PluginRun['state']): PluginRun => ({ state, reason: '', path: null, line: null })

/** What a console said of plugins since the last start, by what it calls them. It is remembered however much is said after it. */
export class PluginRuns {
  private readonly said = new Map<string, Said>()
  /** When each was loaded last, in milliseconds, by what the console calls it. */
  private readonly loaded = new Map<string, number>()

  constructor(console: Console) {
    let before: ServerStatus = console.state.status
    console.listen({
      // a server that starts may tell its players and its ticks before it is ready
      state: ({ status }) => {
        if (status === 'starting' && before !== 'starting') this.said.clear()
        before = status
      },
      line: ({ event }) => {
        if (event?.type !== 'loaded' && event?.type !== 'failed') return
        this.said.set(event.plugin, event)
        if (event.type === 'loaded') this.loaded.set(event.plugin, Date.now())
      },
    })
  }

  /** When a plugin took its settings last, in milliseconds; null where that was never heard. */
  loadedAt(plugin: Installed): number | null {
    const times = [...this.loaded].flatMap(([said, at]) => (pluginSaid([plugin], said) ? [at] : []))
    return times.length > 0 ? Math.max(...times) : null
  }

  /** How each of some plugins runs, by name; nothing for a server that does not run, and for plugins that are switched off. */
  of(server: Server, plugins: readonly Installed[]): ReadonlyMap<string, PluginRun> {
    const runs = new Map<string, PluginRun>()
    const { status } = server.console.state
    // a family that does not say how plugins are loaded leaves open whether they are
    if (!['starting', 'running'].includes(status) || server.family.console.loaded === undefined) return runs
    for (const plugin of plugins) if (!plugin.isOff) runs.set(plugin.name, plain(status === 'starting' ? 'waiting' : 'silent'))
    for (const event of this.said.values()) {
      const plugin = pluginSaid(plugins, event.plugin)
      if (plugin && !plugin.isOff) runs.set(plugin.name, this.runOf(server, plugin, event))
    }
    return runs
  }

  private runOf({ family }: Server, plugin: Installed, event: Said): PluginRun {
    if (event.type === 'loaded') return plain('loaded')
    const path = event.file === null ? null : fileSaid(family, plugin, event.file)
    return { state: 'failed', reason: event.reason, path, line: path === null ? null : event.line }
  }
}
