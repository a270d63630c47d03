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

/**
 * Writes a file of goods for each wharf into a folder: all items the game knows, each at one wharf and some at two, with
 * prices that are the same in every build.
 */
export function writeWharves(folder: string): void {
  mkdirSync(folder, { recursive: true })
  const items = itemRegistry()
  WHARVES.forEach((wharf, at) => {
    const goods = items.filter((_item, i) => i % WHARVES.length === at || i % 53 === at)
    writeFileSync(join(folder, `${wharf}.yml`), HEAD(wharf) + goods.map(({ id, category }, i) => good(id, category, i + at)).join(''))
  })
}

function good(id: string, category: string, at: number): string {
  const own = (name: string, value: number | string, isThere: boolean): string => (isThere ? `    ${name}: ${value}\n` : '')
  const buy = at % 17 === 5 ? -1 : 4 + ((at * 7) % 90)
  return (
    `  ${id}:\n    category: ${category}\n` +
    own('buy', buy, at % 3 !== 0) +
    own('sell', Math.max(1, Math.floor(Math.abs(buy) / 3)), at % 4 === 1) +
    own('stock', at % 11 === 3 ? -1 : 8 * (1 + (at % 9)), at % 2 === 0) +
    own('node', id.startsWith('painted_') ? 'wharfside.rare' : "''", true)
  )
}
