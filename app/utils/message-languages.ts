import { parsePointer } from '@pasticcio/core'
import type { ListedMessage } from './message-groups'
import type { LanguageShown, LanguagesShown } from './types'

/** What is to be said of a text in one language: nothing where it follows its source. */
export type CellState = '' | 'missing' | 'stale' | 'extra' | 'without' | 'same'

/** A text of one language; null where it has none. */
export interface LanguageCell {
  readonly language: string
  readonly message: ListedMessage | null
  readonly state: CellState
}

/** One text in all its languages. */
export interface LanguageRow {
  readonly base: string
  /** Below the sections of the languages. */
  readonly pointer: string
  readonly cells: readonly LanguageCell[]
}

/** How the states are called, and what they mean. */
export const STATE_WORDS: Readonly<Record<Exclude<CellState, ''>, readonly [short: string, whole: string]>> = {
  missing: ['missing', 'players read the other language there'],
  stale: ['older', 'the source was changed since'],
  extra: ['extra', 'the source does not have it'],
  without: ['leaves out', 'a placeholder of the source is not in it'],
  same: ['not translated', 'it reads as the source does'],
}

/** What a language is called; texts that say none are in the one the server speaks, as far as that is known. */
export const languageName = (language: string, spoken: string | null): string => language || (spoken ?? 'as shipped')

/** What tells languages apart in a text: what a player reads of it without what is filled in, and the names of that. */
export interface TextParts {
  words(text: string): string
  placeholders(texts: readonly string[]): readonly string[]
}

/** Texts of one group of languages side by side, in the order of the source, what only others have at the end. */
export function languageRows(
  all: readonly ListedMessage[],
  { base, languages }: Pick<LanguagesShown, 'base' | 'languages'>,
  parts: TextParts,
): readonly LanguageRow[] {
  const byLanguage = new Map<string, Map<string, ListedMessage>>(languages.map(({ language }) => [language, new Map()]))
  for (const message of all)
    if (message.translated?.base === base) byLanguage.get(message.translated.language)?.set(message.translated.pointer, message)
  const source = languages.find(({ isSource }) => isSource)?.language ?? ''
  const followed = byLanguage.get(source) ?? new Map<string, ListedMessage>()
  const pointers = new Set([...followed.keys(), ...[...byLanguage.values()].flatMap((texts) => [...texts.keys()])])
  return [...pointers].map((pointer) => ({
    base,
    pointer,
    cells: languages.map(({ language }): LanguageCell => {
      const message = byLanguage.get(language)!.get(pointer) ?? null
      const from = followed.get(pointer) ?? null
      return { language, message, state: language === source ? '' : stateOf(message, from, parts) }
    }),
  }))
}

function stateOf(message: ListedMessage | null, source: ListedMessage | null, { words, placeholders }: TextParts): CellState {
  if (!message) return source ? 'missing' : ''
  if (!source) return 'extra'
  if (message.isShipped && !source.isShipped) return 'stale'
  const own = new Set(placeholders(message.texts))
  if (placeholders(source.texts).some((name) => !own.has(name))) return 'without'
  const read = ({ texts }: ListedMessage): string => texts.join('\n')
  return read(message) === read(source) && /\p{L}{2}/u.test(source.texts.map(words).join(' ')) ? 'same' : ''
}

/** How many texts of a language follow their source, are older, and are not there. */
export interface Coverage {
  readonly language: string
  readonly said: number
  readonly stale: number
  readonly missing: number
}

/** How far each language is, over all plugins; one that says no language is called after the one the server speaks. */
export function coverageOf(groups: readonly LanguagesShown[], spoken: string | null): readonly Coverage[] {
  const found = new Map<string, { said: number; stale: number; missing: number }>()
  for (const { languages } of groups)
    for (const { language, texts, stale, missing, extra } of languages) {
      const name = languageName(language, spoken)
      const sum = found.get(name) ?? { said: 0, stale: 0, missing: 0 }
      found.set(name, { said: sum.said + texts - extra - stale, stale: sum.stale + stale, missing: sum.missing + missing })
    }
  return [...found].map(([language, sum]) => ({ language, ...sum })).sort((a, b) => b.said - a.said)
}

/** A text that is to be written, there or not. */
export interface PutText {
  readonly file: string
  readonly pointer: string
  readonly texts: readonly string[]
  readonly isList: boolean
  readonly keys: readonly string[] | null
  /** The key of the setting it comes after, where it is not there yet. */
  readonly after?: string
}

/** What is written where a language lacks a text: it goes behind the one it stands behind in the others. */
export function missingText(
  rows: readonly LanguageRow[],
  at: number,
  { language, file, at: section }: Pick<LanguageShown, 'language' | 'file' | 'at'>,
  texts: readonly string[],
): PutText {
  const { pointer, cells } = rows[at]!
  const parent = pointer.slice(0, pointer.lastIndexOf('/'))
  const isThere = (row: LanguageRow): boolean => row.cells.some((cell) => cell.language === language && cell.message !== null)
  const before = rows.slice(0, at).findLast((row) => row.pointer.slice(0, row.pointer.lastIndexOf('/')) === parent && isThere(row))
  const like = cells.find((cell) => cell.message)?.message
  const key = before && parsePointer(before.pointer)?.at(-1)
  return {
    file,
    pointer: section + pointer,
    texts,
    isList: like?.isList ?? false,
    keys: like?.keys ?? null,
    ...(key === undefined ? {} : { after: key }),
  }
}
