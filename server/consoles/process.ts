import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { createInterface } from 'node:readline'
import type { Family } from '@pasticcio/core'
import { array, object, string, type InferType } from 'yup'
import { ConsoleError, type Console, type ConsoleDriver, type ConsoleListener, type Lifecycle, type NumberedLine } from './console'
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
const STOP_WITHIN_MS = 15_000

class ProcessConsole implements Console, Lifecycle {
  readonly lifecycle = this
  private readonly log: ConsoleLog
  private child: ChildProcessWithoutNullStreams | null = null

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

  async start(): Promise<void> {
    if (this.child) throw new ConsoleError('running', 'The server is running already.')
    const [program, ...args] = this.command
    const child = spawn(program!, args, {
      cwd: this.folder,
      stdio: 'pipe',
      env: { PATH: process.env['PATH'] ?? '', LANG: process.env['LANG'] ?? 'C.UTF-8', HOME: this.folder },
    })
    this.child = child
    this.log.setState({ status: 'starting' })
    createInterface({ input: child.stdout }).on('line', (line) => this.log.accept(line))
    createInterface({ input: child.stderr }).on('line', (line) => this.log.accept(line))
    child.stdin.on('error', () => undefined)
    const ended = new Promise<string>((resolve) => {
      child.on('error', (error) => resolve(wordsOfSpawn(error, program!)))
      child.on('exit', (code, signal) => resolve(signal ? `it was ended by ${signal}` : `it ended with code ${code ?? '?'}`))
    })
    void ended.then(() => {
      if (this.child !== child) return
      this.child = null
      const wanted = this.state.status === 'stopping'
      this.log.setState({ status: wanted ? 'stopped' : 'failed', players: null, ticks: null })
    })
    const ready = this.waitFor((line) => line.event?.type === 'ready', this.lastSeq, START_WITHIN_MS)
    const why = await Promise.race([ready.then((line) => (line ? null : 'it did not get ready within a minute')), ended])
    if (why !== null) throw new ConsoleError('did-not-start', `The server did not start: ${why}. Its console says more.`)
  }

  async stop(): Promise<boolean> {
    const child = this.child
    if (!child) return true
    let listened = true
    this.log.setState({ status: 'stopping' })
    const exited = new Promise<void>((resolve) => child.once('exit', () => resolve()))
    child.stdin.write(this.family.console.stop + '\n')
    const timer = setTimeout(() => {
      listened = false
      child.kill('SIGKILL')
    }, STOP_WITHIN_MS)
    await exited
    clearTimeout(timer)
    this.child = null
    this.log.setState({ status: 'stopped', players: null, ticks: null })
    return listened
  }

  send(line: string): void {
    if (!this.child) throw new ConsoleError('not-running', 'The server is not running. Start it first.')
    this.child.stdin.write(line.replace(/[\r\n]/g, ' ') + '\n')
  }

  async close(): Promise<void> {
    await this.stop()
  }
}

function wordsOfSpawn(error: NodeJS.ErrnoException, program: string): string {
  if (error.code === 'ENOENT') return `there is no program “${program}” on this machine. Give its full path`
  if (error.code === 'EACCES') return `“${program}” may not be run. Make it executable, or name the program that runs it`
  return error.message
}
