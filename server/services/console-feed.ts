import type { Console, NumberedLine } from '../consoles'

/** Somebody who reads the console as it comes. */
export interface Reader {
  write(text: string): void
  /** Bytes that were written and did not get there yet. */
  backlog(): number
}

interface Subscriber {
  readonly reader: Reader
  lastSeq: number
}

const FLUSH_MS = 60
/** So many lines are given at once; the numbers of lines tell what was left out. */
const MOST_LINES = 400
/** A reader that is behind by more than this gets nothing until that got there. */
const MOST_BACKLOG = 256 * 1024
const PING_MS = 25_000

/**
 * One console for any number of readers: what comes together goes out together, and is written down once for all. A
 * reader that cannot keep up misses lines, instead of having them kept for it.
 */
export class ConsoleFeed {
  private readonly subscribers = new Set<Subscriber>()
  private timer: NodeJS.Timeout | null = null
  private ping: NodeJS.Timeout | null = null
  private stop: (() => void) | null = null

  /** @param watch looks at something else for as long as somebody reads, and tells of it; gives what ends it */
  constructor(
    private readonly console: Console,
    private readonly watch: (tell: (event: string, data: unknown) => void) => () => void = () => () => undefined,
  ) {}

  /** Gives the state and the last lines, and then what comes. @returns stops it */
  subscribe(reader: Reader): () => void {
    const subscriber = { reader, lastSeq: this.console.lastSeq }
    this.subscribers.add(subscriber)
    this.stop ??= this.listen()
    reader.write(frame('state', this.console.state) + frame('lines', this.console.since(Math.max(0, subscriber.lastSeq - MOST_LINES))))
    return () => {
      this.subscribers.delete(subscriber)
      if (this.subscribers.size === 0) this.close()
    }
  }

  private listen(): () => void {
    this.ping = setInterval(() => this.toAll(': here\n\n'), PING_MS).unref()
    const unwatch = this.watch((event, data) => this.toAll(frame(event, data)))
    const unhear = this.console.listen({
      line: () => (this.timer ??= setTimeout(() => this.flush(), FLUSH_MS)),
      state: (state) => this.toAll(frame('state', state)),
    })
    return () => {
      unwatch()
      unhear()
    }
  }

  private close(): void {
    this.stop?.()
    this.stop = null
    if (this.timer) clearTimeout(this.timer)
    if (this.ping) clearInterval(this.ping)
    this.timer = this.ping = null
  }

  private toAll(text: string): void {
    for (const { reader } of this.subscribers) if (reader.backlog() < MOST_BACKLOG) reader.write(text)
  }

  private flush(): void {
    this.timer = null
    const written = new Map<number, string>()
    for (const subscriber of this.subscribers) {
      if (subscriber.reader.backlog() >= MOST_BACKLOG) continue
      const from = Math.max(subscriber.lastSeq, this.console.lastSeq - MOST_LINES)
      const text = written.get(from) ?? this.more(from)
      written.set(from, text)
      subscriber.lastSeq = this.console.lastSeq
      if (text !== '') subscriber.reader.write(text)
    }
  }

  private more(from: number): string {
    const lines: NumberedLine[] = this.console.since(from)
    return lines.length === 0 ? '' : frame('more', lines)
  }
}

/** One event as server-sent events have it (HTML Standard, section 9.2). */
function frame(event: string, data: unknown): string {
  return `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`
}
