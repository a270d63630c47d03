import { quantile } from './box'
import { shareOf, sharesADay, timesAnHour, type Kind, type Stream } from './model'
import { randomFrom, type Random } from './random'

/** Something that is saved for. */
export interface Goal {
  readonly name: string
  readonly price: number
}

export interface Plan {
  readonly streams: readonly Stream[]
  readonly kinds: readonly Kind[]
  readonly goals: readonly Goal[]
  readonly days: number
  readonly seed: number
}

/** How money stands at the end of a day. */
export interface DayEnd {
  /** All money there is. */
  readonly supply: number
  /** What came in and went out that day. */
  readonly comesIn: number
  readonly goesOut: number
  /** What a tenth, half and nine tenths of the players have at most. */
  readonly balances: readonly [number, number, number]
  /** What the richest tenth of the players has of all. */
  readonly richest: number
}

/** Hours of play after which half of the players of a kind could first pay a goal; null where fewer than half of them could. */
export interface Reached {
  readonly goal: string
  readonly kind: string
  readonly hours: number | null
}

export interface Run {
  readonly start: number
  readonly days: readonly DayEnd[]
  readonly reached: readonly Reached[]
}

/** Days differ: somebody plays from half to one and a half times as long as usual. */
const SHORTEST = 0.5

/**
 * Lives so many days of so many players. Each player does each thing as often as chance has it around its rate, no oftener than cooldown
 * and limit let, pays for what the purse allows, and has shares of the balance at the end of the day. The same plan comes to the same run.
 * @param told after each day; false ends it there
 */
export function simulate(plan: Plan, told: (day: number) => boolean = () => true): Run {
  const run = new Living(plan)
  const days: DayEnd[] = []
  for (let day = 1; day <= plan.days; day++) {
    days.push(run.day())
    if (!told(day)) break
  }
  return { start: run.start, days, reached: run.reached() }
}

class Living {
  readonly start: number
  private readonly random: Random
  private readonly people: readonly Kind[]
  private readonly purses: Float64Array
  private readonly played: Float64Array
  /** Hours at which each player could first pay each goal; not a number for not yet. */
  private readonly firsts: readonly Float64Array[]
  private readonly ins: readonly Stream[]
  private readonly outs: readonly Stream[]
  private readonly shares: readonly Stream[]

  constructor(private readonly plan: Plan) {
    const { streams, kinds, goals, seed } = plan
    this.random = randomFrom(seed)
    this.people = kinds.flatMap((kind) => Array.from({ length: Math.max(0, Math.round(kind.players)) }, () => kind))
    const given = streams.filter(({ isOnce, way }) => isOnce && way === 'in').reduce((all, { amount, chance }) => all + amount * chance, 0)
    this.purses = new Float64Array(this.people.length).fill(given)
    this.played = new Float64Array(this.people.length)
    this.firsts = goals.map(({ price }) => new Float64Array(this.people.length).fill(given >= price ? 0 : Number.NaN))
    const often = streams.filter(({ isOnce, isShare }) => !isOnce && !isShare)
    this.ins = often.filter(({ way }) => way === 'in')
    this.outs = often.filter(({ way }) => way === 'out')
    this.shares = streams.filter(({ isShare }) => isShare)
    this.start = sum(this.purses)
  }

  day(): DayEnd {
    let [comesIn, goesOut] = [0, 0]
    this.people.forEach((kind, i) => {
      const hours = kind.hours * (SHORTEST + this.random.next())
      const before = this.purses[i]!
      const earned = this.earn(kind, hours)
      const purse = before + earned
      const spent = this.spend(kind, hours, purse)
      const [more, less] = this.share(kind, purse - spent)
      this.purses[i] = purse - spent + more - less
      comesIn += earned + more
      goesOut += spent + less
      // what is saved for counts by what there is before it is spent
      this.noteGoals(i, before, purse, hours)
      this.played[i]! += hours
    })
    return { ...this.end(), comesIn, goesOut }
  }

  private earn(kind: Kind, hours: number): number {
    let earned = 0
    for (const stream of this.ins) earned += this.random.successes(this.times(stream, kind, hours), stream.chance) * stream.amount
    return earned
  }

  private spend(kind: Kind, hours: number, purse: number): number {
    let left = purse
    for (const stream of this.outs) {
      const wanted = this.random.successes(this.times(stream, kind, hours), stream.chance)
      const paid = stream.amount <= 0 ? wanted : Math.min(wanted, Math.max(0, Math.floor(left / stream.amount)))
      left -= paid * stream.amount
    }
    return purse - left
  }

  private share(kind: Kind, balance: number): readonly [number, number] {
    let [more, less] = [0, 0]
    for (const stream of this.shares) {
      const moved = shareOf(stream, balance) * sharesADay(stream, kind)
      if (stream.way === 'in') more += moved
      else less += moved
    }
    return [more, Math.min(less, balance + more)]
  }

  private times(stream: Stream, kind: Kind, hours: number): number {
    const rate = kind.rates[stream.activity] ?? 0
    if (rate <= 0) return 0
    const most = timesAnHour(stream, Number.POSITIVE_INFINITY, hours) * hours
    // what takes longer than a day is done on some days and not on others
    if (most < 1) return this.random.next() < Math.min(most, rate * hours) ? 1 : 0
    return Math.min(this.random.poisson(rate * hours), Math.floor(most))
  }

  private noteGoals(i: number, before: number, after: number, hours: number): void {
    this.plan.goals.forEach(({ price }, g) => {
      const firsts = this.firsts[g]!
      if (!Number.isNaN(firsts[i]!) || after < price) return
      firsts[i] = this.played[i]! + (hours * Math.max(0, price - before)) / (after - before || 1)
    })
  }

  private end(): Pick<DayEnd, 'supply' | 'balances' | 'richest'> {
    const supply = sum(this.purses)
    if (this.purses.length === 0) return { supply: 0, balances: [0, 0, 0], richest: 0 }
    const sorted = this.purses.slice().sort()
    const tenth = Math.max(1, Math.round(sorted.length / 10))
    const richest = supply > 0 ? sum(sorted.subarray(sorted.length - tenth)) / supply : 0
    return { supply, balances: [quantile(sorted, 0.1), quantile(sorted, 0.5), quantile(sorted, 0.9)], richest }
  }

  /** The middle over all players of a kind, those who could not yet behind all others. */
  reached(): readonly Reached[] {
    return this.plan.goals.flatMap(({ name }, g) =>
      this.plan.kinds.map((kind): Reached => {
        const hours = this.people.flatMap((one, i) => (one === kind ? [this.firsts[g]![i]!] : []))
        const sorted = hours.map((at) => (Number.isNaN(at) ? Number.POSITIVE_INFINITY : at)).sort((a, b) => a - b)
        const middle = sorted[Math.ceil(sorted.length / 2) - 1]
        return { goal: name, kind: kind.name, hours: middle === undefined || middle === Number.POSITIVE_INFINITY ? null : middle }
      }),
    )
  }
}

function sum(numbers: Float64Array): number {
  let all = 0
  for (const number of numbers) all += number
  return all
}
