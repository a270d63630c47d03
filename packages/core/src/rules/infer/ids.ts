import { formOf, isOfGame } from '../id-forms'
import { hasWord, type Detector, type KnownIds, type Look } from './look'

/** Words that speak of ids, by the list of the server's they are from. */
const WORDS: Readonly<Record<string, readonly string[]>> = {
  items: ['item', 'icon', 'good', 'material', 'gift', 'tool', 'filler', 'drop', 'loot', 'reward', 'product', 'buoy'],
  blocks: ['block'],
  sounds: ['sound'],
  effects: ['effect', 'particle'],
  places: ['place', 'world', 'dimension', 'realm', 'closed', 'hidden'],
  groups: ['group', 'rank', 'role', 'inherit', 'ladder'],
}
/** What a comment says that speaks of ids of a list, by the list. */
const SAID = new Map(
  Object.keys(WORDS).map((name) => [name, new RegExp(`\\b(?:any|an|the) ${name.slice(0, -1)}\\b|\\bids? of ${name}\\b|^\\W*${name}\\b`)]),
)
const ID = /^[a-z][a-z0-9]*(?:[_:.-][a-z0-9]+)*$/i
const WITH_COUNT = /^([a-z][a-z0-9]*(?:[_:-][a-z0-9]+)*)[\s:x*]+(\d+)$/i

/** Whether ids are from a list, but for so many strange ones: as it has them, or all in another way where they are the game's own. */
function areFrom([registry, list]: readonly [string, ReadonlySet<string>], ids: readonly string[], most = 0): boolean {
  let strange = 0
  if (list.size === 0) return false
  return ids.every((id) => list.has(id) || ++strange <= most) || (isOfGame(registry) && formOf(list, ids, most) !== null)
}

/** The list all of these ids are from; where several have them, the one the words speak of. */
function registryOf(known: KnownIds, ids: readonly string[], spoken: readonly string[]): string | null {
  if (ids.length === 0) return null
  const fits = Object.entries(known)
    .filter((one) => areFrom(one, ids))
    .map(([name]) => name)
  return fits.find((name) => spoken.includes(name)) ?? fits[0] ?? null
}

/** The lists the words of a setting speak of. */
function spokenOf(look: Look): string[] {
  const said = look.comment.toLowerCase()
  const words = [...look.words, ...look.around.wordsAbove.slice(-1)]
  return Object.entries(WORDS)
    .filter(([name, list]) => list.some((word) => words.includes(word)) || SAID.get(name)!.test(said))
    .map(([name]) => name)
}

export const id: Detector = (look) => {
  if (look.kind !== 'text') return null
  const texts = look.texts.filter((text) => text !== '')
  const counted = texts.map((text) => WITH_COUNT.exec(text))
  const spoken = spokenOf(look)
  if (texts.length > 0 && counted.every((match) => match !== null)) {
    const registry = registryOf(
      look.known,
      counted.map((match) => match[1]!),
      spoken,
    )
    return registry ? { means: 'amount', registry } : spoken.includes('items') ? { means: 'amount', registry: 'items' } : null
  }
  if (!texts.every((text) => ID.test(text))) return null
  const registry = registryOf(look.known, texts, spoken)
  if (registry) return isLikely(look, registry, spoken) ? { means: 'id', registry } : null
  // the author says so, whether or not the server has it
  const told = Object.keys(WORDS).find((name) => new RegExp(`\\bany ${name.slice(0, -1)}\\b`, 'i').test(look.comment))
  if (told && texts.length > 0) return { means: 'id', registry: told }
  // a list that the server does not have, or an id it does not know
  const named = spoken.find((name) => WORDS[name]!.some((word) => hasWord(look, word)))
  return named && !look.known[named]?.size ? { means: 'id', registry: named } : null
}

/** A single short word may be an id by chance: then its name or its comment must speak of such things. */
function isLikely(look: Look, registry: string, spoken: readonly string[]): boolean {
  const isNamedId = registry === 'items' && look.words.length === 1 && look.words[0] === 'id'
  return spoken.includes(registry) || isNamedId || look.isList || look.texts.some((text) => /[_:]/.test(text))
}

/** Of so many names a few may be strange to the server, as those of things another version of the game has. */
const MANY_NAMES = 6
const STRANGE = 0.2

/** Sections with so many of each item, also of a single one. */
const COUNTED = new Set([
  'item',
  'need',
  'require',
  'requirement',
  'required',
  'bring',
  'deliver',
  'ingredient',
  'reward',
  'give',
  'gift',
  'loot',
])

/**
 * The list of the server's that the names in a section are from: all of them, or of many nearly all. A single one may be an id by chance,
 * but where the section says that it counts items.
 * @param words of the section's own name
 */
export function keysOf(names: readonly string[], known: KnownIds, words: readonly string[] = []): string | null {
  if (names.length === 1 && known['items'] && formOf(known['items'], names) && words.some((word) => COUNTED.has(word))) return 'items'
  if (names.length < 2) return null
  const all = registryOf(known, names, ['items'])
  if (all !== null || names.length < MANY_NAMES) return all
  const most = Math.floor(names.length * STRANGE)
  const found = Object.entries(known)
    .filter((one) => areFrom(one, names, most))
    .map(([name]) => name)
  return found.find((name) => name === 'items') ?? found[0] ?? null
}
