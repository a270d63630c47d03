/*
 * The same thing goes by several spellings: a list of the server has `clay`, one plugin writes `CLAY`, another `lands:clay`. A plugin
 * writes all of its ids in one way, so that the way is told by many of them and never by one letter more or less.
 */

/** How ids of a list are written elsewhere. */
export interface IdForm {
  /** In capitals throughout. */
  readonly isUpper: boolean
  /** What stands before the id, with its colon; null where it is what the list itself has there. */
  readonly prefix: string | null
}

/** The way of the list itself. */
export const AS_LISTED: IdForm = { isUpper: false, prefix: null }

/** Lists whose ids are the game's own. What people named themselves is written as they wrote it. */
const OF_GAME = new Set(['items', 'blocks', 'sounds', 'effects'])
export const isOfGame = (registry: string): boolean => OF_GAME.has(registry)

const folded = new WeakMap<ReadonlySet<string>, ReadonlyMap<string, string>>()

const bareOf = (id: string): string => id.slice(id.lastIndexOf(':') + 1)

/** The ids of a list by their small letters without what is before a colon; those that share them with another are left out. */
function foldsOf(list: ReadonlySet<string>): ReadonlyMap<string, string> {
  const before = folded.get(list)
  if (before) return before
  const found = new Map<string, string>()
  const twice = new Set<string>()
  for (const id of list) {
    const fold = bareOf(id).toLowerCase()
    if (found.has(fold)) twice.add(fold)
    found.set(fold, id)
  }
  for (const fold of twice) found.delete(fold)
  folded.set(list, found)
  return found
}

/** An id as it is written, with the one of the list that it stands for. */
export interface WrittenId {
  readonly id: string
  readonly form: IdForm
}

/** What a text stands for in a list: itself, or the only one that is the same but for its way of writing. @returns null for none */
export function writtenId(list: ReadonlySet<string>, text: string): WrittenId | null {
  if (list.has(text)) return { id: text, form: AS_LISTED }
  const id = foldsOf(list).get(bareOf(text).toLowerCase())
  if (id === undefined) return null
  const [bare, ownBare] = [bareOf(text), bareOf(id)]
  const [before, ownBefore] = [text.slice(0, text.length - bare.length), id.slice(0, id.length - ownBare.length)]
  const isUpper = bare === bare.toUpperCase() && bare !== ownBare
  const form = { isUpper, prefix: before.toLowerCase() === ownBefore.toLowerCase() ? null : before }
  return writeId(id, form) === text ? { id, form } : null
}

/** Writes an id of a list in one of these ways. */
export function writeId(id: string, { isUpper, prefix }: IdForm): string {
  const bare = bareOf(id)
  const whole = prefix === null ? id : prefix + bare
  return isUpper ? (prefix === null ? id.toUpperCase() : prefix + bare.toUpperCase()) : whole
}

/** The way in which most of these texts are ids of a list; null where most are in none. */
export const formOfMost = (list: ReadonlySet<string>, texts: readonly string[]): IdForm | null =>
  formOf(list, texts, Math.floor((texts.length - 1) / 2))

/**
 * The way in which these texts are ids of a list.
 * @param strange so many of them may be no id in that way
 * @returns null where more of them are none
 */
export function formOf(list: ReadonlySet<string>, texts: readonly string[], strange = 0): IdForm | null {
  const counts = new Map<string, { readonly form: IdForm; count: number }>()
  let none = 0
  for (const text of texts) {
    const found = writtenId(list, text)
    if (!found) {
      if (++none > strange) return null
      continue
    }
    const key = `${found.form.isUpper} ${found.form.prefix}`
    const one = counts.get(key) ?? { form: found.form, count: 0 }
    one.count++
    counts.set(key, one)
  }
  const most = [...counts.values()].sort((a, b) => b.count - a.count)[0]
  return most && texts.length - most.count <= strange ? most.form : null
}
