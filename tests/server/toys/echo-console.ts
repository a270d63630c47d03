import type { Family } from '@pasticcio/core'
import { object, string } from 'yup'
import { ConsoleError, type Console, type ConsoleDriver, type ConsoleListener, type NumberedLine } from '../../../server/consoles'
import { ConsoleLog } from '../../../server/consoles/log'

/** A server that runs somewhere else, is started by others, and says back what it is told. */
export class EchoConsole implements Console {
  readonly lifecycle = null
  private readonly log: ConsoleLog
  private open = true

  constructor(
    family: Family,
    private readonly name: string,
  ) {
    this.log = new ConsoleLog(family)
    this.log.accept('12:00:00.000 info   ready, 0 plugins')
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

  send(line: string): void {
    if (!this.open) throw new ConsoleError('not-running', 'The server is not running. Start it first.')
    this.log.accept(`12:00:00.000 info   ${this.name} heard ${line.replace(/[\r\n]/g, ' ')}`)
  }

  askTimes(): void {
    this.log.expectTimes()
  }

  waitFor(fits: (line: NumberedLine) => boolean, after: number, withinMs: number): Promise<NumberedLine | null> {
    return this.log.waitFor(fits, after, withinMs)
  }

  listen(listener: ConsoleListener): () => void {
    return this.log.listen(listener)
  }

  async close(): Promise<void> {
    this.open = false
    this.log.setState({ status: 'stopped' })
  }
}

export const echoDriver: ConsoleDriver<{ name: string; password?: string | undefined }> = {
  type: 'echo',
  schema: object({ name: string().required(), password: string() }).noUnknown(),
  secrets: ['password'],
  open: ({ name }, family) => new EchoConsole(family, name),
}
