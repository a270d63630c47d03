import { languageGroups, languagesOf, standingOf, type LanguageGroup, type LanguageMember } from '../languages/groups'
import { isLanguage } from '../languages/languages-in'
import { defineCheck, type CheckResult, type RelatedPlace } from './check'
import type { FileFacts } from './facts'

type Told = CheckResult & { file: string }

/** Texts that one language has and another lacks, those that were not changed with their source, and languages nobody wrote. */
export const languagesAgree = defineCheck({
  id: 'languages-agree',
  scope: 'server',
  codes: ['translation-missing', 'translation-stale', 'translation-extra', 'translation-placeholder', 'language-not-there'],
  *run(_workspace, facts) {
    const groups = languageGroups(facts.values())
    for (const group of groups) for (const member of group.members) yield* agreeing(group, member)
    yield* chosen(groups, facts)
  },
})

const nameOf = ({ facts, file }: LanguageMember): string => facts.language || file.split('/').at(-1)!

function* agreeing(group: LanguageGroup, member: LanguageMember): Iterable<Told> {
  const { source } = group
  const [here, there] = [nameOf(member), nameOf(source)]
  const { missing, stale, extra, without } = standingOf(group, member)
  const related = (pointer: string): readonly RelatedPlace[] => {
    const { from, to } = source.facts.texts[pointer]!
    return [{ file: source.file, from, to, why: 'the text it follows' }]
  }
  const at = (pointer: string): { file: string; from: number; to: number } => {
    const { from, to } = member.facts.texts[pointer]!
    return { file: member.file, from, to }
  }
  // what authors never translated is theirs; what somebody wrote, or took out, is told
  const isTold = (pointer: string): boolean => !source.facts.texts[pointer]!.isShipped || member.facts.lost.includes(pointer)
  for (const pointer of missing.filter(isTold))
    yield {
      code: 'translation-missing',
      severity: 'note',
      file: member.file,
      from: 0,
      to: 0,
      message: `${here} has no text ${pointer.slice(1)}, which ${there} has. Players read the other language there.`,
      cause: `missing in ${member.file}`,
      related: related(pointer),
    }
  for (const pointer of stale)
    yield {
      ...at(pointer),
      code: 'translation-stale',
      severity: 'note',
      message: `${there} was changed here, and ${here} is still as it was shipped. Change it too.`,
      cause: `stale in ${member.file}`,
      related: related(pointer),
    }
  for (const pointer of extra.filter((one) => !member.facts.texts[one]!.isShipped))
    yield {
      ...at(pointer),
      code: 'translation-extra',
      severity: 'note',
      message: `${here} has ${pointer.slice(1)}, which ${there} does not have. Is it spelt as there?`,
      cause: `extra in ${member.file}`,
    }
  // what authors themselves left out is theirs to mend, and what follows an older text is told as that
  for (const { pointer, names } of without.filter((one) => !member.facts.texts[one.pointer]!.isShipped))
    yield {
      ...at(pointer),
      code: 'translation-placeholder',
      severity: 'warning',
      message: `${names.join(' and ')} ${names.length > 1 ? 'are' : 'is'} filled in in ${there}, and ${here} leaves ${names.length > 1 ? 'them' : 'it'} out.`,
      cause: `placeholders in ${member.file}`,
      related: related(pointer),
    }
}

function* chosen(groups: readonly LanguageGroup[], facts: ReadonlyMap<string, FileFacts>): Iterable<Told> {
  for (const { path, plugin, speaks } of facts.values()) {
    if (speaks.length === 0) continue
    const own = groups.filter((group) => group.plugin === plugin).flatMap(languagesOf)
    for (const { text, from, to } of speaks)
      if (own.length > 0 && isLanguage(text) && !own.some((language) => sameLanguage(language, text)))
        yield {
          code: 'language-not-there',
          severity: 'warning',
          file: path,
          from,
          to,
          message: `${text} is chosen, and ${plugin ?? 'the plugin'} has texts in ${[...new Set(own)].join(', ')}. Take one of these, or add ${text} under Messages.`,
          cause: `language ${text} of ${plugin ?? ''}`,
        }
  }
}

/** Whether one is the other, or the other without its country. */
const sameLanguage = (one: string, other: string): boolean => {
  const [a, b] = [one, other].map((code) => code.toLowerCase().replace('-', '_')) as [string, string]
  return a === b || a === b.split('_')[0] || a.split('_')[0] === b
}
