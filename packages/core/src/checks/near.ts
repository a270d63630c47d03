/** What somebody most likely meant by a word that is not known. */
export interface Near {
  readonly id: string
  /** How many letters differ, beside capitals and what parts words. */
  readonly away: number
}

const bare = (word: string): string => word.toLowerCase().replace(/[\s_.:/-]+/g, '')

/**
 * The one of a list that is most like a word: the same but for capitals and what parts it, a part of it (`bells.tin_bell`),
 * or a few letters away. @returns null where none is like enough to be meant
 */
export function nearest(word: string, ids: Iterable<string>): Near | null {
  const wanted = bare(word)
  if (wanted === '') return null
  const most = Math.min(3, Math.max(1, Math.floor(wanted.length / 4)))
  let best: Near | null = null
  for (const id of ids) {
    const other = bare(id)
    const away: number | null = other === wanted ? 0 : isPart(word, id) ? 1 : distance(wanted, other, best ? best.away - 1 : most)
    if (away !== null && (!best || away < best.away || (away === best.away && id.length > best.id.length && isPart(word, id))))
      best = { id, away }
    if (best?.away === 0) break
  }
  return best
}

/** Whether one is the other with something before or behind it, parted from it. */
const isPart = (word: string, id: string): boolean =>
  id.length > 3 && new RegExp(`(?:^|[\\s_.:/-])${id.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?:$|[\\s_.:/-])`, 'i').test(word)

/**
 * Letters that differ between two words: put in, left out, another, or two that are swapped (optimal string alignment).
 * @returns null for more than `most`
 */
export function distance(a: string, b: string, most: number): number | null {
  if (most < 0 || Math.abs(a.length - b.length) > most) return null
  let before: number[] = []
  let last = Array.from({ length: b.length + 1 }, (_, j) => j)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1]
      let cost = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1))
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) cost = Math.min(cost, before[j - 2]! + 1)
      row.push(cost)
    }
    if (Math.min(...row) > most) return null
    before = last
    last = row
  }
  return last[b.length]! <= most ? last[b.length]! : null
}
