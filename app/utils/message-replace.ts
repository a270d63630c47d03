import type { ListedMessage } from './message-groups'

/** A text with what would stand in its place. */
export interface Hit {
  readonly message: ListedMessage
  readonly texts: readonly string[]
  /** How often it is in there. */
  readonly count: number
}

export interface ReplaceOptions {
  readonly matchCase: boolean
  readonly wholeWords: boolean
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** What finds some words in texts; null for none. */
export function finderOf(words: string, { matchCase, wholeWords }: ReplaceOptions): RegExp | null {
  if (words === '') return null
  const edge = wholeWords ? ['(?<![\\p{L}\\p{N}_])', '(?![\\p{L}\\p{N}_])'] : ['', '']
  return new RegExp(`${edge[0]}${escaped(words)}${edge[1]}`, matchCase ? 'gu' : 'giu')
}

/** Texts that hold some words, with others in their place; those are written as they are typed. */
export function hitsOf(list: readonly ListedMessage[], words: string, by: string, options: ReplaceOptions): readonly Hit[] {
  const finder = finderOf(words, options)
  if (!finder) return []
  return list.flatMap((message): Hit[] => {
    let count = 0
    const texts = message.texts.map((text) => text.replace(finder, () => (count++, by)))
    return count > 0 ? [{ message, texts, count }] : []
  })
}
