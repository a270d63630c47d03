import type { AssumedGoal, FittedKind } from './assume'
import { dayOf, hoursToAfford } from './afford'
import type { Economy } from './derive'
import type { Kind, Stream } from './model'
import { unitPrice } from './prices'

/** Something that players can pay for. */
export interface Thing {
  /** `item` and its id, or the setting of a price as it is today, wherever another version has it. */
  readonly id: string
  readonly name: string
  readonly plugin: string
  readonly price: number
  /** Where its price stands. */
  readonly file: string
  readonly pointer: string
}

/** What can be had for money: items where they are cheapest, and what has a price of its own; the dearest first. */
export function thingsOf({ book, streams }: Economy): readonly Thing[] {
  const items = book.rows.flatMap(({ item, buy }): Thing[] =>
    buy ? [{ id: `item ${item}`, name: item, plugin: buy.where, price: unitPrice(buy), file: buy.file, pointer: buy.pointer }] : [],
  )
  const priced = streams.flatMap(({ doing, activity, name, plugin, amount, file, pointer }): Thing[] =>
    doing === 'price' || doing === 'fee' ? [{ id: activity, name, plugin, price: amount, file, pointer }] : [],
  )
  return [...items, ...priced].sort((a, b) => b.price - a.price || a.name.localeCompare(b.name))
}

/** What a goal costs, with all that is wanted of its thing; null where there is no such thing. */
export function goalPrice(things: readonly Thing[], { thing: id, count }: Pick<AssumedGoal, 'thing' | 'count'>): number | null {
  const thing = things.find((one) => one.id === id)
  return thing ? thing.price * count : null
}

/** Hours that goals are set to at first: those that it takes today, rounded; a day of play for what is never affordable. */
const NEVER_HOURS = 24
/** What one can pay at once is no goal: then it is for more of them. */
const COUNTS = [1, 10, 100, 1000]

/** First goals: the dearest there is for those who play most alike, and what three quarters of all things are cheaper than, for the first kind. */
export function firstGoals(economy: Economy, kinds: readonly FittedKind[]): readonly AssumedGoal[] {
  const things = thingsOf(economy)
  const regular = kinds.find(({ like }) => like === 'regular') ?? kinds[0]
  const newcomer = kinds.find(({ like }) => like === 'newcomer') ?? kinds[0]
  const goal = (thing: Thing | undefined, kind: FittedKind | undefined): AssumedGoal[] => {
    if (!thing || !kind) return []
    const hoursFor = (count: number): number | null => hoursToAfford(economy.streams, kind.kind, thing.price * count)
    const count = COUNTS.find((many) => (hoursFor(many) ?? NEVER_HOURS) >= 1) ?? COUNTS.at(-1)!
    return [{ thing: thing.id, count, kind: kind.id, hours: Math.max(1, Math.round(hoursFor(count) ?? NEVER_HOURS)) }]
  }
  const [dearest, quarter] = [things[0], things[Math.floor(things.length / 4)]]
  return [...goal(dearest, regular), ...(quarter && quarter !== dearest ? goal(quarter, newcomer) : [])]
}

/** How it is for one who comes for the first time. */
export interface FirstDay {
  readonly start: number
  /** Of an average first day. */
  readonly earns: number
  readonly spends: number
  /** How many of all things are affordable at once, and after what that day brings. */
  readonly atOnce: number
  readonly after: number
  readonly things: number
}

/** The first day of a kind of player: what one begins with and earns, and how much of all there is that pays for. */
export function firstDayOf(streams: readonly Stream[], kind: Kind, things: readonly Pick<Thing, 'price'>[]): FirstDay {
  const { given, earned, spent } = dayOf(streams, kind)
  const affordable = (money: number): number => things.filter(({ price }) => price <= money).length
  return {
    start: given,
    earns: earned,
    spends: Math.min(spent, given + earned),
    atOnce: affordable(given),
    after: affordable(given + earned),
    things: things.length,
  }
}
