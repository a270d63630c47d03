import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { itemRegistry } from '../server/items'

const WHARVES = ['quay', 'kiln', 'ferry', 'night', 'salt', 'upriver']

const HEAD = (wharf: string): string => `# What the ${wharf} wharf has.

# The goods, by item. Copy a block to make another. What is left out is as settings.yml says for the category.
#   category  the kind of goods
#   buy       what players pay for one, in marks. -1 leaves it to the game
#   sell      what players get for one, in marks
#   stock     how many there are in a day. -1 leaves it to the game
#   node      the permission node, empty for everybody
goods:
`

/** What wharves pay for two things is more than stalls ask: the one as it is shipped, the other since people of the demo lowered its price. */
const PAYS_TOO_MUCH: Readonly<Record<string, number>> = { rope_coil: 14, lantern: 24 }

/** What a category says for goods that say nothing themselves. */
export type WharfPrices = Readonly<Record<string, { readonly buy: number; readonly sell: number }>>

/**
 * Writes a file of goods for each wharf into a folder: all items the game knows, each at one wharf and some at two, with
 * prices that are the same in every build, and a little above those of the stalls.
 * @param stalls what stalls ask for an item; nothing for what they do not have
 */
export function writeWharves(folder: string, stalls: ReadonlyMap<string, number>, categories: WharfPrices): void {
  mkdirSync(folder, { recursive: true })
  const items = itemRegistry()
  WHARVES.forEach((wharf, at) => {
    const goods = items.filter((_item, i) => i % WHARVES.length === at || i % 53 === at)
    writeFileSync(
      join(folder, `${wharf}.yml`),
      HEAD(wharf) + goods.map(({ id, category }, i) => good(id, category, i + at, stalls.get(id) ?? 0, categories[category]!)).join(''),
    )
  })
}

function good(id: string, category: string, at: number, stall: number, kind: WharfPrices[string]): string {
  const own = (name: string, value: number | string, isThere: boolean): string => (isThere ? `    ${name}: ${value}\n` : '')
  const dear = stall === 0 ? kind.buy + ((at * 7) % 30) : Math.ceil(stall * (1.1 + (at % 5) / 10)) + 1
  const buy = at % 17 === 5 ? -1 : dear
  const sell = PAYS_TOO_MUCH[id] ?? Math.max(1, Math.floor((stall || kind.buy) / 3))
  // what its category says is for goods of a middling price
  const isDear = stall > 0 && kind.buy < stall
  const isCheap = stall > 0 && kind.sell >= stall
  return (
    `  ${id}:\n    category: ${category}\n` +
    own('buy', buy, at % 3 !== 0 || isDear) +
    own('sell', sell, at % 4 === 1 || isDear || isCheap || id in PAYS_TOO_MUCH) +
    own('stock', at % 11 === 3 ? -1 : 8 * (1 + (at % 9)), at % 2 === 0) +
    own('node', id.startsWith('painted_') ? 'wharfside.rare' : "''", true)
  )
}
