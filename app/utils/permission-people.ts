import type { PermissionBook, PermissionPlayer } from '@pasticcio/core'

/** A player with what he may, as one line. */
export interface PersonRow {
  readonly player: PermissionPlayer
  readonly name: string
  /** The heaviest of his groups; empty for none. */
  readonly rank: string
  /** How many nodes he may. */
  readonly count: number
  /** Nodes that his rank does not give, and those of it that he is denied. */
  readonly more: readonly string[]
  readonly less: readonly string[]
}

/** The heaviest of a player’s groups; empty for none. */
export function rankOf(book: PermissionBook, player: PermissionPlayer): string {
  const weights = new Map(book.permissions.groups.map(({ name, weight }) => [name, weight ?? 0]))
  return [...book.groupsOf(player)].sort((a, b) => (weights.get(b) ?? 0) - (weights.get(a) ?? 0))[0] ?? ''
}

/** What some players may, beside what their ranks give. */
export function peopleOf(book: PermissionBook, nodes: readonly string[], players: readonly PermissionPlayer[]): readonly PersonRow[] {
  const ofRank = new Map<string, ReadonlySet<string>>()
  const givenBy = (rank: string): ReadonlySet<string> => {
    const known = ofRank.get(rank) ?? new Set(nodes.filter((node) => book.may({ group: rank }, node)))
    ofRank.set(rank, known)
    return known
  }
  return players.map((player): PersonRow => {
    const may = new Set(nodes.filter((node) => book.may({ player: player.id }, node)))
    const rank = rankOf(book, player)
    const given = givenBy(rank)
    return {
      player,
      name: player.name || player.id,
      rank,
      count: may.size,
      more: [...may].filter((node) => !given.has(node)),
      less: [...given].filter((node) => !may.has(node)),
    }
  })
}

/** How a player differs from the others of his rank, in words: `3 more and 1 fewer than others in regular`. */
export function differsWords({ more, less, rank }: Pick<PersonRow, 'more' | 'less' | 'rank'>): string {
  const others = `others in ${rank || 'no group'}`
  if (more.length + less.length === 0) return `as ${others}`
  return (
    [more.length === 0 ? '' : `${more.length} more`, less.length === 0 ? '' : `${less.length} fewer`].filter(Boolean).join(' and ') +
    ` than ${others}`
  )
}

/** A line of what was pasted: an id or a name, who that is, and what is wrong with it. */
export interface PastedLine {
  readonly text: string
  readonly id: string
  readonly name: string
  /** Whether the server has seen such a player. */
  readonly isSeen: boolean
  /** Empty for nothing. */
  readonly problem: string
}

/** Who is known by which id: from the list of the server, and from the permission plugin. */
export interface SeenPlayer {
  readonly id: string
  readonly name: string
}

/**
 * Ids or names, one a line or parted by commas, each looked up in what the server has seen.
 * @param form what an id looks like; null where nobody says
 */
export function pastedLines(text: string, seen: readonly SeenPlayer[], form: RegExp | null): readonly PastedLine[] {
  const words = [...new Set(text.split(/[\n,;]+/).map((word) => word.trim()))].filter(Boolean)
  return words.map((word): PastedLine => {
    const found = seen.find(({ id, name }) => id === word || name.toLowerCase() === word.toLowerCase())
    if (found) return { text: word, id: found.id, name: found.name, isSeen: true, problem: '' }
    const line = { text: word, id: word, name: '', isSeen: false }
    if (/\s/.test(word)) return { ...line, problem: 'is more than one word' }
    if (!/^\d+$/.test(word)) return { ...line, name: word, problem: form ? 'was never here by this name; paste the id' : '' }
    return { ...line, problem: form && !form.test(word) ? `is no id of this server: ${shapeWords(form, word)}` : '' }
  })
}

/** What is wrong with an id, as far as the form says. */
function shapeWords(form: RegExp, word: string): string {
  const [, start = '', count] = /^\^(\d*)\\d\{(\d+)\}\$$/.exec(form.source) ?? []
  if (count === undefined) return 'it has another form'
  const length = start.length + Number(count)
  return word.length === length ? `ids begin with ${start}` : `it has ${word.length} digits, and ids have ${length}`
}
