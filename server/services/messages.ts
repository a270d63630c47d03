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
import { languagesOf, serverLanguage, translatedIn, type LanguagesShown, type ServerLanguage, type Translated } from './languages'
import { papersOf, type ShownBook, type ShownPicture } from './papers'
import { newestOf } from './updates'
import { workspaceFor, type PlacedFinding } from './workspace'

/** A text that players read, with where it stands and what is wrong in it. */
export interface ShownMessage extends Omit<Message, 'places' | 'from' | 'to'> {
  readonly plugin: string
  readonly file: string
  readonly line: number
  /** Which text of a language it is; null for others. */
  readonly translated: Translated | null
  /** Where a text file is named whose text it is; null for texts that stand in settings. */
  readonly book: Pick<ShownBook, 'file' | 'pointer' | 'line' | 'name' | 'staged'> | null
  /** What a newer version in the pantry ships in its place, where that is another text than the installed one ships. */
  readonly update: readonly string[] | null
  readonly findings: readonly Pick<PlacedFinding, 'code' | 'severity' | 'message' | 'subject' | 'fix' | 'line'>[]
}

export interface Messages {
  readonly messages: readonly ShownMessage[]
  readonly languages: readonly LanguagesShown[]
  /** The language of the server itself, where the game's own settings say one. */
  readonly spoken: ServerLanguage | null
  readonly pictures: readonly ShownPicture[]
}

/** Every text of a server that players read, drafts in their places. */
export async function messagesOf(context: Context, server: Server): Promise<Messages> {
  const all = await workspaceFor(context, server)
  const shipped = new Shipped(context, server, all.plugins)
  const byFile = groupedBy(all.findings, ({ file }) => file)
  const languages = languagesOf(all)
  const translated = translatedIn(languages)
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
        translated: translated(path, message.pointer),
        book: null,
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
  const { pictures, books } = await papersOf(context, server, all)
  return { messages: [...messages, ...books.map(bookMessage)], languages, spoken: await serverLanguage(server), pictures }
}

/** A text file as a text among the others. */
function bookMessage({ plugin, file, pointer, line, name, staged, path, text, shipped, moment }: ShownBook): ShownMessage {
  return {
    pointer: '',
    texts: [text],
    isList: false,
    keys: null,
    turn: null,
    surface: 'book',
    moment,
    when: '',
    delay: null,
    stays: null,
    letters: null,
    dress: { icon: '', colour: '', style: '', filled: null, comes: null, goes: null },
    opens: '',
    isShipped: shipped !== null && shipped === text,
    shipped: shipped === null ? null : [shipped],
    says: '',
    plugin,
    file: path!,
    line: 1,
    translated: null,
    book: { file, pointer, line, name, staged },
    update: null,
    findings: [],
  }
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
