import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { EventEmitter } from 'node:events'
import { createInterface } from 'node:readline'
import { ConsoleReader, type ConsoleEvent, type Family } from '@pasticcio/core'
import { ServiceError } from '../services/errors'

export type ServerStatus = 'stopped' | 'starting' | 'running' | 'stopping' | 'failed'

export interface NumberedLine {
  readonly seq: number
  readonly time: string
  readonly level: string
  readonly text: string
  readonly event: ConsoleEvent | null
}

export interface ServerState {
  readonly status: ServerStatus
  readonly players: number | null
  readonly ticks: number | null
}

const KEPT_LINES = 2000
const START_WITHIN_MS = 60_000
const STOP_WITHIN_MS = 15_000

/** A game server as a child process: started in its folder, spoken to through standard input, read line by line. */
export class ServerProcess {
  readonly events = new EventEmitter()
  private child: ChildProcessWithoutNullStreams | null = null
  private lines: NumberedLine[] = []
  private seq = 0
  private state: ServerState = { status: 'stopped', players: null, ticks: null }
  private readonly reader: ConsoleReader

  constructor(
    private readonly family: Family,
    private readonly folder: string,
    private readonly command: readonly string[],
  ) {
    this.reader = new ConsoleReader(family)
    this.events.setMaxListeners(100)
  }

  get current(): ServerState {
    return this.state
  }

  get lastSeq(): number {
    return this.seq
  }

  since(seq: number): NumberedLine[] {
    return this.lines.filter((line) => line.seq > seq)
  }

  private setState(change: Partial<ServerState>): void {
    this.state = { ...this.state, ...change }
    this.events.emit('state', this.state)
  }

  private accept(source: string): void {
    const parsed = this.reader.line(source)
    const event = this.reader.event(parsed.text)
    const line: NumberedLine = { seq: ++this.seq, ...parsed, event }
    this.lines.push(line)
    if (this.lines.length > KEPT_LINES) this.lines = this.lines.slice(-KEPT_LINES / 2)
    if (event?.type === 'ready') this.setState({ status: 'running' })
    if (event?.type === 'state') this.setState({ players: event.players, ticks: event.ticks })
    this.events.emit('line', line)
  }

  /** Starts the server and waits until it says it is ready. @throws ServiceError when it ends or stays silent. */
  async start(): Promise<void> {
    if (this.child) throw new ServiceError('server-running', 409, 'The server is running already.')
    const [program, ...args] = this.command
    const child = spawn(program!, args, {
      cwd: this.folder,
      stdio: 'pipe',
      env: { PATH: process.env['PATH'] ?? '', LANG: process.env['LANG'] ?? 'C.UTF-8', HOME: this.folder },
    })
    this.child = child
    this.setState({ status: 'starting' })
    createInterface({ input: child.stdout }).on('line', (line) => this.accept(line))
    createInterface({ input: child.stderr }).on('line', (line) => this.accept(line))
    child.stdin.on('error', () => undefined)
    const ended = new Promise<string>((resolve) => {
      child.on('error', (error) => resolve(error.message))
      child.on('exit', (code, signal) => resolve(signal ? `it was ended by ${signal}` : `it ended with code ${code ?? '?'}`))
    })
    void ended.then(() => {
      if (this.child !== child) return
      this.child = null
      const wanted = this.state.status === 'stopping'
      this.setState({ status: wanted ? 'stopped' : 'failed', players: null, ticks: null })
    })
    const why = await Promise.race([
      this.waitFor((line) => line.event?.type === 'ready', this.seq, START_WITHIN_MS).then((line) =>
        line ? null : 'it did not get ready within a minute',
      ),
      ended,
    ])
    if (why !== null) throw new ServiceError('server-failed', 502, `The server did not start: ${why}. Its console says more.`)
  }

  async stop(): Promise<void> {
    const child = this.child
    if (!child) return
    this.setState({ status: 'stopping' })
    const exited = new Promise<void>((resolve) => child.once('exit', () => resolve()))
    child.stdin.write(this.family.console.stop + '\n')
    const timer = setTimeout(() => child.kill('SIGKILL'), STOP_WITHIN_MS)
    await exited
    clearTimeout(timer)
    this.child = null
    this.setState({ status: 'stopped', players: null, ticks: null })
  }

  /** Sends one console line. @throws ServiceError when the server does not run. */
  send(line: string): void {
    if (!this.child) throw new ServiceError('server-stopped', 409, 'The server is not running. Start it first.')
    this.child.stdin.write(line.replace(/[\r\n]/g, ' ') + '\n')
  }

  /** The first line after `after` that fits, or null when none came in time. */
  waitFor(fits: (line: NumberedLine) => boolean, after: number, withinMs: number): Promise<NumberedLine | null> {
    const there = this.since(after).find(fits)
    if (there) return Promise.resolve(there)
    return new Promise((resolve) => {
      const done = (line: NumberedLine | null): void => {
        clearTimeout(timer)
        this.events.off('line', see)
        resolve(line)
      }
      const see = (line: NumberedLine): void => {
        if (fits(line)) done(line)
      }
      const timer = setTimeout(() => done(null), withinMs)
      this.events.on('line', see)
    })
  }

  kill(): void {
    this.child?.kill('SIGTERM')
  }
}
