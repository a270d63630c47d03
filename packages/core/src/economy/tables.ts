import { chancesIn, drawShares, EndlessDraw, triesUntil, type Tables } from './chance'
import type { TextAround } from '../checks/written'
import type { EconomyFacts } from './gather'

/** One entry of a table that is drawn from. */
export interface TableEntry {
  readonly name: string
  readonly pointer: string
  /** So many of it come at once; money where it is no thing. */
  readonly count: number
  readonly money: number | null
  /** As it is written. */
  readonly weight: number
  /** How likely it is at each draw, 0 to 1. */
  readonly chance: number
  /** Where the number stands in a text, what is around it. */
  readonly around: TextAround | null
  /** The table that is drawn from in its turn; null for a thing. */
  readonly table: string | null
}

/** A thing that comes out in the end, tables within tables drawn. */
export interface Outcome {
  readonly name: string
  readonly chance: number
  /** How many of it come at each draw on average, and how much money that is no thing. */
  readonly count: number
  readonly money: number
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
  /** Whether each draw brings one of all that is in it. */
  readonly isOne: boolean
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
      .map((draw) => [idOf(draw), draw.entries.map((entry) => ({ name: inner(draw, entry.name) ?? leaf(entry), weight: entry.weight }))]),
  )
  return draws.map((draw): DrawTable => {
    const { entries, name, plugin, file, pointer, isByWeight, isOne } = draw
    const shares = isByWeight ? drawShares(entries).map(({ share }) => share) : entries.map(({ weight }) => weight)
    const { outcomes, circle } = isByWeight
      ? resolved(weighted, idOf(draw))
      : { outcomes: outcomesOf(entries.map((one) => [leaf(one), one.weight])), circle: null }
    return {
      id: idOf(draw),
      name,
      plugin,
      file,
      pointer,
      isByWeight,
      isOne,
      outcomes,
      circle,
      entries: entries.map(({ name: what, pointer: at, weight, scale, count, money, around }, i) => ({
        name: what,
        pointer: at,
        count,
        money,
        around,
        weight: Number((weight * scale).toPrecision(12)),
        chance: shares[i]!,
        table: isByWeight ? inner(draw, what) : null,
      })),
    }
  })
}

/** A table is called by its own name, or by that of its entry where its own only says what it is. */
const namesOf = ({ keys }: Draw): readonly string[] => keys.slice(-2)

function resolved(tables: Tables, id: string): Pick<DrawTable, 'outcomes' | 'circle'> {
  try {
    return { outcomes: outcomesOf([...chancesIn(tables, id)]), circle: null }
  } catch (error) {
    if (!(error instanceof EndlessDraw)) throw error
    return { outcomes: [], circle: error.path }
  }
}

type Entry = Draw['entries'][number]

/** What is drawn by itself, so that the same thing may come in several numbers. */
const leaf = ({ name, count, money }: Entry): string => JSON.stringify([name, count, money ?? 0])

/** Things by their names, in whatever numbers they come. */
function outcomesOf(leaves: readonly (readonly [leaf: string, chance: number])[]): readonly Outcome[] {
  const found = new Map<string, { chance: number; count: number; money: number }>()
  for (const [written, chance] of leaves) {
    const [name, count, money] = JSON.parse(written) as [string, number, number]
    const before = found.get(name) ?? { chance: 0, count: 0, money: 0 }
    found.set(name, { chance: before.chance + chance, count: before.count + chance * count, money: before.money + chance * money })
  }
  return [...found].map(([name, one]) => ({ name, ...one, tries: triesUntil(one.chance, SURE) }))
}

/** What comes at once is worth so much; null for a thing that has no worth. */
export function worthOfEntry({ name, count, money }: TableEntry, worth: (name: string) => number | null): number | null {
  const one = worth(name)
  return money ?? (one === null ? null : one * count)
}

/** What a draw is worth on average: of each thing, how many come times what one is worth, and money; what has no worth counts as nothing. */
export const worthOfDraw = (outcomes: readonly Outcome[], worth: (name: string) => number | null): number =>
  outcomes.reduce((sum, { name, count, money }) => sum + money + (money > 0 ? 0 : count * (worth(name) ?? 0)), 0)
