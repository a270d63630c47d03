import { spawn, type ChildProcess, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { realpath } from 'node:fs/promises'
import type { Family } from '@pasticcio/core'
import { array, object, string, type InferType } from 'yup'
import { claimFolder, type FolderClaim } from '../places/folder-claim'
import { ConsoleError, type Console, type ConsoleDriver, type ConsoleListener, type Lifecycle, type NumberedLine } from './console'
import {
  MARK,
  askToEnd,
  endAll,
  folderId,
  markedOnly,
  processesOf,
  readRecord,
  recordOf,
  waitForEnd,
  type GameRecord,
} from './game-process'
import { readLines } from './lines'
import { ConsoleLog } from './log'

const schema = object({ folder: string().required(), command: array(string().required()).min(1).required() }).noUnknown()

/** A game server as a child process: started in its folder, spoken to through standard input, read line by line. */
export const processDriver: ConsoleDriver<InferType<typeof schema>> = {
  type: 'process',
  schema,
  secrets: [],
  open: ({ folder, command }, family) => new ProcessConsole(family, folder, command),
}

const START_WITHIN_MS = 60_000
/** How long what a start script leaves behind may go on after it. */
const LEFT_BEHIND_MS = 1_000
/** How long the system may take to end processes. */
const END_WITHIN_MS = 10_000

class ProcessConsole implements Console, Lifecycle {
  readonly lifecycle = this
  private readonly log: ConsoleLog
  private child: ChildProcessWithoutNullStreams | null = null
  private claim: FolderClaim | null = null
  /** A start that is under way until its process is there. */
  private launching: Promise<unknown> | null = null
  /** The start whose processes run, as far as is known. */
  private record: GameRecord | null = null

  constructor(
    private readonly family: Family,
    private readonly folder: string,
    private readonly command: readonly string[],
  ) {
    this.log = new ConsoleLog(family)
  }

  get state() {
    return this.log.state
  }

  get lastSeq(): number {
    return this.log.lastSeq
  }

  since(seq: number): NumberedLine[] {
    return this.log.since(seq)
  }

  listen(listener: ConsoleListener): () => void {
    return this.log.listen(listener)
  }

  waitFor(fits: (line: NumberedLine) => boolean, after: number, withinMs: number): Promise<NumberedLine | null> {
    return this.log.waitFor(fits, after, withinMs)
  }

  async look(): Promise<void> {
    if (this.child || this.state.status === 'unattended') return
    const { note } = await this.claimed()
    const record = note === null ? null : readRecord(note, await folderId(this.folder))
    if (record === null || (await processesOf(record)).length === 0) return this.letGo()
    this.record = record
    this.log.setState({ status: 'unattended' })
    this.log.note(
      `This server runs since ${record.startedAt.slice(0, 16).replace('T', ' ')} UTC, and its console was lost when Pasticcio was ended. Stop it to take it over.`,
    )
  }

  async start(): Promise<void> {
    if (this.child || this.launching) throw new ConsoleError('running', 'The server is running already.')
    const from = this.lastSeq
    const launching = this.launch().finally(() => (this.launching = null))
    this.launching = launching
    const { ended } = await launching
    const ready = this.waitFor((line) => line.event?.type === 'ready', from, START_WITHIN_MS)
    const why = await Promise.race([ready.then((line) => (line ? null : 'it did not get ready within a minute')), ended])
    if (why !== null) throw new ConsoleError('did-not-start', `The server did not start: ${why}. Its console says more.`)
  }

  private async launch(): Promise<{ ended: Promise<string> }> {
    await this.look()
    if (this.record)
      throw new ConsoleError(
        'running',
        `The server runs already, as process ${this.record.pid}: Pasticcio was ended while it ran, and a second one would work on the same files. Stop it first.`,
      )
    const claim = await this.claimed()
    const mark = randomUUID()
    const folder = await folderId(this.folder)
    this.log.setState({ status: 'starting' })
    // what runs from here on is remembered, also where Pasticcio is ended in the next moment
    claim.note = JSON.stringify(markedOnly(mark, folder))
    const child = this.spawn(mark)
    this.child = child
    const left = whenLeft(child, this.command[0]!)
    if (child.pid !== undefined) {
      this.record = await recordOf(child.pid, mark, folder)
      claim.note = JSON.stringify(this.record)
    }
    return { ended: this.whenEnded(child, left) }
  }

  private spawn(mark: string): ChildProcessWithoutNullStreams {
    const [program, ...args] = this.command
    const child = spawn(program!, args, {
      cwd: this.folder,
      stdio: 'pipe',
      // a group of its own, so that what it starts in turn can be ended with it
      detached: true,
      env: { PATH: process.env['PATH'] ?? '', LANG: process.env['LANG'] ?? 'C.UTF-8', HOME: this.folder, [MARK]: mark },
    })
    for (const stream of [child.stdout, child.stderr]) readLines(stream, (line) => this.log.accept(line))
    child.stdin.on('error', () => undefined)
    return child
  }

  /** @returns why it ended, as soon as nothing of it runs any more */
  private async whenEnded(child: ChildProcessWithoutNullStreams, left: Promise<string>): Promise<string> {
    const { record } = this
    const why = await left
    // a script that starts the server may end before it, or leave it behind
    if (record) await waitForEnd(record, Infinity)
    if (this.child === child) this.ended(this.state.status === 'stopping' ? 'stopped' : 'failed')
    return why
  }

  private ended(status: 'stopped' | 'failed'): void {
    this.child = null
    this.log.sayLeftOut()
    this.letGo()
    this.log.setState({ status, players: null, ticks: null, memory: null })
  }

  async stop(): Promise<boolean> {
    // one that is about to be there is stopped as soon as it is
    await this.launching?.catch(() => undefined)
    if (!this.child) await this.look()
    const { child, record } = this
    if (!record) return true
    this.log.setState({ status: 'stopping' })
    if (child) child.stdin.write(this.family.console.stop + '\n')
    const seconds = this.family.console['stop-within']
    if (await endedWhenAsked(record, child, seconds * 1000)) {
      this.hasEnded(record)
      return true
    }
    this.log.note(`It was asked to stop and runs on after ${seconds} seconds. It may yet; or it can be ended, with what it has not saved.`)
    if (!child) void waitForEnd(record, Infinity).then(() => this.hasEnded(record))
    return false
  }

  async kill(): Promise<void> {
    await this.launching?.catch(() => undefined)
    if (!this.child) await this.look()
    const { record } = this
    if (!record) return
    this.log.setState({ status: 'stopping' })
    await endAll(record, END_WITHIN_MS)
    this.log.note('It was ended, without waiting for it.')
    this.hasEnded(record)
  }

  /** Nothing of a start runs any more. */
  private hasEnded(record: GameRecord): void {
    if (this.record === record) this.ended('stopped')
  }

  send(line: string): void {
    if (!this.child)
      throw new ConsoleError(
        'not-running',
        this.state.status === 'unattended'
          ? 'The console of this server was lost when Pasticcio was ended. Stop it and start it again.'
          : 'The server is not running. Start it first.',
      )
    this.child.stdin.write(line.replace(/[\r\n]/g, ' ') + '\n')
  }

  askTimes(): void {
    const { times } = this.family.console
    if (times === undefined || !this.child) return
    this.log.expectTimes()
    this.send(times)
  }

  async close(): Promise<void> {
    // one that does not stop would go on without anybody who reads its console
    if ((this.child || this.launching) && !(await this.stop())) await this.kill()
    this.claim?.release()
    this.claim = null
  }

  private async claimed(): Promise<FolderClaim> {
    const root = await realpath(this.folder).catch((cause: unknown) => {
      throw new ConsoleError('unreachable', `${this.folder}: there is no such folder on the machine that Pasticcio runs on.`, { cause })
    })
    this.claim ??= claimFolder(root)
    return this.claim
  }

  /** Nothing of the server runs: there is nothing to remember. */
  private letGo(): void {
    this.record = null
    if (this.claim) this.claim.note = null
    this.claim?.release()
    this.claim = null
  }
}

/** Whether all that belongs to a start ends within a time. What reads no console, or none any more, is asked by a signal. */
async function endedWhenAsked(record: GameRecord, child: ChildProcess | null, withinMs: number): Promise<boolean> {
  const until = performance.now() + withinMs
  if (child) {
    const hasLeft = child.exitCode !== null || child.signalCode !== null ? Promise.resolve() : once(child, 'exit')
    const isOver = await Promise.race([waitForEnd(record, withinMs), hasLeft.then(() => null)])
    // who heard the word is gone: the others end with it, or never heard it
    if (isOver ?? (await waitForEnd(record, Math.min(withinMs, LEFT_BEHIND_MS)))) return true
    if (isOver === false) return false
  }
  await askToEnd(record)
  return waitForEnd(record, Math.max(0, until - performance.now()))
}

/** @returns why the process that was started ended */
function whenLeft(child: ChildProcessWithoutNullStreams, program: string): Promise<string> {
  return new Promise((resolve) => {
    child.on('error', (error) => resolve(wordsOfSpawn(error, program)))
    child.on('exit', (code, signal) => resolve(signal ? `it was ended by ${signal}` : `it ended with code ${code ?? '?'}`))
  })
}

function wordsOfSpawn(error: NodeJS.ErrnoException, program: string): string {
  if (error.code === 'ENOENT') return `there is no program “${program}” on this machine. Give its full path`
  if (error.code === 'EACCES') return `“${program}” may not be run. Make it executable, or name the program that runs it`
  return error.message
}
