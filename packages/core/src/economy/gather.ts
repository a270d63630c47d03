import type { DealFact } from '../checks/deal-facts'
import type { DrawFact } from '../checks/draw-facts'
import type { ExchangeFact } from '../checks/exchange-facts'
import type { FileFacts } from '../checks/facts'
import type { MaybeMoney } from '../checks/maybe-money'
import type { StreamFact } from '../checks/stream-facts'
import { dealOffers, offersOf, type GatheredOffer } from './offers'

/** Whose a setting is, and in which file it stands. */
export interface Placed {
  readonly plugin: string
  readonly file: string
}

export interface GatheredStream extends StreamFact, Placed {
  /** The setting it is today, as `file#pointer`, where another version has it under another name or place. */
  readonly was?: string
}

/** All that has to do with money on a server. */
export interface EconomyFacts {
  readonly offers: readonly GatheredOffer[]
  readonly streams: readonly GatheredStream[]
  readonly draws: readonly (DrawFact & Placed)[]
  readonly deals: readonly (DealFact & Placed)[]
  readonly exchange: readonly (ExchangeFact & Placed)[]
  /** What people would have to say of whether it is money. */
  readonly maybe: readonly (MaybeMoney & Placed)[]
}

/** What of a file the economy is gathered from. */
export type MoneyFile = Pick<
  FileFacts,
  'plugin' | 'path' | 'goods' | 'categories' | 'resale' | 'deals' | 'streams' | 'draws' | 'exchange' | 'keepsMoney' | 'maybe'
>

/** Puts together what all files say of money. What items and their categories cost is in offers, and moves nothing by itself. */
export function economyFacts(files: readonly MoneyFile[]): EconomyFacts {
  const prices = offersOf(files)
  const ofOffers = new Set(prices.map(({ file, pointer }) => `${file}#${pointer}`))
  // what no item of its category is listed for is none the less no deed of its own
  const plugins = new Set(files.flatMap(({ plugin, goods }) => goods.flatMap(({ category }) => (category === null ? [] : [plugin ?? '']))))
  const placed = <T>(facts: (file: MoneyFile) => readonly T[]): (T & Placed)[] =>
    files.flatMap((file) => facts(file).map((fact) => ({ ...fact, plugin: file.plugin ?? '', file: file.path })))
  const bare = new Set(
    files.flatMap(({ plugin, path, categories, deals }) => {
      const ofDeals = new Set(deals.flatMap(({ money }) => (money ? [money.pointer] : [])))
      return plugins.has(plugin ?? '')
        ? categories.flatMap(({ costs, pays }) =>
            [costs, pays].flatMap((money) => (money && !ofDeals.has(money.pointer) ? [`${path}#${money.pointer}`] : [])),
          )
        : []
    }),
  )
  const banks = new Set(files.flatMap(({ plugin, keepsMoney }) => (keepsMoney && plugin !== null ? [plugin.toLowerCase()] : [])))
  const streams = placed((file) => file.streams).filter(
    ({ file, pointer, paidBy }) =>
      (paidBy === null || banks.has(paidBy)) && !ofOffers.has(`${file}#${pointer}`) && !bare.has(`${file}#${pointer}`),
  )
  return {
    offers: [...prices, ...dealOffers(files)],
    streams,
    draws: withMoney(
      placed(({ draws }) => draws),
      streams,
    ),
    deals: placed(({ deals }) => deals),
    exchange: placed(({ exchange }) => exchange),
    maybe: placed(({ maybe }) => maybe),
  }
}

/** What tables draw that is no thing, with what is paid for it: by commands as well, which are of money by what other files say. */
function withMoney(draws: readonly (DrawFact & Placed)[], streams: readonly GatheredStream[]): EconomyFacts['draws'] {
  const paid = new Map<string, number>()
  for (const { file, drawn, amount, bound } of streams) {
    const at = `${file}#${drawn?.entry.pointer}`
    if (drawn) paid.set(at, (paid.get(at) ?? 0) + amount * (bound === null ? 1 : 0.5))
  }
  if (paid.size === 0) return draws
  return draws.map((draw) => ({
    ...draw,
    entries: draw.entries.map((entry) => {
      const money = entry.isThing ? undefined : paid.get(`${draw.file}#${entry.pointer}`)
      return money === undefined ? entry : { ...entry, money }
    }),
  }))
}

/** Some plugins as another text of their files has them, in the places of those same plugins. */
export interface EconomyPart {
  readonly plugins: readonly string[]
  readonly facts: EconomyFacts
}

/** The same economy with some plugins as they are elsewhere: what one plugin says of money has to do with no other's files. */
export function withPart(facts: EconomyFacts, { plugins, facts: other }: EconomyPart): EconomyFacts {
  const gone = new Set(plugins)
  const merged = <T extends Placed>(all: readonly T[], own: readonly T[]): readonly T[] => [
    ...all.filter(({ plugin }) => !gone.has(plugin)),
    ...own,
  ]
  return {
    offers: merged(facts.offers, other.offers),
    streams: merged(facts.streams, other.streams),
    draws: merged(facts.draws, other.draws),
    deals: merged(facts.deals, other.deals),
    exchange: merged(facts.exchange, other.exchange),
    maybe: merged(facts.maybe, other.maybe),
  }
}

/** No money anywhere. */
export const NO_ECONOMY: EconomyFacts = { offers: [], streams: [], draws: [], deals: [], exchange: [], maybe: [] }
