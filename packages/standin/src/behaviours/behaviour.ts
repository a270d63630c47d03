import type { SettingsFile, Used } from '../server/settings-file'
import type { Behaviour } from '../pack/descriptor'
import type { Span } from './timed'

/** What a running plugin can ask of the server. */
export interface Host {
  /** Seconds since the server started, by its own clock. */
  readonly clock: () => number
  /** The date by the server's clock. */
  readonly date: () => Date
  /** From 0 to 1. */
  readonly random: () => number
  say(text: string): void
  info(text: string): void
  /** A service another plugin provides; null where none does. */
  service<T>(name: string): T | null
  placeOf(player: string): string
  /** How many players are here. */
  online(): number
  hasNode(player: string, node: string): boolean
  /** What one of the plugin's own record files holds; null for nothing. */
  recorded(name: string): string | null
  /** Writes one of them. */
  record(name: string, text: string): void
}

/** A plugin's settings as it holds them in memory until it is reloaded. */
export interface Loaded {
  readonly used: Used
  readonly file: SettingsFile
  readonly behaviour: Behaviour
  readonly text: (key: string, values?: Readonly<Record<string, string>>) => string
}

/** A running plugin: what it answers to players and to the console. */
export interface Running {
  /** How many things it has, for the line that says it is loaded. */
  readonly summary: string
  readonly service?: unknown
  /** Lines a player reads, or null when the command is not this plugin's. */
  asPlayer(player: string, words: readonly string[]): string[] | null
  asConsole?(words: readonly string[]): string[] | null
  joined?(player: string): void
  left?(player: string): void
  /** Time went by. */
  passed?(span: Span): void
}
