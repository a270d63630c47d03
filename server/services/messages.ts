import {
  LineIndex,
  convertMarkup,
  groupedBy,
  markupOf,
  type Converted,
  findMoves,
  formatOf,
  isContainer,
  locate,
  nameOf,
  parse,
  parsePointer,
  readingFor,
  type Document,
  type Message,
} from '@pasticcio/core'
import type { Context, Server } from './context'
import { notFound } from './errors'
import { FindingsAt } from './findings-at'
import type { Installed } from './inventory'
import { newestOf } from './updates'
import { workspaceFor, type PlacedFinding, type ServerWorkspace } from './workspace'

/** A text that players read, with where it stands and what is wrong in it. */
export interface ShownMessage extends Omit<Message, 'places' | 'from' | 'to'> {
  readonly plugin: string
  readonly file: string
  readonly line: number
  /** The language its file is called after; null for others. */
  readonly language: string | null
  /** What a newer version in the pantry ships in its place, where that is another text than the installed one ships. */
  readonly update: readonly string[] | null
  readonly findings: readonly Pick<PlacedFinding, 'code' | 'severity' | 'message' | 'subject' | 'fix' | 'line'>[]
}

/** One language of texts that stand in a file of each. */
export interface LanguageShown {
  /** The file's path without the language. */
  readonly base: string
  readonly language: string
  readonly file: string
  readonly texts: number
  readonly missing: number
  readonly stale: number
}

export interface Messages {
  readonly messages: readonly ShownMessage[]
  readonly languages: readonly LanguageShown[]
}

/** Every text of a server that players read, drafts in their places. */
export async function messagesOf(context: Context, server: Server): Promise<Messages> {
  const all = await workspaceFor(context, server)
  const shipped = new Shipped(context, server, all.plugins)
  const byFile = groupedBy(all.findings, ({ file }) => file)
  const messages: ShownMessage[] = []
  for (const [path, { facts, text }] of all.files) {
    if (!facts || text === null || facts.messages.length === 0) continue
    const lines = new LineIndex(text)
    const findings = new FindingsAt(byFile.get(path) ?? [])
    for (const { places: _places, from, to, ...message } of facts.messages)
      messages.push({
        ...message,
        plugin: facts.plugin ?? '',
        file: path,
        line: lines.position(from).line,
        language: facts.language?.language ?? null,
        update: await shipped.inUpdate(facts.plugin, path, message),
        findings: findings.at({ from, to }).map(({ code, severity, message: words, subject, fix, line }) => ({
          code,
          severity,
          message: words,
          subject,
          line,
          ...(fix ? { fix } : {}),
        })),
      })
  }
  return { messages, languages: languagesOf(all) }
}

/** Texts as another family writes them. @throws ServiceError `not-found` for no such family */
export async function writtenFor(
  context: Context,
  { family }: Server,
  texts: readonly string[],
  familyId: string,
): Promise<readonly Converted[]> {
  const other = (await context.families.all()).find(({ id }) => id === familyId)
  if (!other) throw notFound(`family ${familyId}`)
  return texts.map((text) => convertMarkup(text, markupOf(family), markupOf(other)))
}

function languagesOf({ files, findings }: ServerWorkspace): LanguageShown[] {
  const counted = (file: string, code: string): number => findings.filter((one) => one.file === file && one.code === code).length
  return [...files].flatMap(([path, { facts }]): LanguageShown[] => {
    if (!facts?.language) return []
    const { base, language, texts } = facts.language
    const [missing, stale] = [counted(path, 'translation-missing'), counted(path, 'translation-stale')]
    return [{ base, language, file: path, texts: Object.keys(texts).length, missing, stale }]
  })
}

interface Newer {
  readonly document: Document
  readonly moves: ReadonlyMap<string, string>
}

/** What newer versions in the pantry ship. */
class Shipped {
  private readonly known = new Map<string, Promise<Newer | null>>()

  constructor(
    private readonly context: Context,
    private readonly server: Server,
    private readonly plugins: readonly Installed[],
  ) {}

  async inUpdate(
    name: string | null,
    path: string,
    { pointer, shipped }: Pick<Message, 'pointer' | 'shipped'>,
  ): Promise<readonly string[] | null> {
    if (name === null) return null
    let known = this.known.get(path)
    if (!known) this.known.set(path, (known = this.read(name, path)))
    const newer = await known
    const node = newer && locate(newer.document, parsePointer(newer.moves.get(pointer) ?? pointer) ?? [])?.entry.value
    if (!node) return null
    const scalars = isContainer(node) ? node.entries.map(({ value }) => value) : [node]
    const texts = scalars.flatMap((one) => (one.type === 'scalar' && one.kind === 'text' ? [String(one.value)] : []))
    return texts.join('\n') === (shipped ?? []).join('\n') ? null : texts
  }

  private async read(name: string, path: string): Promise<Newer | null> {
    const { context, server } = this
    const plugin = this.plugins.find((one) => one.name === name)
    const newest = plugin && newestOf(await context.packages.list(server.family.id), name, plugin.version)
    const text = newest ? await context.packages.defaultText(newest.id, nameOf(server.family, plugin, path)) : null
    const format = formatOf(path)
    if (text === null || !format) return null
    const reading = readingFor(path, server.family)
    const document = parse(text, format, reading)
    const factory = await server.inventory.factoryText(plugin!, path)
    // what the newer version calls otherwise is looked for under its new name
    return { document, moves: factory === null ? new Map() : findMoves(parse(factory, format, reading), document) }
  }
}
