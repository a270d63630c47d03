/*
 * The only code that writes to a game server. Every step is recorded before it is taken, so that a process killed
 * anywhere leaves either the old files or the new ones, and recovery finishes or undoes the rest. What others write
 * meanwhile is never written over without a word: each file is looked at once more right before it is replaced, and what
 * was replaced is kept, with what somebody who had it open wrote into it since.
 */
import { LineIndex, blocksWriting, checkWorkspace, formatOf, patternsFor, readingFor, workspaceFile, workspaceOf } from '@pasticcio/core'
import type { ApplyFile, ApplyRow, Placement } from '../db/repositories/applies'
import type { PlannedCommand } from '../db/repositories/commands'
import { refuseUnheard, sendCommands, together } from './apply-commands'
import { makeItCount, needsRestart, said, type Counted, type Counting } from './apply-outcome'
import {
  hashAt,
  keepContents,
  lateWrites,
  putBack,
  releaseAll,
  resolveWrites,
  writeAll,
  type PlannedAction,
  type Step,
  type Write,
  type Written,
} from './apply-writes'
import type { Context, Server } from './context'
import { startServer, stopServer } from './control'
import { followFiles } from './drafts'
import { ServiceError, asServiceError } from './errors'
import type { Installed } from './inventory'
import { note } from './note'
import { flushRecords } from './records'
import { settle } from './recovery'
import { decode } from './text'

export type { PlannedAction } from './apply-writes'

export interface Change extends Counting {
  readonly title: string
  readonly actions: readonly PlannedAction[]
  readonly undoes?: number
  /** Plugins whose records it writes: the server writes what it knows of them first, and a record that is another then is drift. */
  readonly flush?: readonly Installed[]
  /** What is said to the console once the files count. */
  readonly commands?: readonly PlannedCommand[]
  /** Commands of what is taken back that no command takes back. */
  readonly untold?: readonly string[]
  /** What it does to place plugins, or to take them out. */
  readonly placements?: readonly Placement[]
}

/** Carries a change out. @throws ServiceError `busy`, `drift` or `has-errors`; then nothing was written. */
export async function applyChange(context: Context, server: Server, change: Change, account: string): Promise<ApplyRow> {
  const { actions, commands = [] } = change
  if (actions.length + commands.length === 0) throw new ServiceError('nothing-to-do', 409, 'There is nothing to write.')
  return server.work.run('write', account, async () => {
    refuseUnready(server)
    refuseUnheard(server, commands)
    const release = await server.place.claim()
    try {
      await settle(context, server)
      return await new Applying(context, server, change, account).run()
    } finally {
      release()
    }
  })
}

/** A server between two states cannot be told how a change is to be made to count. */
function refuseUnready({ row, console }: Server): void {
  const { status } = console.state
  if (status !== 'starting' && status !== 'stopping') return
  const words =
    status === 'starting' ? 'has not said yet that it is ready. Wait for it, or stop it first' : 'is stopping. Wait until it has'
  throw new ServiceError('busy', 409, `${row.slug} ${words}; nothing was written.`)
}

/** One change on its way. */
class Applying {
  private id = 0
  private files: ApplyFile[] = []
  private readonly written: Written[] = []
  private readonly step: Step = (name, detail = '') => this.context.applies.step(this.id, name, detail, this.at())

  constructor(
    private readonly context: Context,
    private readonly server: Server,
    private readonly change: Change,
    private readonly account: string,
  ) {}

  private at(): string {
    return this.context.now().toISOString()
  }

  async run(): Promise<ApplyRow> {
    const { context, server, change } = this
    for (const plugin of change.flush ?? []) await flushRecords(server, plugin, false)
    const writes = await this.resolve()
    this.files = await keepContents(context, writes)
    const wasRunning = ['running', 'unattended'].includes(server.console.state.status)
    const stopFirst = wasRunning && needsRestart(server, change) && server.console.lifecycle !== null
    await this.begin()
    try {
      await this.write(writes, stopFirst)
    } catch (error) {
      const told = await this.takeBack(error)
      if (stopFirst)
        await startServer(context, server).catch((later: unknown) => context.log.error({ error: later }, 'no start after a failure'))
      throw told
    } finally {
      server.inventory.forget()
    }
    await this.finish(wasRunning)
    return (await context.applies.get(this.id))!
  }

  private async resolve(): Promise<Write[]> {
    const writes = await resolveWrites(this.context, this.server, this.change.actions)
    if (this.change.kind !== 'undo') refuseBroken(this.server, writes, this.change.kind === 'settings')
    return writes
  }

  private async begin(): Promise<void> {
    const { context, server, change, account } = this
    const { kind, title, undoes = null, placements } = change
    this.id = await context.applies.begin(
      { serverId: server.row.id, kind, title, undoes, startedBy: account, startedAt: this.at() },
      this.files,
      placements,
      change.commands,
    )
    await note(context, account, kind, title, server)
  }

  private async write(writes: Write[], stopFirst: boolean): Promise<void> {
    let last = writes
    if (stopFirst) {
      await this.step('stop')
      await stopServer(this.server)
      // servers save when they stop, and what they saved counts
      last = await this.resolve()
      this.files = await keepContents(this.context, last)
      await this.context.applies.setFiles(this.id, this.files)
    }
    await writeAll(this.server, last, this.step, this.written)
  }

