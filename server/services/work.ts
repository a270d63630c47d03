import { ServiceError } from './errors'

/** What is done to a server, one thing at a time. */
export type WorkKind = 'start' | 'stop' | 'restart' | 'write' | 'settle' | 'change'

const WORDS: Readonly<Record<WorkKind, string>> = {
  start: 'is starting it',
  stop: 'is stopping it',
  restart: 'is restarting it',
  write: 'is writing to it',
  settle: 'is settling what was interrupted on it',
  change: 'is changing how it is set up',
}

interface Current {
  readonly kind: WorkKind
  readonly by: string
  readonly done: Promise<unknown>
}

/** The one lock of a server: starting, stopping, writing and the like know of each other here. */
export class ServerWork {
  private current: Current | null = null

  constructor(private readonly slug: string) {}

  get kind(): WorkKind | null {
    return this.current?.kind ?? null
  }

  /** Does something to the server while nobody else does. @throws ServiceError `busy`, saying who does what */
  async run<T>(kind: WorkKind, by: string, work: () => Promise<T>): Promise<T> {
    this.requireFree()
    const done = work()
    this.current = { kind, by, done }
    try {
      return await done
    } finally {
      this.current = null
    }
  }

  /** @param but work that may go on meanwhile @throws ServiceError `busy`, saying who does what */
  requireFree(but: readonly WorkKind[] = []): void {
    const { current } = this
    if (current && !but.includes(current.kind))
      throw new ServiceError('busy', 409, `${current.by} ${WORDS[current.kind]} (${this.slug}) right now. Try again in a moment.`)
  }

  /** Waits until what is done now is over, however it ends. */
  async whenFree(): Promise<void> {
    await this.current?.done.catch(() => undefined)
  }
}
