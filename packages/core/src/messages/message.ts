/** Where a text is seen by players. */
export const SURFACES = ['chat', 'banner', 'board', 'list', 'bar', 'title', 'prompt', 'item', 'sign', 'book', 'panel', 'menu'] as const
export type SurfaceId = (typeof SURFACES)[number]

/** When a text is seen: moments of a visit in their order, and `any` for what answers something players do. */
export const MOMENTS = ['list', 'refused', 'join', 'first', 'timed', 'death', 'trade', 'any', 'leave'] as const
export type Moment = (typeof MOMENTS)[number]

/** How the texts of a list are told. */
export type Turn = 'together' | 'in-turn' | 'at-random'

/** How something is shown, as the settings beside its text say; empty, or null, where none does. */
export interface Dress {
  /** The item it is drawn with. */
  readonly icon: string
  readonly colour: string
  readonly style: string
  /** How far a bar is filled, 0 to 1. */
  readonly filled: number | null
  /** Seconds that a title comes and goes. */
  readonly comes: number | null
  readonly goes: number | null
}

/** One text, or a list of them, that players read. */
export interface Message {
  /** The setting: a text, or the list of them. */
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** What is written, without the format's own quotes; one of each item of a list. */
  readonly texts: readonly string[]
  /** Where each of them stands. */
  readonly places: readonly { readonly from: number; readonly to: number }[]
  readonly isList: boolean
  /** The numbered keys of a section that holds its texts as a list does, as `1` and `2`; null for others. */
  readonly keys: readonly string[] | null
  /** How the texts of a list are told; null for one text. */
  readonly turn: Turn | null
  readonly surface: SurfaceId
  readonly moment: Moment
  /** A time of its own that the settings beside it name, as `flood`; empty for none. */
  readonly when: string
  /** Seconds until it is shown; null where nothing says so. */
  readonly delay: number | null
  /** Seconds that it stays. */
  readonly stays: number | null
  readonly dress: Dress
  /** What it opens where it is pressed, as its settings say beside it; empty for nothing. */
  readonly opens: string
  /** At most so many letters are seen, as a rule says; null where none does. */
  readonly letters: number | null
  /** Whether it is as its plugin ships it. */
  readonly isShipped: boolean
  /** What the plugin ships in its place; null where it ships none there. */
  readonly shipped: readonly string[] | null
  /** What the author says of it, else of the section it is in. */
  readonly says: string
}
