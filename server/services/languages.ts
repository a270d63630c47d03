import {
  LineIndex,
  formatOrText,
  getNode,
  parse,
  readingFor,
  isLanguage,
  languageGroups,
  parsePointer,
  standingOf,
  type FileFacts,
  type LanguageGroup,
  type LanguageMember,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import { NO_FILE } from '../db/repositories/drafts'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { requireOwner } from './settings'
import { SIZES } from './sizes'
import { decode } from './text'
import { workspaceFor, type ServerWorkspace } from './workspace'

/** One language of some texts, with how it stands to the one it follows. */
export interface LanguageShown {
  /** Empty for texts whose file says none. */
  readonly language: string
  readonly file: string
  /** The section it is in; empty for the whole file. */
  readonly at: string
  readonly texts: number
  readonly isSource: boolean
  /** How many texts the source has and this does not, and so on. */
  readonly missing: number
  readonly stale: number
  readonly extra: number
  /** Texts that leave out placeholders of the source. */
  readonly without: number
}

/** The same texts in several languages. */
export interface LanguagesShown {
  readonly base: string
  readonly plugin: string
  readonly languages: readonly LanguageShown[]
  /** The language its plugin is set to, and where; null where nothing says so. */
  readonly chosen: { readonly language: string; readonly file: string; readonly pointer: string; readonly line: number } | null
}

/** The language that the game itself speaks, and where that is set. */
export interface ServerLanguage {
  readonly language: string
  readonly file: string
  readonly line: number
}

/** What text of a language a message is: whose, and its pointer below the section of that language. */
export interface Translated {
  readonly base: string
  readonly language: string
  readonly pointer: string
}

/** Texts of all plugins that are there in several languages. */
export function languagesOf({ files }: ServerWorkspace): LanguagesShown[] {
  const facts = [...files.values()].flatMap((file) => (file.facts ? [file.facts] : []))
  return languageGroups(facts).map((group) => ({
    base: group.base,
    plugin: group.plugin ?? '',
    languages: group.members.map((member) => shown(group, member)),
    chosen: chosenFor(facts, group, (file) => files.get(file)?.text ?? ''),
  }))
}

function shown(group: LanguageGroup, member: LanguageMember): LanguageShown {
  const { missing, stale, extra, without } = standingOf(group, member)
  const { language, at, texts } = member.facts
  return {
    language,
    file: member.file,
    at,
    texts: Object.keys(texts).length,
    isSource: member === group.source,
    missing: missing.length,
    stale: stale.length,
    extra: extra.length,
    without: without.length,
  }
}

function chosenFor(facts: readonly FileFacts[], { plugin }: LanguageGroup, textOf: (file: string) => string): LanguagesShown['chosen'] {
  const from = facts.find((file) => file.plugin === plugin && file.speaks.length > 0)
  const said = from?.speaks[0]
  return said
    ? { language: said.text, file: from.path, pointer: said.pointer, line: new LineIndex(textOf(from.path)).position(said.from).line }
    : null
}

/** The language of the game itself; null where its settings say none. */
export async function serverLanguage({ place, family }: Server): Promise<ServerLanguage | null> {
  const said = family.texts.language
  const bytes = said && (await place.read(said.file, SIZES.settings))
  if (!bytes) return null
  const text = decode(said.file, bytes)
  const document = parse(text, formatOrText(said.file), readingFor(said.file, family))
  const node = getNode(document, parsePointer(said.at) ?? [])
  if (node?.type !== 'scalar' || node.kind !== 'text' || node.value === '') return null
  return { language: String(node.value), file: said.file, line: new LineIndex(text).position(node.from).line }
}

/** Finds which text of a language a setting is. */
export function translatedIn(groups: readonly LanguagesShown[]): (file: string, pointer: string) => Translated | null {
  const byFile = new Map<string, (LanguageShown & { readonly base: string })[]>()
  for (const { base, languages } of groups)
    for (const language of languages) byFile.set(language.file, [...(byFile.get(language.file) ?? []), { ...language, base }])
  return (file, pointer) => {
    const found = byFile.get(file)?.find(({ at }) => at === '' || pointer === at || pointer.startsWith(`${at}/`))
    return found ? { base: found.base, language: found.language, pointer: pointer.slice(found.at.length) } : null
  }
}

export interface NewLanguage {
  readonly base: string
  /** The language whose texts it begins with. */
  readonly from: string
  readonly language: string
}

/**
 * Stages a file of another language, which begins as a copy of one that is there.
 * @throws ServiceError `not-found`, `bad-input` for no language or texts that stand in sections of one file, `name-taken`
 */
export async function addLanguage(
  context: Context,
  server: Server,
  { base, from, language }: NewLanguage,
  account: string,
): Promise<{ readonly path: string; readonly texts: number }> {
  const refuse = (message: string): never => {
    throw new ServiceError('bad-input', 400, message)
  }
  if (!isLanguage(language)) refuse(`${language} is no language. Write its code, as de or pt_BR.`)
  const all = await workspaceFor(context, server)
  const group = languagesOf(all).find((one) => one.base === base)
  const source = group?.languages.find((one) => one.language === from)
  if (!group || !source) throw notFound(`language ${from} of ${base} on this server`)
  if (source.at !== '')
    refuse(
      `The languages of ${base} are sections of one file: copy ${parsePointer(source.at)?.join('.') ?? from} there under its new name.`,
    )
  const path = base.replace('*', language)
  await requireOwner(server, path)
  const taken = (): ServiceError => new ServiceError('name-taken', 409, `${path} is there already. Its texts stand beside the others.`)
  if (group.languages.some((one) => one.language === language) || (await server.place.stat(path))) throw taken()
  const bytes = Buffer.from(all.files.get(source.file)!.text ?? '', 'utf8')
  const draft = { path, baseSha: NO_FILE, sha: hashOf(bytes), changedBy: account, changedAt: context.now().toISOString() }
  if (!(await context.drafts.replace(server.row.id, draft, [Buffer.alloc(0), bytes], null))) throw taken()
  return { path, texts: source.texts }
}
