import { parse } from 'yaml'

/** What a package says of itself, in `pack.yml` at its root. Our own open format, described in docs/stand-in.md. */
export interface Descriptor {
  readonly name: string
  readonly version: string
  readonly summary: string
  /** A range of game versions, as in `>=7.0 <8`. */
  readonly game: string
  readonly authors: readonly string[]
  readonly provides: readonly string[]
  readonly requires: Readonly<Record<string, string>>
  readonly optional: Readonly<Record<string, string | { readonly range: string }>>
  readonly changes?: string
  readonly nodes: Readonly<Record<string, string>>
  /** Those of them that everybody holds who is not denied them. */
  readonly open: readonly string[]
  readonly commands: Readonly<Record<string, string>>
}

/** How one value of a settings file is used, in `behaviour.yml`. */
export interface Reading {
  readonly at?: string
  /** Where it is in another file than the plugin's settings: the path below the server's folder, with `{profile}` in it. */
  readonly file?: string
  readonly kind: 'number' | 'text' | 'switch' | 'list' | 'section'
  readonly least?: number
  readonly most?: number
  readonly length?: number
  readonly whole?: boolean
  readonly unit?: 'seconds' | 'ticks'
  readonly choices?: readonly string[]
  /** What counts where the setting is not there. */
  readonly otherwise?: unknown
}

/** What a plugin answers to a command of players; templates are described in behaviours/answers.ts. */
export interface Answer {
  /** The setting that names the node a player must hold, and what is said to others. */
  readonly node?: string
  readonly locked?: string
  readonly lines?: readonly string[]
  /** The lines of this list, one after the other at each asking. */
  readonly turn?: string
  /** One line for each entry of this section, under a head. */
  readonly each?: string
  readonly head?: string
  readonly line?: string
  /** What is answered when an entry is named: by whether there is one, it is open to the player, and can be paid. */
  readonly choose?: {
    readonly done: string
    readonly none: string
    readonly locked?: string
    readonly poor?: string
    /** The value of the entry that is paid. */
    readonly cost?: string
    /** The section of the entry from which one is drawn by weight, as `{item}`. */
    readonly weights?: string
  }
}

/** What a plugin does by the clock; names are those of what it reads. */
export interface Timed {
  /** Minutes between one and the next. */
  readonly every?: string
  /** Or the times of day, in UTC. */
  readonly at?: string
  /** Texts that are said before, by seconds. */
  readonly warnings?: string
  /** Or minutes before, and what is said then. */
  readonly lead?: string
  readonly leading?: string
  readonly says: readonly string[]
}

/** What a plugin costs of each tick, in milliseconds. */
export interface Cost {
  readonly base: number
  /** So much for each of what a list or section holds. */
  readonly each?: Readonly<Record<string, number>>
  /** So much divided by a number: what is done more often costs more. */
  readonly per?: Readonly<Record<string, number>>
}

export interface Behaviour {
  readonly kind: 'money' | 'ranks' | 'crews' | 'bundles' | 'answers' | 'satchels'
  /** For `answers`: the line that says it is loaded, its commands, and what it says when players come and go. */
  readonly summary?: string
  readonly commands?: Readonly<Record<string, Answer>>
  readonly joined?: readonly string[]
  readonly left?: readonly string[]
  readonly reads: Readonly<Record<string, Reading>>
  readonly timed?: readonly Timed[]
  readonly cost?: Cost
  /** Settings it writes anew at each start: a line that begins so is replaced by another. */
  readonly rewrites?: { readonly line: string; readonly by: string }
  /** It says nothing when it is loaded. */
  readonly silent?: boolean
  /** For groups of entries: how each entry's values are used. */
  readonly entry?: Readonly<Record<string, Reading>>
}

/** @throws Error saying what the descriptor lacks. */
export function readDescriptor(text: string): Descriptor {
  const data = parse(text) as Partial<Descriptor> | null
  if (!data || typeof data.name !== 'string' || typeof data.version !== 'string')
    throw new Error('its description lacks a name or a version')
  return {
    summary: '',
    game: '*',
    authors: [],
    provides: [],
    requires: {},
    optional: {},
    nodes: {},
    open: [],
    commands: {},
    ...data,
    name: data.name,
    version: data.version,
  }
}
