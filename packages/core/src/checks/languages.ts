import { formatPointer } from '../tree/pointer'
import { defineCheck, type CheckResult } from './check'
import type { FileFacts } from './facts'
import { groupedBy } from './grouped'
import { looksOf } from './looks'
import type { WorkspaceFile } from './workspace'

/** Texts of one language by their pointers. */
export interface LanguageFacts {
  /** The file's name without the language. */
  readonly base: string
  readonly language: string
  readonly texts: Readonly<Record<string, { readonly from: number; readonly to: number; readonly isShipped: boolean }>>
}

/** A name that ends in a language, as `texts.de.yml` or `lang/de_AT.yml`. */
const NAMED = /^(.*[/._-])([a-z]{2}(?:[-_][A-Za-z]{2})?)(\.[a-z0-9]+)$/
const LANGUAGES = new Set(
  'ar be bg bs ca cs cy da de el en es et eu fa fi fr ga gl he hi hr hu id is it ja ka kk ko lt lv mk ms nb nl nn no pl pt ro ru sk sl sq sr sv sw th tr uk ur vi zh'.split(
    ' ',
  ),
)

/** The texts of a file whose name says a language; null for others. */
export function languageIn(file: WorkspaceFile): LanguageFacts | null {
  const [, before, language, ending] = NAMED.exec(file.path) ?? []
  if (before === undefined || language === undefined || !LANGUAGES.has(language.slice(0, 2))) return null
  const values = looksOf(file).values.filter(({ node }) => node.kind === 'text')
  const texts = Object.fromEntries(
    values.map(({ keys, node, isShipped }) => [formatPointer(keys), { from: node.from, to: node.to, isShipped }]),
  )
  return { base: before + ending!, language, texts }
}

/** Texts that one language has and another lacks, and those that were not changed with their source. */
export const languagesAgree = defineCheck({
  id: 'languages-agree',
  scope: 'server',
  codes: ['translation-missing', 'translation-stale'],
  *run(_workspace, facts) {
    const told = [...facts.values()].filter(({ language }) => language !== null)
    for (const files of groupedBy(told, ({ language }) => language!.base).values()) if (files.length > 1) yield* agreeing(files)
  },
})

function* agreeing(files: readonly FileFacts[]): Iterable<CheckResult & { file: string }> {
  // English is what most authors write in; without it the one with most texts
  const sizeOf = (file: FileFacts): number => Object.keys(file.language!.texts).length
  const source = files.find(({ language }) => language!.language.startsWith('en')) ?? [...files].sort((a, b) => sizeOf(b) - sizeOf(a))[0]!
  for (const file of files) {
    if (file === source) continue
    const { texts, language } = file.language!
    for (const [pointer, { isShipped, from, to }] of Object.entries(source.language!.texts)) {
      const own = texts[pointer]
      const related = [{ file: source.path, from, to, why: 'the text it follows' }]
      if (!own)
        yield {
          code: 'translation-missing',
          severity: 'note',
          file: file.path,
          from: 0,
          to: 0,
          message: `${language} has no text ${pointer.slice(1)}, which ${source.language!.language} has. Players read the other language there.`,
          cause: `missing in ${file.path}`,
          related,
        }
      else if (!isShipped && own.isShipped)
        yield {
          code: 'translation-stale',
          severity: 'note',
          file: file.path,
          from: own.from,
          to: own.to,
          message: `${source.language!.language} was changed here, and ${language} is still as it was shipped. Change it too.`,
          cause: `stale in ${file.path}`,
          related,
        }
    }
  }
}