  /**
   * Writing failed in the middle. What cannot be taken back now either is settled before the next change.
   * @returns the error, saying also what is safe
   */
  private async takeBack(error: unknown): Promise<unknown> {
    const { context, server } = this
    const known = asServiceError(error)
    const saying = (words: string): unknown =>
      known instanceof ServiceError && known.code !== 'drift'
        ? new ServiceError(known.code, known.status, `${known.message} ${words}`, { cause: error })
        : error
    try {
      await this.keepLate()
      const others = await putBack(context, server, this.files)
      await releaseAll(server, this.written)
      const why = (known as Error).message
      await context.applies.end(this.id, 'failed', said(`Nothing was changed, and everything is as it was${exceptFor(others)}: ${why}`))
      return saying(`Nothing was changed, and everything is as it was${exceptFor(others)}.`)
    } catch (later) {
      server.settled = null
      context.log.error({ error: later, apply: this.id }, 'a failed change could not be taken back yet')
      return saying('What was begun is taken back before the next change, and nothing of before is lost.')
    }
  }

  /** The files are written: what goes wrong from here on is told with the change, and never leaves it unfinished. */
  private async finish(wasRunning: boolean): Promise<void> {
    const { context, server } = this
    const { status, outcome } = await this.count(wasRunning).catch((error: unknown): Counted => {
      context.log.error({ error, apply: this.id }, 'a change could not be made to count')
      return { status: 'complained', outcome: said(`The files are written, but they do not count yet: ${(error as Error).message}`) }
    })
    try {
      const { untold = [] } = this.change
      const left = untold.length === 0 ? [] : [`Not taken back, since no command does so: ${untold.join(', ')}. See to it on the console.`]
      const words = [...(await this.keepLate()), ...(await this.writtenOver()), ...left]
      // before the end, so that nothing is left where this is the last that is done
      await releaseAll(server, this.written)
      await context.applies.end(this.id, status, { ...outcome, message: [outcome.message, ...words].filter(Boolean).join(' ') })
    } catch (error) {
      server.settled = null
      throw error
    }
    const paths = this.files.map(({ path }) => path)
    await followFiles(context, server, paths).catch((error: unknown) => context.log.error({ error }, 'drafts did not follow their files'))
    await server.inventory.remember().catch((error: unknown) => context.log.error({ error }, 'packages were not remembered'))
  }

  /** Makes the files count, and then says what goes by command: where a plugin complains, nothing more is said to it. */
  private async count(wasRunning: boolean): Promise<Counted> {
    const { context, server, change, step } = this
    const { commands = [], actions } = change
    const files: Counted =
      actions.length === 0 ? { status: 'verified', outcome: said('') } : await makeItCount(context, server, change, wasRunning, step)
    if (commands.length === 0) return files
    if (files.status !== 'complained') return together(files, await sendCommands(context, server, this.id, commands, step))
    return together(files, { status: 'complained', outcome: said('Commands were not sent, and wait in the tray.') })
  }

  /** What others wrote at the moment of replacing is kept as what was before. @returns what to say of it */
  private async keepLate(): Promise<string[]> {
    const late = await lateWrites(this.server, this.written)
    if (late.length === 0) return []
    for (const { path, bytes } of late) {
      const beforeSha = await this.context.blobs.put(bytes)
      this.files = this.files.map((file) => (file.path === path ? { ...file, beforeSha } : file))
    }
    await this.context.applies.setFiles(this.id, this.files)
    return late.map(({ path }) => `The server wrote ${path} at the same moment; what it wrote is kept here as what was before.`)
  }

  /** Whether what was written stands there still. @returns what to say of what does not */
  private async writtenOver(): Promise<string[]> {
    const words: string[] = []
    for (const { path, afterSha } of this.files)
      if ((await hashAt(this.server, path)) !== afterSha)
        words.push(`${path} was written again since, by the server or somebody else. Open it to see what it holds now.`)
    return words
  }
}

const exceptFor = (paths: readonly string[]): string =>
  paths.length === 0 ? '' : `, but ${paths.join(', ')}, which others wrote meanwhile and which is left as they wrote it`

/** A settings file that does not read is never written. @param areSettings whether all of them are */
function refuseBroken(server: Server, writes: readonly Write[], areSettings: boolean): void {
  for (const { path, bytes } of writes) {
    const file =
      bytes && ((areSettings && formatOf(path) !== null) || isSettings(server, path))
        ? workspaceFile({ path, plugin: null, text: decode(path, bytes), factory: null, reading: readingFor(path, server.family) })
        : null
    const blocking = file && checkWorkspace(workspaceOf([file], server.family)).find(blocksWriting)
    if (file && blocking)
      throw new ServiceError(
        'has-errors',
        422,
        `Line ${new LineIndex(file.document.text).position(blocking.from).line} of ${path}: ${blocking.message} Nothing was written.`,
      )
  }
}

/** Of what a package brings, only settings must read; the rest is the plugin's own. */
function isSettings({ family }: Server, path: string): boolean {
  const { isSettings, isRecord } = patternsFor(family, null)
  return isSettings(path) || isRecord(path) || family.register.some(({ file }) => file === path)
}
