import { chancesIn, drawShares, EndlessDraw, triesUntil, type Tables } from './chance'
import type { EconomyFacts } from './gather'

/** One entry of a table that is drawn from. */
export interface TableEntry {
  readonly name: string
  readonly pointer: string
  /** As it is written. */
  readonly weight: number
  /** How likely it is at each draw, 0 to 1. */
  readonly chance: number
  /** The table that is drawn from in its turn; null for a thing. */
  readonly table: string | null
}

/** A thing that comes out in the end, tables within tables drawn. */
export interface Outcome {
  readonly name: string
  readonly chance: number
  /** Draws after which one has it in nine of ten cases; null for never. */
  readonly tries: number | null
}

export interface DrawTable {
  readonly id: string
  readonly name: string
  readonly plugin: string
  readonly file: string
  readonly pointer: string
  readonly isByWeight: boolean
  readonly entries: readonly TableEntry[]
  readonly outcomes: readonly Outcome[]
  /** The tables that lead back to where they came from, where they do. */
  readonly circle: readonly string[] | null
}

/** In so many cases somebody has it. */
export const SURE = 0.9

type Draw = EconomyFacts['draws'][number]
const idOf = ({ file, pointer }: Draw): string => `${file}#${pointer}`

/** Tables with true chances. A name that is that of another table of the same plugin is drawn from in its turn. */
export function drawTables({ draws }: Pick<EconomyFacts, 'draws'>): readonly DrawTable[] {
  const named = new Map<string, string>()
  for (const draw of draws) for (const name of namesOf(draw)) named.set(`${draw.plugin} ${name}`, idOf(draw))
  const inner = (draw: Draw, name: string): string | null => {
    const id = named.get(`${draw.plugin} ${name}`)
    return id === undefined || id === idOf(draw) ? null : id
  }
  const weighted: Tables = Object.fromEntries(
    draws
      .filter(({ isByWeight }) => isByWeight)
      .map((draw) => [idOf(draw), draw.entries.map(({ name, weight }) => ({ name: inner(draw, name) ?? name, weight }))]),
  )
  return draws.map((draw): DrawTable => {
    const { entries, name, plugin, file, pointer, isByWeight } = draw
    const shares = isByWeight ? drawShares(entries).map(({ share }) => share) : entries.map(({ weight }) => weight)
    const { outcomes, circle } = isByWeight
      ? resolved(weighted, idOf(draw))
      : { outcomes: entries.map((one) => outcome(one.name, one.weight)), circle: null }
    return {
      id: idOf(draw),
      name,
      plugin,
      file,
      pointer,
      isByWeight,
      outcomes,
      circle,
      entries: entries.map(({ name: what, pointer: at, weight, scale }, i) => ({
        name: what,
        pointer: at,
        weight: weight * scale,
        chance: shares[i]!,
        table: isByWeight ? inner(draw, what) : null,
      })),
    }
  })
}

/** A table is called by its own name, or by that of its entry where its own only says what it is. */
function namesOf({ pointer }: Draw): readonly string[] {
  const keys = pointer.split('/').slice(1)
  return keys.slice(-2)
}

function resolved(tables: Tables, id: string): Pick<DrawTable, 'outcomes' | 'circle'> {
  try {
    return { outcomes: [...chancesIn(tables, id)].map(([name, chance]) => outcome(name, chance)), circle: null }
  } catch (error) {
    if (!(error instanceof EndlessDraw)) throw error
    return { outcomes: [], circle: error.path }
  }
}

const outcome = (name: string, chance: number): Outcome => ({ name, chance, tries: triesUntil(chance, SURE) })
