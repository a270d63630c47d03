import { placeholdersIn } from '../checks/texts'
import { looksOf, type PartLook, type ValueLook } from '../checks/looks'
import type { WorkspaceFile } from '../checks/workspace'
import { eachSetting } from '../tree/each'
import { isContainer } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import type { Markup } from '../values/markup'

/** One text of a language. */
export interface LanguageText {
  readonly from: number
  readonly to: number
  readonly isShipped: boolean
  /** Names of the placeholders in it. */
  readonly placeholders: readonly string[]
}

/** The texts of one language that a file holds. */
export interface LanguageFacts {
  /** What all its languages have in common, with `*` for the language: a path, or for sections of one file that file, `#` and their pointer. */
  readonly base: string
  /** As it is written; empty for texts whose file says none, which are read where a language has none of its own. */
  readonly language: string
  /** The section its texts are in; empty for the whole file. */
  readonly at: string
  /** By their pointers below that section. */
  readonly texts: Readonly<Record<string, LanguageText>>
  /** Pointers of texts that its plugin ships there, and that are not there any more. */
  readonly lost: readonly string[]
}

/** ISO 639-1 codes of languages that games are translated into. */
const LANGUAGES = new Set(
  'ar be bg bs ca cs cy da de el en es et eu fa fi fr ga gl he hi hr hu id is it ja ka kk ko lt lv mk ms nb nl nn no pl pt ro ru sk sl sq sr sv sw th tr uk ur vi zh'.split(
    ' ',
  ),
)
const CODE = '[a-z]{2}(?:[-_][A-Za-z]{2,4})?'
const WHOLE = new RegExp(`^${CODE}$`)
/** A name that ends in a language, as `texts.de.yml` or `lang/de_AT.yml`. */
const NAMED = new RegExp(`^(.*[/._-])(${CODE})(\\.[a-z0-9]+)$`)
/** Words of files and folders that hold texts of languages. */
const TELLING = /(?:^|[^a-z])(?:texts?|messages?|lang|languages?|locales?|strings?|translations?|i18n|words)(?![a-z])/i
/** A folder of each language, in one that is called after that, as `lang/de/board.yml`. */
const FOLDER = new RegExp(`^(.*(?:texts?|messages?|lang|languages?|locales?|translations?|i18n)/)(${CODE})(/.+)$`, 'i')

/** Whether a word is the code of a language, as `de` or `pt_BR`. */
export const isLanguage = (word: string): boolean => WHOLE.test(word) && LANGUAGES.has(word.slice(0, 2))

/** The language that a path says, and what it has in common with those of others; null where it says none. */
export function languageOfPath(path: string): { readonly base: string; readonly language: string } | null {
  for (const pattern of [NAMED, FOLDER]) {
    const [, before, language, after] = pattern.exec(path) ?? []
    if (before !== undefined && isLanguage(language!)) return { base: `${before}*${after!}`, language: language! }
  }
  return null
}

/** The path of the file that says no language beside those that do: `texts.yml` of `texts_*.yml`; null for those called after nothing else. */
export function plainPathOf(base: string): string | null {
  const plain = base.replace(/[._-]\*(?=\.[^./]+$)/, '')
  return plain === base ? null : plain
}

/** The texts of each language in a file: of the one it is called after, or of sections that are. */
export function languagesIn(file: WorkspaceFile, texts: Markup | null): LanguageFacts[] {
  const { values, parts } = looksOf(file)
  const named = languageOfPath(file.path)
  if (named) return [{ ...named, at: '', ...textsAt(file, values, [], texts) }]
  const sections = parts.filter(isOfLanguages).flatMap(({ keys, node }) =>
    node.entries.map(({ key }): LanguageFacts => {
      const at = [...keys, key]
      const own = values.filter((value) => at.every((one, i) => value.keys[i] === one))
      return {
        base: `${file.path}#${formatPointer([...keys, '*'])}`,
        language: key,
        at: formatPointer(at),
        ...textsAt(file, own, at, texts),
      }
    }),
  )
  if (sections.length > 0) return sections
  const isPlain = TELLING.test(file.path.split('/').at(-1)!) || file.document.traits.values === 'text'
  return isPlain ? [{ base: file.path, language: '', at: '', ...textsAt(file, values, [], texts) }] : []
}

/** A section of nothing but languages, each with texts. */
const isOfLanguages = ({ node }: PartLook): boolean =>
  node.type === 'map' && node.entries.length > 1 && node.entries.every(({ key, value }) => isLanguage(key) && isContainer(value))

function textsAt(
  { factory }: WorkspaceFile,
  values: readonly ValueLook[],
  at: readonly string[],
  markup: Markup | null,
): Pick<LanguageFacts, 'texts' | 'lost'> {
  const texts = Object.fromEntries(
    values
      .filter(({ node }) => node.kind === 'text')
      .map(({ keys, node: { from, to }, isShipped, text }): [string, LanguageText] => [
        formatPointer(keys.slice(at.length)),
        { from, to, isShipped, placeholders: markup ? [...placeholdersIn(markup, [text])] : [] },
      ]),
  )
  const isBelow = (keys: readonly string[]): boolean => keys.length > at.length && at.every((key, i) => keys[i] === key)
  const shipped = factory
    ? [...eachSetting(factory)].flatMap(({ keys, entry: { value } }) =>
        value.type === 'scalar' && value.kind === 'text' && isBelow(keys) ? [formatPointer(keys.slice(at.length))] : [],
      )
    : []
  return { texts, lost: shipped.filter((pointer) => texts[pointer] === undefined) }
}

/** Whether a path alone tells that its texts are of a language, however many languages there are. */
export const tellsTexts = (base: string): boolean => TELLING.test(base)
