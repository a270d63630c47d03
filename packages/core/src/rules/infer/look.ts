import { apparentKind } from '../../tree/compare'
import type { Container, Document, Entry, Node } from '../../tree/nodes'
import { nameWords } from '../../carry/likeness'
import { amountsInText } from '../money-text'
import type { Rule } from '../rule'

/** Ids a server keeps lists of, by the name of the list. */
export type KnownIds = Readonly<Record<string, ReadonlySet<string>>>

/** What is true of a section or list as a whole; worked out once for all that stands in it. */
export interface Around {
  readonly container: Container
  /** The settings it is below, from the outermost, the words of each of their names, and all of these. */
  readonly above: readonly Entry[]
  readonly namesAbove: readonly (readonly string[])[]
  readonly wordsAbove: readonly string[]
  readonly names: ReadonlySet<string>
  readonly areAllNumbers: boolean
  /** Of a section of numbers: whether they are called after items of the server. */
  readonly areItems: boolean
  /** A switch that the rest hangs on. */
  readonly master: Entry | null
}

const MASTER = /^(?:enabled?|active)$/i

export function aroundOf(
  document: Document,
  container: Container,
  above: readonly Entry[],
  isOfItems: (names: readonly string[]) => boolean,
): Around {
  const { entries } = container
  const isMap = container.type === 'map'
  const namesAbove = above.map(({ key }) => nameWords(key))
  const isAmount = ({ value }: Entry): boolean =>
    apparentKind(document, value) === 'number' || amountsInText(textOf(document, value)).length > 0
  const areAllNumbers = isMap && entries.length > 1 && entries.every(isAmount)
  return {
    container,
    above,
    namesAbove,
    wordsAbove: namesAbove.flat(),
    names: new Set(isMap ? entries.map(({ key }) => key) : []),
    areAllNumbers,
    areItems: areAllNumbers && isOfItems(entries.map(({ key }) => key)),
    master: (isMap && entries.find(({ key, value }) => MASTER.test(key) && value.type === 'scalar' && value.kind === 'bool')) || null,
  }
}

/** One setting with everything that may tell what it is. */
export interface Look {
  readonly document: Document
  readonly entry: Entry
  readonly around: Around
  /** Of a list, the kind of its items where they have the same. */
  readonly kind: string
  /** Texts of the value: one, or those of all items of a list. */
  readonly texts: readonly string[]
  readonly isList: boolean
  /** The words of the name, in the singular, in small letters. */
  readonly words: readonly string[]
  /** What the author says of it, in a comment of its own or in one above its section. */
  readonly comment: string
  /** The unit of time that a comment further up says of a run of settings, of which this one has none of its own. */
  readonly unitAbove: string | null
  /** What the head of the file says. */
  readonly head: string
  readonly known: KnownIds
}

/** What one look finds out; nothing where it is not for it. */
export type Detector = (look: Look) => Partial<Rule> | null

/** What is true of all of a file. */
export type FileLook = Pick<Look, 'document' | 'head' | 'known'>

/** Written out, since there is one for each setting of a file and copying takes longer than all that is looked for. */
export function lookAt({ document, head, known }: FileLook, around: Around, entry: Entry, comment: string, unitAbove: string | null): Look {
  const { value } = entry
  const isList = value.type === 'list'
  const items = value.type === 'list' ? value.entries.map((item) => item.value) : [value]
  const kinds = new Set(items.map((item) => apparentKind(document, item)))
  const kind = kinds.size === 1 ? [...kinds][0]! : isList && items.length > 0 ? 'mixed' : apparentKind(document, value)
  const texts = items.map((item) => textOf(document, item))
  return { document, entry, around, kind, texts, isList, words: nameWords(entry.key), comment, unitAbove, head, known }
}

function textOf(document: Document, node: Node): string {
  if (node.type !== 'scalar') return ''
  return node.kind === 'number' || node.kind === 'code' ? document.text.slice(node.from, node.to) : String(node.value ?? '')
}

/** The word a name comes down to: the last, and what numbers and sides are added to it left out. */
function mainWord(words: readonly string[]): string {
  return [...words].reverse().find((word) => !/^(?:\d+|first|second|min|max|default|value|name)$/.test(word)) ?? words.at(-1) ?? ''
}

export const hasWord = (look: Pick<Look, 'words'>, ...wanted: readonly string[]): boolean =>
  look.words.some((word) => wanted.includes(word))

/** Whether its name ends with one of these words. */
export const endsWith = (look: Pick<Look, 'words'>, ...wanted: readonly string[]): boolean => wanted.includes(mainWord(look.words))
