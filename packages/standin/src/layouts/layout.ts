import type { Behaviour, Descriptor } from '../pack/descriptor'

/** A plugin as it lies on a server; paths are below the server's folder. */
export interface Pack {
  readonly descriptor: Descriptor
  readonly behaviour: Behaviour
  /** What the console calls it. */
  readonly said: string
  readonly settings: string
  readonly texts: string | null
  /** Files it writes at its first start, by path. */
  readonly defaults: ReadonlyMap<string, string>
  record(name: string): string
  /** What the console calls one of its files. */
  fileSaid(path: string): string
}

/** The server's own settings. */
export interface ServerSettings {
  readonly name: string
  readonly game: string
  readonly places: readonly string[]
  readonly players: readonly string[]
  /** Players who may do everything. */
  readonly operators: readonly string[]
  readonly tickRate: number
  readonly banner: string
  readonly welcome: string
}

/** What counts where a server says nothing. */
export const NO_SETTINGS: ServerSettings = {
  name: 'a server',
  game: '0',
  places: [],
  players: [],
  operators: [],
  tickRate: 20,
  banner: '',
  welcome: '',
}

/** How servers of one family lay out their folder, and what they say in the console. */
export interface Layout {
  /** The file that tells a server of this family. */
  readonly sign: string
  /** @param profile the folder it was told to keep what is its own in */
  settings(folder: string, profile: string): ServerSettings
  /** The plugins there; what cannot be one is told. */
  scan(folder: string, complain: (text: string) => void): Pack[]
  generated(pack: Pack, path: string): string
  loaded(pack: Pack, summary: string, again: boolean): string
  failed(pack: Pack, why: string): string
}

/** Most servers say it like this. */
export const PLAIN_WORDS: Pick<Layout, 'generated' | 'loaded' | 'failed'> = {
  generated: (pack, path) => `${pack.said} generated ${pack.fileSaid(path)}`,
  loaded: (pack, summary, again) => `${pack.said} ${pack.descriptor.version} ${again ? 'reloaded' : 'loaded'}: ${summary}`,
  failed: (pack, why) => `${pack.said} ${pack.descriptor.version} failed: ${why}`,
}
