import { EventEmitter } from 'node:events'
import { ConsoleReader, type Family } from '@pasticcio/core'
import { NOT_RUNNING, type ConsoleListener, type NumberedLine, type ServerState } from './console'

const KEPT_LINES = 2000
const ANSWER_WITHIN_MS = 5_000
/** So many lines are taken in a second; of the others those that mean something, up to as many again. */
const MOST_A_SECOND = 2000

/** The lines and the state of one console, as the family understands them: what every driver has in common. */
export class ConsoleLog {
  private readonly reader: ConsoleReader
  private readonly events = new EventEmitter()
  private lines: NumberedLine[] = []
  private seq = 0
  private current: ServerState = NOT_RUNNING
  /** Until when lines that tell of times are an answer to us, and no line of the console's. */
  private asksUntil = 0
  /** The second that is counted, how many lines came in it, how many were left out since the last that was taken, and the last of them. */
  private flood = { second: 0, count: 0, leftOut: 0, last: '' }
  private calm: NodeJS.Timeout | null = null

  constructor(
    family: Family,
    private readonly clock: () => number = () => Date.now(),
  ) {
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
    // the lines are in order, and mostly only the last few are asked for
    const first = this.lines[0]?.seq ?? 0
    return this.lines.slice(Math.max(0, seq + 1 - first))
  }

  setState(change: Partial<ServerState>): void {
    const isOther = change.status !== undefined && change.status !== this.current.status
    this.current = { ...this.current, ...change, ...(isOther ? { since: new Date(this.clock()).toISOString() } : {}) }
    this.events.emit('state', this.current)
  }

  /** Takes in one line that the server wrote, or leaves it out where there are too many. */
  accept(source: string): void {
    const second = Math.floor(this.clock() / 1000)
    if (second !== this.flood.second) this.flood = { ...this.flood, second, count: 0 }
    const { count } = this.flood
    this.flood.count++
    if (count < MOST_A_SECOND) {
      this.sayLeftOut()
      return this.add(source)
    }
    const { event } = count < MOST_A_SECOND * 2 ? this.read(source) : { event: null }
    if (event && event.type !== 'state') return this.add(source)
    this.flood.leftOut++
    this.flood.last = source
    this.calm ??= setTimeout(() => this.afterFlood(), 1000).unref()
  }

  /** What came last is seen, also where nothing comes after it. */
  private afterFlood(): void {
    this.calm = null
    if (this.flood.leftOut === 0) return
    this.flood.leftOut--
    this.sayLeftOut()
    this.add(this.flood.last)
  }

  /** Adds a line of our own about the console. */
  note(text: string): void {
    this.put({ time: new Date(this.clock()).toISOString().slice(11, 19), level: 'info', text, event: null })
  }

  /** Says how many lines were left out, when the next one comes or the server has ended. */
  sayLeftOut(): void {
    const { leftOut } = this.flood
    if (leftOut === 0) return
    this.flood.leftOut = 0
    this.note(`… ${leftOut} lines left out: there were more than ${MOST_A_SECOND} a second`)
  }

  /** Lines that tell of times come because we ask for them. */
  expectTimes(): void {
    this.asksUntil = this.clock() + ANSWER_WITHIN_MS
  }

  private add(source: string): void {
    const read = this.read(source)
    if (read.event?.type === 'time') {
      this.events.emit('time', read.event)
      if (this.clock() < this.asksUntil) return
    }
    const line = this.put(read)
    // one that is told to stop while it starts may still say that it is ready
    if (line.event?.type === 'ready' && this.current.status !== 'stopping') this.setState({ status: 'running' })
    if (line.event?.type === 'state') this.setState({ players: line.event.players, ticks: line.event.ticks, memory: line.event.memory })
  }

  private read(source: string): Omit<NumberedLine, 'seq'> {
    const parsed = this.reader.line(source)
    return { ...parsed, event: this.reader.event(parsed) }
  }

  private put(parts: Omit<NumberedLine, 'seq'>): NumberedLine {
    const line: NumberedLine = { seq: ++this.seq, ...parts }
    this.lines.push(line)
    if (this.lines.length > KEPT_LINES) this.lines = this.lines.slice(-KEPT_LINES / 2)
    this.events.emit('line', line)
    return line
  }

  listen(listener: ConsoleListener): () => void {
    const heard = Object.entries(listener) as [string, (...said: unknown[]) => void][]
    for (const [what, hear] of heard) this.events.on(what, hear)
    return () => {
      for (const [what, hear] of heard) this.events.off(what, hear)
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
