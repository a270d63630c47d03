import { itemRegistry } from '../server/items'
import { SettingsError } from '../server/settings-file'
import type { Host, Loaded, Running } from './behaviour'

/** A value that leaves an item as the game has it. */
const AS_THE_GAME_HAS_IT = -1
const OF_THE_GAME = 64

/** How many of an item fit one slot: by item where that is recorded, else by category. */
export function satchels(host: Host, { used }: Loaded): Running {
  const byCategory = used['by-category'] as Record<string, unknown>
  const recorded = host.recorded('items')
  const byItem = new Map<string, number>(Object.entries(recorded === null ? {} : (JSON.parse(recorded) as Record<string, number>)))
  const items = itemRegistry()
  const fits = (id: string): number | null => {
    const item = items.find((known) => known.id === id)
    if (!item) return null
    const set = [byItem.get(id), byCategory[item.category]].map(Number).find((count) => Number.isInteger(count) && count > 0)
    return set ?? OF_THE_GAME
  }
  for (const [category, count] of Object.entries(byCategory))
    if (!Number.isInteger(count) || (count !== AS_THE_GAME_HAS_IT && Number(count) < 1))
      throw new SettingsError(1, `by-category.${category} must be a whole number from 1, or -1`)
  const flush = (): void => host.record('items', JSON.stringify(Object.fromEntries(byItem), null, 2) + '\n')
  if (recorded === null) flush()
  return {
    summary: `${Object.keys(byCategory).length} categories, ${byItem.size} items of their own`,
    asPlayer: (_player, words) => {
      if (words[0] !== 'satchel') return null
      const count = fits(words[1] ?? '')
      return [count === null ? `There is no ${words[1] ?? 'such thing'}.` : `${count} ${words[1]} fit one slot.`]
    },
    asConsole(words) {
      if (words[0] === 'flush') {
        flush()
        return [`${byItem.size} items written`]
      }
      const count = Number(words[3])
      if (words[0] !== 'satchel') return null
      if (words[1] !== 'set' || fits(words[2] ?? '') === null || !Number.isInteger(count)) return ['satchel set <item> <count>']
      byItem.set(words[2]!, count)
      return [`${fits(words[2]!)} ${words[2]} fit one slot`]
    },
  }
}
