import { defineCheck, type CheckResult } from './check'
import type { FileFacts } from './facts'
import { groupedBy } from './grouped'
import type { Knowledge } from './knowledge'
import type { GoodFact } from './money-facts'
import { offersOf, type GatheredOffer } from '../economy/offers'
import { unitPrice } from '../economy/prices'
import { parsePointer } from '../tree/pointer'

type Placed = CheckResult & { readonly file: string }

/** Ways to make money from nothing, claims that cost less than what is in them, and rewards above the price. */
export const moneyHolds = defineCheck({
  id: 'money-holds',
  scope: 'server',
  codes: ['money-from-nothing', 'claim-too-cheap', 'reward-over-price', 'no-money'],
  *run({ knowledge }, facts) {
    yield* withoutMoney(knowledge, [...facts.values()])
    const all = [...facts.values()].filter(
      ({ goods, categories, resale, deals }) => goods.length + categories.length + deals.length > 0 || resale,
    )
    if (all.length === 0) return
    const market = new Market(all)
    yield* market.within()
    yield* market.across()
    yield* market.deals()
  },
})

/** Amounts of money where no plugin is known to keep any; told once for each plugin. */
function* withoutMoney({ plugins }: Knowledge, files: readonly FileFacts[]): Iterable<Placed> {
  const running = new Set(plugins.filter(({ isOff }) => !isOff).map(({ name }) => name))
  if (running.size === 0 || files.some(({ keepsMoney, plugin }) => keepsMoney && running.has(plugin ?? ''))) return
  const told = new Set<string | null>()
  for (const { path, plugin, charges } of files) {
    if (!charges || told.has(plugin)) continue
    told.add(plugin)
    yield {
      code: 'no-money',
      severity: 'note',
      file: path,
      from: charges.from,
      to: charges.to,
      message: `“${parsePointer(charges.pointer)?.at(-1)}” is an amount of money, and no plugin here is known to keep any. Install one that does, or see whether the server does.`,
      cause: `no money ${plugin}`,
    }
  }
}

class Market {
  /** The cheapest way to get an item, and the dearest way to be paid for it. */
  private readonly cheapest = new Map<string, GatheredOffer>()
  private readonly dearest = new Map<string, GatheredOffer>()

  constructor(private readonly files: readonly FileFacts[]) {
    for (const offer of offersOf(files)) this.learn(offer)
  }

  private learn(offer: GatheredOffer): void {
    const { item, way, amount } = offer
    if (amount <= 0) return
    const best = way === 'buy' ? this.cheapest : this.dearest
    const before = best.get(item)
    const isBetter = !before || (way === 'buy' ? unitPrice(offer) < unitPrice(before) : unitPrice(offer) > unitPrice(before))
    if (isBetter) best.set(item, offer)
  }

  /** What one and the same place sells for less than it pays. */
  *within(): Iterable<Placed> {
    for (const { path, plugin, goods, categories, resale } of this.files) {
      for (const good of [...goods, ...categories]) yield* turnedRound(path, good)
      if (resale && resale.amount > 1)
        yield {
          code: 'money-from-nothing',
          severity: 'warning',
          file: path,
          from: resale.from,
          to: resale.to,
          message: `${plugin ?? 'It'} pays ${resale.amount} times what it sells for, so that players buy and sell round and round. It has to be 1 at most.`,
          cause: `loop ${path}`,
        }
    }
  }

  /** What one sells for less than another pays; where both are as their authors ship them, all of it is one finding. */
  *across(): Iterable<Placed> {
    const all = [...this.loops()]
    const areShipped = ({ costs, pays }: Loop): boolean => costs.isShipped && pays.isShipped
    for (const loop of all) if (!areShipped(loop)) yield told(loop, 0)
    for (const loops of groupedBy(all.filter(areShipped), ({ costs, pays }) => `${costs.plugin} ${pays.plugin}`).values()) {
      const worst = loops.reduce((a, b) => (gainOf(b) > gainOf(a) ? b : a))
      yield told(worst, loops.length - 1)
    }
  }

