import type { FileFinding } from '@pasticcio/core'
import type { HeadRow, SheetRow } from '../utils/sheet-rows'

export interface PlacedFinding extends FileFinding {
  readonly line: number
  readonly column: number
  /** The row it stands at; empty where no row does. */
  readonly pointer: string
}

/** What the server finds in a file, and whether somebody set it aside. */
export interface ServerFinding extends FileFinding {
  readonly aside: boolean
}

/** The part of the sheet somebody looks at. */
export interface SheetQuery {
  readonly from: number
  readonly to: number
  readonly onlyMine: boolean
  /** The pointer of the line in focus. */
  readonly focus: string
  /** Tells everything, also what was told before: for somebody new. */
  readonly fresh?: boolean
}

export interface SheetSnapshot {
  /** How many rows there are. */
  readonly count: number
  /** The shape of each row, which says how high it is (utils/row-shapes.ts); null where it is as it was told last. */
  readonly shapes: Uint8Array<ArrayBuffer> | null
  readonly from: number
  readonly rows: readonly SheetRow[]
  readonly focus: { readonly index: number; readonly row: SheetRow; readonly entry: HeadRow | null } | null
  /** Null where they are as they were told last, and so for the lines below. */
  readonly findings: readonly PlacedFinding[] | null
  readonly findingCount: number
  readonly settings: number
  readonly updates: number
  readonly lineCount: number
  /** Whether there are like things, which can be seen as a ledger. */
  readonly hasTables: boolean
  /** Lines of settings that are mine, and of those an update changes, in order. */
  readonly mineLines: Uint32Array<ArrayBuffer> | null
  readonly updateLines: Uint32Array<ArrayBuffer> | null
}

export type SeekFor = 'any' | 'mine' | 'setting'
