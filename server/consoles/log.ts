import { EventEmitter } from 'node:events'
import { ConsoleReader, type Family } from '@pasticcio/core'
import type { ConsoleListener, NumberedLine, ServerState } from './console'

const KEPT_LINES = 2000

/** The lines and the state of one console, as the family understands them: what every driver has in common. */
export class ConsoleLog {
  private readonly reader: ConsoleReader
  private readonly events = new EventEmitter()
  private lines: NumberedLine[] = []
  private seq = 0
  private current: ServerState = { status: 'stopped', players: null, ticks: null }

  constructor(family: Family) {
    this.reader = new ConsoleReader(family)
    this.events.setMaxListeners(0)
  }

  get state(): ServerState {
    return this.current
  }

  get lastSeq(): number {
    return this.seq
  }

  since(seq: number): NumberedLine[] {
    return this.lines.filter((line) => line.seq > seq)
  }

  setState(change: Partial<ServerState>): void {
    this.current = { ...this.current, ...change }
    this.events.emit('state', this.current)
  }

  /** Takes in one line that the server wrote. */
  accept(source: string): void {
    const parsed = this.reader.line(source)
    const event = this.reader.event(parsed.text)
    const line: NumberedLine = { seq: ++this.seq, ...parsed, event }
    this.lines.push(line)
    if (this.lines.length > KEPT_LINES) this.lines = this.lines.slice(-KEPT_LINES / 2)
    if (event?.type === 'ready') this.setState({ status: 'running' })
    if (event?.type === 'state') this.setState({ players: event.players, ticks: event.ticks })
    this.events.emit('line', line)
  }

  listen(listener: ConsoleListener): () => void {
    const { line, state } = listener
    if (line) this.events.on('line', line)
    if (state) this.events.on('state', state)
    return () => {
      if (line) this.events.off('line', line)
      if (state) this.events.off('state', state)
    }
  }

  waitFor(fits: (line: NumberedLine) => boolean, after: number, withinMs: number): Promise<NumberedLine | null> {
    const there = this.since(after).find(fits)
    if (there) return Promise.resolve(there)
    return new Promise((resolve) => {
      const stop = this.listen({ line: (line) => fits(line) && done(line) })
      const timer = setTimeout(() => done(null), withinMs)
      const done = (line: NumberedLine | null): void => {
        clearTimeout(timer)
        stop()
        resolve(line)
      }
    })
  }
}
