import { writtenId } from '../rules/id-forms'
import type { DrawFact } from './draw-facts'
import type { GoodFact, MoneyFacts } from './money-facts'

type Named = MoneyFacts & { readonly draws: readonly DrawFact[] }

/**
 * The same facts with items called as the server's list calls them, however their file writes them: what one plugin sells as `CLAY` is what
 * another buys as `clay`.
 * @param items the server's list; without one all stay as they are
 */
export function calledAsListed<F extends Named>(facts: F, items: ReadonlySet<string> | undefined): F {
  if (!items || items.size === 0) return facts
  const listed = (name: string): string => writtenId(items, name)?.id ?? name
  const kinds = new Set(facts.goods.map(({ category }) => category))
  const byName = goodsByName(facts.categories, items)
  return {
    ...facts,
    // what has prices and no goods may be a thing itself
    categories: facts.categories
      .filter((one) => !byName.has(one))
      .map((one) => (kinds.has(one.item) ? one : { ...one, item: listed(one.item) })),
    goods: [...facts.goods, ...byName].map((good) => ({ ...good, item: listed(good.item) })),
    deals: facts.deals.map((deal) => ({ ...deal, items: deal.items.map((share) => ({ ...share, item: listed(share.item) })) })),
    draws: facts.draws.map((draw) => ({ ...draw, entries: draw.entries.map((entry) => ({ ...entry, name: listed(entry.name) })) })),
  }
}

/** Of what stands in a list and calls itself by a name: goods, where all that have a price there are called after items. */
function goodsByName(entries: readonly GoodFact[], items: ReadonlySet<string>): ReadonlySet<GoodFact> {
  const lists = new Map<string, GoodFact[]>()
  for (const entry of entries) {
    const at = (entry.costs ?? entry.pays)?.pointer.match(/^(.*)\/\d+(?:\/[^/]+){1,3}$/)?.[1]
    if (at !== undefined) lists.set(at, [...(lists.get(at) ?? []), entry])
  }
  return new Set([...lists.values()].filter((list) => list.every(({ item }) => writtenId(items, item) !== null)).flat())
}
