import type { Rule } from '../rules/rule'

/** What tells whether a value is a text that players read. */
export interface TextLook {
  /** What is written, without quotes; of a list, all of it. */
  readonly texts: readonly string[]
  /** The same without codes, as they are seen. */
  readonly seen: readonly string[]
  /** The words of its name, in the singular, in small letters; of an item of a list, those of the list. */
  readonly words: readonly string[]
  /** The words of the names of the sections it is in. */
  readonly wordsAbove: readonly string[]
  /** The names beside it, as words in the singular. */
  readonly beside: ReadonlySet<string>
  /** What the author says of it. */
  readonly comment: string
  readonly rule: Rule | null
  /** Whether it holds codes or placeholders of the family. */
  readonly isMarked: boolean
  /** Whether all values of its file are texts, as in a file of translations. */
  readonly isTextFile: boolean
}

const NO_TEXT: ReadonlySet<Rule['means']> = new Set<Rule['means']>([
  'id',
  'amount',
  'node',
  'command',
  'link',
  'host',
  'port',
  'file',
  'picture',
  'secret',
  'colour',
  'time',
  'choice',
  'coordinates',
  'duration',
  'code',
  'angle',
  'slot',
  'switch',
])
const setOf = (words: string): ReadonlySet<string> => new Set(words.split(' '))
/** Names of what is written for machines, whatever it looks like. */
const MACHINE = setOf(
  'format pattern regex path command sql query language locale charset encoding zone timezone id uuid key mode type version url uri driver table schema permission node group world server host address file folder directory algorithm provider engine backend database user username password token model currency',
)
/** Names of what players read. */
const SPOKEN = setOf(
  'message text title subtitle label lore line say said tell told announce announcement broadcast greeting greet welcome farewell prefix suffix separator heading headline header footer head foot description hint tip prompt button call reason arrive quit caption banner sign page closing aside warning done display',
)
/** Sections of nothing but what players read. */
const SPOKEN_ABOVE = setOf('message text string translation lang tip announcement broadcast warning lore sign rule page title line')
const SAID =
  /\b(?:shown (?:to|in|over|above|under|below|at|when|for|by)|said (?:to|when|afterwards|only|by)|told (?:to|in)|called out|what (?:players|people|they|everybody) (?:see|read|hear|are told)|announced|broadcast|in (?:the )?chat|over the|under the|above the|put before the names?|what parts|letters (?:a line )?at (?:the )?most|at most \w+ (?:letters|characters)|name of (?:one|several)\b|to (?:all|everybody|players)|players? (?:see|read)s?)\b/i
/** What is said of commands, logs and names that only look like texts. */
const NOT_SAID = /\b(?:run on|executed|written to|logged|regular expression|date format|never shown)\b/i

const isSentence = (text: string): boolean => /\p{L}\s+\S*\p{L}/u.test(text) && (/^[\p{Lu}¿¡"“]/u.test(text) || /[.!?…]["”]?$/.test(text))
const isPlainWord = (text: string): boolean => /^[\p{Ll}\d_.:/-]+$/u.test(text)
const isPath = (text: string): boolean => /[\\/]/.test(text) && !/\s/.test(text)

/** Whether a value is a text that players read, rather than an id, a command, or another word for the machine. */
export function isTextForPlayers(look: TextLook): boolean {
  const { texts, seen, words, wordsAbove, beside, comment, rule, isMarked, isTextFile } = look
  if (rule?.role === 'message') return true
  if (rule?.means !== undefined && NO_TEXT.has(rule.means)) return false
  const written = texts.filter((text) => text !== '')
  if (NOT_SAID.test(comment) || seen.some(isPath)) return false
  if (isTextFile) return true
  const isSpoken = words.some((word) => SPOKEN.has(word))
  const isSaid = SAID.test(comment)
  const last = words.at(-1) ?? ''
  if (written.length === 0) return (isSpoken || isSaid || wordsAbove.some((word) => SPOKEN_ABOVE.has(word))) && !MACHINE.has(last)
  if (isMarked && !written.every((text) => text.startsWith('/'))) return true
  if (MACHINE.has(last) && !isSaid) return false
  if (isSaid) return true
  if (isSpoken || wordsAbove.some((word) => SPOKEN_ABOVE.has(word))) return written.some((text) => !isPlainWord(text))
  if (isName(last, beside)) return written.every((text) => !isPlainWord(text))
  return written.some(isSentence)
}

/** Whether it names something that players see, as what has an icon, goods, or a place. */
const isName = (last: string, beside: ReadonlySet<string>): boolean =>
  last === 'name' &&
  ['icon', 'item', 'material', 'goods', 'price', 'at', 'place', 'start', 'slot', 'weight'].some((word) => beside.has(word))
