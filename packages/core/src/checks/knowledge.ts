import type { Markup } from '../values/markup'

/** A plugin that lies on a server, as far as checks ask. */
export interface KnownPlugin {
  readonly name: string
  readonly version: string
  /** Where its package or its descriptor lies. */
  readonly path: string
  readonly isOff: boolean
  readonly requires: Readonly<Record<string, string>>
  readonly conflicts: Readonly<Record<string, string>>
  readonly nodes: Readonly<Record<string, string>>
  readonly commands: Readonly<Record<string, string>>
  readonly placeholders: Readonly<Record<string, string>>
}

/** A port of the server's own, as `game`. */
export interface OwnPort {
  readonly name: string
  readonly port: number
  readonly file: string
}

/** What a picture is, in pixels. */
export interface PictureFacts {
  readonly width: number
  readonly height: number
}

/** What is known of a server beside its settings; what is left out is not known, and nothing is found wrong by it. */
export interface Knowledge {
  /** Ids by the list they are in, as `items`. */
  readonly lists: Readonly<Record<string, ReadonlySet<string>>>
  readonly plugins: readonly KnownPlugin[]
  /** First words of the server's own console commands. */
  readonly commands: ReadonlySet<string> | null
  readonly texts: Markup | null
  readonly ports: readonly OwnPort[]
  /** Where groups are: the file, and the section in it. */
  readonly groups: { readonly file: string; readonly at: string } | null
  /** All files below the folders that were looked into. */
  readonly paths: ReadonlySet<string> | null
  readonly pictures: ReadonlyMap<string, PictureFacts>
  /** Names of placeholders in the factory copies of a plugin: what its author fills in somewhere, all of its texts may hold. */
  readonly filledIn: ReadonlyMap<string, ReadonlySet<string>>
  /** What of the server as a whole is wrong, found where it was read. */
  readonly facts: readonly ServerFact[]
}

/** Something of the server as a whole that is not as it should be. */
export interface ServerFact {
  readonly what:
    | 'misplaced-package'
    | 'file-of-nobody'
    | 'piece-missing'
    | 'plugins-off'
    | 'not-registered'
    | 'registered-nobody'
    | 'registered-early'
    | 'not-utf8'
    | 'failed-to-load'
    | 'requires-missing'
    | 'requires-other'
    | 'requires-off'
    | 'conflict'
    | 'bad-package'
    | 'other-game'
  readonly file: string
  readonly from: number
  readonly to: number
  /** Where the file is none of the settings. */
  readonly line?: number
  readonly values: Readonly<Record<string, string>>
}

/** Of a server of which nothing is known. */
export const NO_KNOWLEDGE: Knowledge = {
  lists: {},
  plugins: [],
  commands: null,
  texts: null,
  ports: [],
  groups: null,
  paths: null,
  pictures: new Map(),
  filledIn: new Map(),
  facts: [],
}
