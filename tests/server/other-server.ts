import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { expect } from 'vitest'
import type { ApplyRow } from '../../server/db/repositories/applies'
import { requireServer, type Server } from '../../server/services/context'
import { saveDraft } from '../../server/services/drafts'
import { addPackages } from '../../server/services/pantry'
import { install, planPlacing, type PlacingInput, type PlacingPlan } from '../../server/services/placing'
import { planRemoval, removePlugin } from '../../server/services/removing'
import { viewFile } from '../../server/services/settings'
import { applyTray, listTray } from '../../server/services/tray'
import type { World } from './world'

/** The command that starts the stand-in. */
export const standin = (): string[] => [process.execPath, resolve('packages/standin/dist/server.mjs')]

/** One of the demo's other servers, or a folder of a test's own, with what people do to it. */
export class OtherServer {
  world!: World
  server!: Server
  home = ''

  async open(world: World, slug: string, familyId: string, command: readonly string[], text?: string): Promise<Server> {
    const { context } = world
    this.world = world
    await context.families.ship(text ?? readFileSync(`families/${familyId}.yml`, 'utf8'))
    this.home = join(world.folder, 'servers', slug)
    await context.servers.add({
      slug,
      familyId,
      connection: { place: { type: 'local', folder: this.home }, console: { type: 'process', folder: this.home, command } },
    })
    return (this.server = await requireServer(context, slug))
  }

  readonly read = (path: string): string => readFileSync(join(this.home, path), 'utf8')
  readonly has = (path: string): boolean => existsSync(join(this.home, path))

  /** Puts a download of the plugin site into the pantry. */
  readonly add = async (file: string, name = file): Promise<number[]> => {
    const bytes = readFileSync(join(this.world.folder, 'site', file))
    return (await addPackages(this.world.context, this.server, bytes, name, 'test', 'maren')).map(({ id }) => id)
  }

  readonly plan = (input: PlacingInput): Promise<PlacingPlan> => planPlacing(this.world.context, this.server, input)

  /** Installs as it is planned right now. */
  readonly put = async (input: PlacingInput): Promise<ApplyRow> => {
    const { sha } = await this.plan(input)
    return install(this.world.context, this.server, { ...input, planSha: sha }, 'maren')
  }

  readonly remove = async (plugin: string, settings: 'keep' | 'archive'): Promise<ApplyRow> => {
    const { sha } = await planRemoval(this.world.context, this.server, plugin, settings)
    return removePlugin(this.world.context, this.server, { plugin, settings, planSha: sha }, 'maren')
  }

  /** What a player reads. */
  readonly asked = async (command: string): Promise<string> => {
    const from = this.server.console.lastSeq
    this.server.console.send(command)
    const line = await this.server.console.waitFor(({ text }) => text.includes(' reads: '), from, 3000)
    return line?.text ?? ''
  }

  /** Changes a file and applies it. */
  readonly change = async (path: string, from: string, to: string): Promise<ApplyRow> => {
    const { context } = this.world
    const { text, sha } = await viewFile(context, this.server, path)
    expect(text).toContain(from)
    await saveDraft(context, this.server, { path, text: text.replace(from, to), baseSha: sha, draftSha: null }, 'maren')
    return applyTray(context, this.server, await listTray(context, this.server), 'maren')
  }
}
