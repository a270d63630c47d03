import { escaped, placeholderPattern, type Markup } from '@pasticcio/core'
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
  /** What marks placeholders and codes: names in them are no words, and stay unless they are asked for with their marks. */
  readonly markup?: Pick<Markup, 'placeholder' | 'codes'>
}

/** What finds some words in texts; null for none. */
function finderOf(words: string, { matchCase, wholeWords }: ReplaceOptions): RegExp | null {
  if (words === '') return null
  const edge = wholeWords ? ['(?<![\\p{L}\\p{N}_])', '(?![\\p{L}\\p{N}_])'] : ['', '']
  return new RegExp(`${edge[0]}${escaped(words)}${edge[1]}`, matchCase ? 'gu' : 'giu')
}

/** What is left as it is: placeholders and codes, where the words are none of these. */
function keptOf(words: string, markup: ReplaceOptions['markup']): RegExp | null {
  if (!markup) return null
  const placeholder = placeholderPattern(markup).source
  const pattern = markup.codes === null ? placeholder : `${placeholder}|${markup.codes}`
  return new RegExp(pattern).test(words) || words.includes(markup.placeholder[0] ?? '{') ? null : new RegExp(pattern, 'g')
}

/** Texts that hold some words, with others in their place; those are written as they are typed. */
export function hitsOf(list: readonly ListedMessage[], words: string, by: string, options: ReplaceOptions): readonly Hit[] {
  const finder = finderOf(words, options)
  const kept = keptOf(words, options.markup)
  if (!finder) return []
  return list.flatMap((message): Hit[] => {
    let count = 0
    const replaced = (part: string): string => part.replace(finder, () => (count++, by))
    const texts = message.texts.map((text) => {
      if (!kept) return replaced(text)
      let at = 0
      let out = ''
      for (const found of text.matchAll(kept)) {
        out += replaced(text.slice(at, found.index)) + found[0]
        at = found.index + found[0].length
      }
      return out + replaced(text.slice(at))
    })
    return count > 0 ? [{ message, texts, count }] : []
  })
}