  private *loops(): Iterable<Loop> {
    const seen = new Set<string>()
    for (const [item, costs] of this.cheapest) {
      const pays = this.dearest.get(item)
      if (!pays || unitPrice(pays) <= unitPrice(costs) || (pays.file === costs.file && pays.pointer === costs.pointer)) continue
      const isOne = pays.file === costs.file && parentOf(pays.pointer) === parentOf(costs.pointer)
      // a category is told of once, and what one entry says of both is told where it stands
      const key = `${costs.file} ${costs.pointer} ${pays.file} ${pays.pointer}`
      if (isOne || seen.has(key)) continue
      seen.add(key)
      yield { item, costs, pays }
    }
  }

  *deals(): Iterable<Placed> {
    for (const { path, deals } of this.files)
      for (const { name, items, money, isBought, hasPause } of deals) {
        if (money === null || money.amount === 0) continue
        const { from, to, isShipped } = money
        if (isShipped && hasPause !== false) continue
        const worth = this.worth(items, isBought ? this.dearest : this.cheapest)
        if (worth === null || (isBought && hasPause !== false)) continue
        if (isBought ? worth <= money.amount : money.amount <= worth) continue
        const message = isBought
          ? `${name} costs ${money.amount} and what is in it brings ${round(worth)}, with no wait in between. Raise the price, or let players wait.`
          : `${name} pays ${money.amount} for what costs ${round(worth)} to buy. Lower it, or ask for more.`
        yield {
          code: isBought ? 'claim-too-cheap' : 'reward-over-price',
          severity: 'warning',
          file: path,
          from,
          to,
          message,
          cause: `deal ${name}`,
        }
      }
  }

  /** What items are worth together; null where that of one of them is not known. */
  private worth(items: FileFacts['deals'][number]['items'], prices: ReadonlyMap<string, GatheredOffer>): number | null {
    let sum = 0
    let isKnown = false
    for (const { item, count } of items) {
      const price = prices.get(item)
      if (!price && prices === this.cheapest) return null
      isKnown ||= price !== undefined
      sum += (price ? unitPrice(price) : 0) * count
    }
    return isKnown ? sum : null
  }
}

/** An item that costs less than it brings. */
interface Loop {
  readonly item: string
  readonly costs: GatheredOffer
  readonly pays: GatheredOffer
}

const gainOf = ({ costs, pays }: Loop): number => unitPrice(pays) - unitPrice(costs)

/** @param others how many other items go the same way */
function told({ item, costs, pays }: Loop, others: number): Placed {
  const [at, other] = costs.isShipped && !pays.isShipped ? [pays, costs] : [costs, pays]
  const [paid, got] = [unitPrice(costs), unitPrice(pays)]
  const more = others === 0 ? '' : ` So ${others === 1 ? 'does one other item' : `do ${others} others`}, as both are shipped.`
  return {
    code: 'money-from-nothing',
    severity: 'warning',
    file: at.file,
    from: at.from,
    to: at.to,
    message: `${item} costs ${round(paid)} at ${costs.plugin} and brings ${round(got)} at ${pays.plugin}: ${round(got - paid)} from nothing, each time. Raise the one or lower the other.${more}`,
    cause: `loop ${costs.plugin} ${pays.plugin}`,
    related: [
      {
        file: other.file,
        from: other.from,
        to: other.to,
        why: other === pays ? `${pays.plugin} pays ${round(got)}` : `${costs.plugin} sells for ${round(paid)}`,
      },
    ],
  }
}

const round = (amount: number): number => Number(amount.toFixed(2))
const parentOf = (pointer: string): string => pointer.slice(0, pointer.lastIndexOf('/'))

function* turnedRound(file: string, { item, costs, pays, count, soldCount }: GoodFact): Iterable<Placed> {
  if (!costs || !pays || costs.amount <= 0) return
  const [paid, got] = [unitPrice({ amount: costs.amount, count }), unitPrice({ amount: pays.amount, count: soldCount })]
  if (got <= paid) return
  const at = pays.isShipped && !costs.isShipped ? costs : pays
  yield {
    code: 'money-from-nothing',
    severity: 'warning',
    file,
    from: at.from,
    to: at.to,
    message: `${item} is sold for ${round(paid)} and bought back for ${round(got)}: ${round(got - paid)} from nothing, each time. Raise the one or lower the other.`,
    cause: `loop ${file}`,
  }
}
