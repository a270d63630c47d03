import { ServiceError } from './errors'

interface OpenStream {
  readonly accountId: number
  readonly session: string
  readonly serverId: number
  close(): void
}

/** So many pages may watch at once. */
const MOST = 500

/** Connections that stay open to show what happens as it comes. When a session ends, those it opened end with it. */
export class OpenStreams {
  private readonly open = new Set<OpenStream>()

  /** @returns forgets it, as when the other side went away @throws ServiceError where there are too many */
  add(stream: OpenStream): () => void {
    if (this.open.size >= MOST) throw new ServiceError('busy', 503, 'Too many pages watch Pasticcio at once. Close some of them.')
    this.open.add(stream)
    return () => void this.open.delete(stream)
  }

  /** Closes those of one session. */
  endSession(session: string): void {
    this.end((stream) => stream.session === session)
  }

  /** Closes those of an account, or all but those of one of its sessions. */
  endAccount(accountId: number, exceptSession = ''): void {
    this.end((stream) => stream.accountId === accountId && stream.session !== exceptSession)
  }

  /** Closes those of a server that is opened anew: pages ask again by themselves. */
  endServer(serverId: number): void {
    this.end((stream) => stream.serverId === serverId)
  }

  /** Closes all, as when Pasticcio stops: nobody would end these by themselves. */
  endAll(): void {
    this.end(() => true)
  }

  private end(which: (stream: OpenStream) => boolean): void {
    for (const stream of [...this.open].filter(which)) {
      this.open.delete(stream)
      stream.close()
    }
  }
}
