import { apparentKind } from '../../tree/compare'
import type { Container, Document, Entry, Node } from '../../tree/nodes'
import { nameWords } from '../../carry/likeness'
import type { Rule } from '../rule'

/** Ids a server keeps lists of, by the name of the list. */
export type KnownIds = Readonly<Record<string, ReadonlySet<string>>>

/** What is true of a section or list as a whole; worked out once for all that stands in it. */
export interface Beside {
  readonly names: ReadonlySet<string>
  readonly areAllNumbers: boolean
  /** A switch that the rest hangs on. */
  readonly master: Entry | null
}

const MASTER = /^(?:enabled?|active)$/i

export function besideOf(container: Container): Beside {
  const { entries } = container
  return {
    names: new Set(container.type === 'map' ? entries.map(({ key }) => key) : []),
    areAllNumbers: entries.length > 1 && entries.every(({ value }) => value.type === 'scalar' && value.kind === 'number'),
    master:
      (container.type === 'map' &&
        entries.find(({ key, value }) => MASTER.test(key) && value.type === 'scalar' && value.kind === 'bool')) ||
      null,
  }
}

/** One setting with everything that may tell what it is. */
export interface Look {
  readonly document: Document
  readonly entry: Entry
  /** The section or list it stands in, and the settings above that, from the outermost. */
  readonly parent: Container
  readonly beside: Beside
  readonly above: readonly Entry[]
  /** The value that is looked at: of a list, its first item. */
  readonly node: Node
  readonly kind: string
  /** Texts of the value: one, or those of all items of a list. */
  readonly texts: readonly string[]
  readonly isList: boolean
  /** The words of the name, in the singular, in small letters. */
  readonly words: readonly string[]
  /** The words of the names above. */
  readonly wordsAbove: readonly string[]
  /** What the author says of it, in a comment of its own or in one above its section. */
  readonly comment: string
  /** What the author says of the section it stands in. */
  readonly commentAbove: string
  /** The unit of time that a comment further up says of a run of settings, of which this one has none of its own. */
  readonly unitAbove: string | null
  /** What the head of the file says. */
  readonly head: string
  readonly known: KnownIds
}

/** What one look finds out; nothing where it is not for it. */
export type Detector = (look: Look) => Partial<Rule> | null

export type LookInput = Pick<
  Look,
  'document' | 'entry' | 'parent' | 'beside' | 'above' | 'comment' | 'commentAbove' | 'unitAbove' | 'head' | 'known'
>

export function lookAt(input: LookInput): Look {
  const { document, entry, above } = input
  const isList = entry.value.type === 'list'
  const items = entry.value.type === 'list' ? entry.value.entries.map((item) => item.value) : [entry.value]
  const node = items[0] ?? entry.value
  const kinds = new Set(items.map((item) => apparentKind(document, item)))
  return {
    ...input,
    node,
    kind: kinds.size === 1 && items.length > 0 ? [...kinds][0]! : isList ? 'mixed' : apparentKind(document, node),
    texts: items.map((item) => textOf(document, item)),
    isList,
    words: nameWords(entry.key),
    wordsAbove: above.flatMap(({ key }) => nameWords(key)),
  }
}

function textOf(document: Document, node: Node): string {
  if (node.type !== 'scalar') return ''
  return node.kind === 'number' || node.kind === 'code' ? document.text.slice(node.from, node.to) : String(node.value ?? '')
}

/** The word a name comes down to: the last, and what numbers and sides are added to it left out. */
export function mainWord(words: readonly string[]): string {
  return [...words].reverse().find((word) => !/^(?:\d+|first|second|min|max|default|value|name)$/.test(word)) ?? words.at(-1) ?? ''
}

export const hasWord = (look: Pick<Look, 'words'>, ...wanted: readonly string[]): boolean =>
  look.words.some((word) => wanted.includes(word))

/** Whether its name ends with one of these words. */
export const endsWith = (look: Pick<Look, 'words'>, ...wanted: readonly string[]): boolean => wanted.includes(mainWord(look.words))
