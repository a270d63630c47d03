import type { ConsoleEvent, Family } from '@pasticcio/core'
import type { Driver } from '../drivers'

/**
 * `unattended`: it runs, started by a Pasticcio that was ended since, and its console is lost; all that can be done is to
 * stop it.
 */
export type ServerStatus = 'stopped' | 'starting' | 'running' | 'stopping' | 'failed' | 'unattended'

export interface NumberedLine {
  /** Counts up by one a line, from 1. */
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
  /** Megabytes; null where the server does not tell. */
  readonly memory: number | null
  /** ISO date of when it came to be so; null for never since Pasticcio was started. */
  readonly since: string | null
}

/** A server that does not run. */
export const NOT_RUNNING: ServerState = { status: 'stopped', players: null, ticks: null, memory: null, since: null }

/** What a plugin takes of each tick, as the server tells it. */
export interface PluginTime {
  readonly plugin: string
  /** Milliseconds. */
  readonly ms: number
}

export interface ConsoleListener {
  readonly line?: (line: NumberedLine) => void
  readonly state?: (state: ServerState) => void
  readonly time?: (time: PluginTime) => void
}

/** How a server is started and stopped, where that is ours to do. */
export interface Lifecycle {
  /** Finds out whether a server that was started before still runs. */
  look(): Promise<void>
  /** Starts the server and waits until it says it is ready. @throws ConsoleError when it ends or stays silent */
  start(): Promise<void>
  /** Asks it to stop and waits. @returns whether it did; one that did not is still `stopping`, and may yet */
  stop(): Promise<boolean>
  /** Ends it at once, with what it has not saved. */
  kill(): Promise<void>
}

/** What a running game server says, and what is said to it. tests/server/console-contract.ts holds every driver to this. */
export interface Console {
  readonly state: ServerState
  /** The number of the last line; 0 before the first. */
  readonly lastSeq: number
  /** The lines after one, as far as they are kept. */
  since(seq: number): NumberedLine[]
  /** Sends one line; line ends in it become blanks. @throws ConsoleError when the server does not run */
  send(line: string): void
  /** Asks what each plugin takes of a tick, which listeners hear; the answer is not kept among the lines. */
  askTimes(): void
  /** The first line after `after` that fits, or null when none came in time. */
  waitFor(fits: (line: NumberedLine) => boolean, after: number, withinMs: number): Promise<NumberedLine | null>
  /** Hears lines and states as they come. @returns stops hearing */
  listen(listener: ConsoleListener): () => void
  /** Null where the server is started and stopped by others. */
  readonly lifecycle: Lifecycle | null
  close(): Promise<void>
}

export type ConsoleErrorCode = 'not-running' | 'running' | 'did-not-start' | 'unreachable'

/** Something a console could not do; `message` is fit for users. */
export class ConsoleError extends Error {
  constructor(
    readonly code: ConsoleErrorCode,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options)
    this.name = 'ConsoleError'
  }
}

/** A kind of console. */
export interface ConsoleDriver<Settings extends object = object> extends Driver<Settings> {
  open(settings: Settings, family: Family): Console
}
