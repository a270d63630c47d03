import type { FileFacts } from '../checks/facts'
import { groupedBy } from '../checks/grouped'
import { plainPathOf, tellsTexts, type LanguageFacts } from './languages-in'

/** Texts of one language with the file they stand in. */
export interface LanguageMember {
  readonly file: string
  readonly plugin: string | null
  readonly facts: LanguageFacts
}

/** The same texts in several languages. */
export interface LanguageGroup {
  readonly base: string
  readonly plugin: string | null
  readonly members: readonly LanguageMember[]
  /** The one that others follow: English, which most authors write in, else the one that says no language, else the longest. */
  readonly source: LanguageMember
}

/** Files and sections that hold the same texts in several languages, drafts in their places. */
export function languageGroups(files: Iterable<FileFacts>): LanguageGroup[] {
  const all = [...files].flatMap(({ path, plugin, languages }) => languages.map((facts) => ({ file: path, plugin, facts })))
  const plain = new Map(all.filter(({ facts }) => facts.language === '').map((member) => [member.file, member]))
  const told = all.filter(({ facts }) => facts.language !== '')
  return [...groupedBy(told, ({ facts }) => facts.base)].flatMap(([base, members]): LanguageGroup[] => {
    const path = plainPathOf(base)
    const without = path === null ? undefined : plain.get(path)
    const whole = without ? [without, ...members] : members
    // two letters behind a dash may be anything where neither others nor the name say that they are a language
    if (whole.length === 1 && !tellsTexts(base)) return []
    return [{ base, plugin: whole[0]!.plugin, members: whole, source: sourceOf(whole) }]
  })
}

function sourceOf(members: readonly LanguageMember[]): LanguageMember {
  const sizeOf = ({ facts }: LanguageMember): number => Object.keys(facts.texts).length
  const spoken = (test: (language: string) => boolean): LanguageMember | undefined => members.find(({ facts }) => test(facts.language))
  return (
    spoken((language) => language.startsWith('en')) ??
    spoken((language) => language === '') ??
    [...members].sort((a, b) => sizeOf(b) - sizeOf(a))[0]!
  )
}

/** How the texts of a language stand to those it follows; pointers are below the sections they are in. */
export interface Standing {
  /** In the source and not here. */
  readonly missing: readonly string[]
  /** Here, and not in the source. */
  readonly extra: readonly string[]
  /** Still as they are shipped, while the source was changed. */
  readonly stale: readonly string[]
  /** Without placeholders that the source has. */
  readonly without: readonly { readonly pointer: string; readonly names: readonly string[] }[]
}

/** What of a language is missing, extra or older than its source. */
export function standingOf({ source }: LanguageGroup, { facts }: LanguageMember): Standing {
  const followed = Object.entries(source.facts.texts)
  const own = facts.texts
  const both = followed.filter(([pointer]) => own[pointer] !== undefined)
  if (facts === source.facts) return { missing: [], extra: [], stale: [], without: [] }
  return {
    missing: followed.filter(([pointer]) => own[pointer] === undefined).map(([pointer]) => pointer),
    extra: Object.keys(own).filter((pointer) => source.facts.texts[pointer] === undefined),
    stale: both.filter(([pointer, { isShipped }]) => !isShipped && own[pointer]!.isShipped).map(([pointer]) => pointer),
    without: both.flatMap(([pointer, { placeholders }]) => {
      const names = placeholders.filter((name) => !own[pointer]!.placeholders.includes(name))
      return names.length > 0 ? [{ pointer, names }] : []
    }),
  }
}

/** The languages of a group that a setting may name, without the one that says none. */
export const languagesOf = ({ members }: LanguageGroup): string[] =>
  members.flatMap(({ facts: { language } }) => (language === '' ? [] : [language]))
