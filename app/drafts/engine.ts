import {
  LineIndex,
  NO_KNOWLEDGE,
  OperationError,
  RuleBook,
  checkFile,
  findMoves,
  formatOf,
  formatPointer,
  layer,
  listFindings,
  movedAlong,
  parse,
  parsePointer,
  readsAlone,
  reread,
  rereadInPlace,
  suggestName,
  tablesIn,
  workspaceFile,
  workspaceOf,
  writtenId,
  type Document,
  type Edit,
  type FileFinding,
  type IsListed,
  type FindingsByCheck,
  type Knowledge,
  type KnownIds,
  type Markup,
  type OtherVersions,
  type Reading,
  type Rule,
  type Workspace,
  type WorkspaceFile,
} from '@pasticcio/core'
import { withHeard } from './heard'
import { News } from './news'
import { rowOf, type HeadRow } from '../utils/sheet-rows'
import { keysOf, sheetSketch, type RowSketch, type SheetInput } from '../utils/sheet-sketch'
import type { PlacedFinding, SeekFor, ServerFinding, SheetQuery, SheetSnapshot } from './snapshot'
import { templatesIn, type EntryTemplate } from './templates'
import {
  aboutCell,
  cellFindings,
  newsOf,
  tableOptions,
  tableView,
  type CellAbout,
  type TableNews,
  type TableOption,
  type TableView,
} from './table-view'
import { shapeOf } from '../utils/row-shapes'
import { doneBy, type Done, type Operation } from './operations'

/** The texts of one settings file. */
export interface EngineInput {
  readonly path: string
  readonly plugin: string
  readonly reading: Reading
  /** The draft, or what is on the server. */
  readonly text: string
  readonly base: string
  readonly factory: string | null
  readonly update: string | null
  /** Whether mistakes are looked for; files that the server writes are only shown. */
  readonly checked: boolean
  /** The server's own lists of ids. */
  readonly known?: KnownIds
  /** What people say the settings are. */
  readonly rules?: readonly Rule[]
  /** What other versions of the plugin ship in its place. */
  readonly others?: OtherVersions
  /** How texts are written. */
  readonly texts?: Markup
  /** Names of the plugins on the server. */
  readonly plugins?: readonly string[]
}

export type { Operation }

export type OperationResult = Done | { readonly problem: string }

export type { PlacedFinding, SeekFor, SheetQuery, SheetSnapshot }

/** Files of fewer letters have everything looked for at each key. */
const CHECKED_AT_ONCE = 40_000
/** So many findings are listed; the rest is counted. */
const MOST_FINDINGS = 500

const errorsIn = (document: Document): number => document.findings.filter((finding) => finding.severity === 'error').length

/**
 * Everything that is computed of one settings file while it is edited: its tree, its mistakes and the rows of its sheet.
 * It holds no interface and no network, and runs in a worker.
 */
export class SheetEngine {
  private readonly file: WorkspaceFile | null
  private readonly base: Document | null
  private readonly update: Document | null
  private readonly rules: RuleBook
  private readonly toldTables = new Map<string, TableView>()
  private tablesOf: { readonly document: Document | null; readonly has: boolean } | null = null
  private readonly moves: ReadonlyMap<string, string>
  /** Of what the server writes: whether a name is one of its items, whose values it may keep there. */
  private readonly isListed: IsListed | undefined
  private readonly plugins: ReadonlySet<string> | null
  private document: Document | null
  private findings: FindingsByCheck | null = null
  /** Whether some checks have not looked at the file since it was edited. */
  private isStale = false
  private readonly knowledge: Knowledge
  /** What the server finds in the file, which knows the others too; it moves along with what is typed. */
  private heard: readonly ServerFinding[] = []
  private index: LineIndex | null = null
  private sketch: RowSketch[] | null = null
  private readonly news = new News()

  constructor(private readonly input: EngineInput) {
    const { path, plugin, reading, text, base, factory, update } = input
    const format = formatOf(path)
    this.file = workspaceFile({
      path,
      plugin,
      reading,
      text,
      factory,
      rules: input.rules ?? [],
      ...(input.known ? { known: input.known } : {}),
      ...(input.others ? { others: input.others } : {}),
    })
    this.document = this.file?.document ?? null
    this.base = format && parse(base, format, reading)
    this.update = format && update !== null ? parse(update, format, reading) : null
    this.rules = new RuleBook(this.file?.rules ?? [])
    this.moves = this.file?.factory && this.update ? findMoves(this.file.factory, this.update) : new Map()
    const items = input.checked ? undefined : input.known?.['items']
    this.isListed = items && ((name) => writtenId(items, name) !== null)
    this.knowledge = { ...NO_KNOWLEDGE, lists: input.known ?? {}, texts: input.texts ?? null }
    this.plugins = input.plugins ? new Set(input.plugins) : null
    this.checkAll()
  }

  private checkAll(): void {
    if (!this.input.checked || !this.file || !this.document) return
    const file = { ...this.file, document: this.document }
    this.findings = checkFile(this.workspaceOf(file), file)
    this.isStale = false
  }

  private workspaceOf(file: WorkspaceFile): Workspace {
    return workspaceOf([file], null, [], this.knowledge)
  }

  /** What is not done at each key of a large file is done when nobody types. @returns whether something was left to do */
  rest(): boolean {
    if (!this.isStale) return false
    this.checkAll()
    return true
  }

  /** Takes in edits of the text; only what they touch is read and checked again. */
  edit(edits: readonly Edit[]): void {
    if (!this.document || !this.file) return
    // nobody else holds the tree, so it can be taken over
    const { document, changes } = rereadInPlace(this.document, edits)
    this.document = document
    this.index = null
    this.sketch = null
    this.heard = changes ? movedAlong(this.heard, changes) : []
    if (!this.findings) return
    const file = { ...this.file, document }
    const isAtRest = document.text.length < CHECKED_AT_ONCE
    this.isStale ||= !isAtRest
    this.findings = checkFile(this.workspaceOf(file), file, { findings: this.findings, changes, isAtRest })
  }

  /** Takes in what the server finds in the file as it stands here. */
  hear(findings: readonly ServerFinding[]): void {
    const length = this.document?.text.length ?? 0
    this.heard = findings.filter(({ to }) => to <= length)
  }

  private get allFindings(): FileFinding[] {
    return this.findings ? withHeard(listFindings(this.input.path, this.findings), this.heard) : []
  }

  /** The edits that an operation comes to; they are not taken in before `edit`. */
  operate(operation: Operation): OperationResult {
    const { document } = this
    if (!document) return { problem: 'This file is of no format that is known here.' }
    try {
      const done = doneBy({ document, base: this.base, factory: this.file?.factory ?? null, rules: this.rules }, operation)
      const result = readsAlone(document, done.edits) ? document : reread(document, done.edits).document
      if (errorsIn(result) > errorsIn(document))
        return { problem: `This cannot be done: the file would not read any more: ${result.findings[0]!.message}` }
      return done
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
      return { problem: `This cannot be done: ${error.message}.` }
    }
  }

  private get hasTables(): boolean {
    const { document } = this
    if (this.tablesOf?.document !== document)
      this.tablesOf = { document, has: document !== null && tablesIn(document, this.isListed).length > 0 }
    return this.tablesOf.has
  }

  /** Where like things stand that can be seen as tables, the most first. */
  tables(): readonly TableOption[] {
    return this.document ? tableOptions(this.document, this.isListed) : []
  }

  /** A name for a copy of an entry; null where it needs none. */
  suggestedName(pointer: string): string | null {
    return this.document && suggestName(this.document, parsePointer(pointer) ?? [])
  }

  /** What a new entry of a section or list can be made from: those that are there, and those the plugin ships. */
  templates(group: string): readonly EntryTemplate[] {
    const factory = this.file?.factory ?? null
    return [...templatesIn(this.document, 'mine', group), ...templatesIn(factory, 'factory', group)]
  }

  /**
   * Like things of the file as a table, as far as they are another than they were told last; null where there are none at
   * this place. @param fresh tells all of it, for somebody new
   */
  table(pointer: string, fresh = true): TableNews | null {
    const { document, base } = this
    if (!document || !base) return null
    const keys = parsePointer(pointer) ?? []
    const factory = this.file?.factory ?? null
    const now = tableView({ document, base, factory, rules: this.rules, isListed: this.isListed }, pointer, keys)
    const before = fresh ? null : (this.toldTables.get(pointer) ?? null)
    if (!now) return null
    this.toldTables.set(pointer, now)
    const findings = cellFindings(document, keys, this.allFindings)
    return { ...newsOf(before, now), findings }
  }

  /** What is to be said of one cell: the author's words, its line, and what it may be. */
  cellAbout(pointer: string): CellAbout {
    return aboutCell(this.document, this.rules, this.lines, parsePointer(pointer) ?? [])
  }

  /** How many things in the file are mine. */
  customisations(): number {
    return this.file?.factory && this.document ? layer(this.file.factory, this.document).length : 0
  }

  private get lines(): LineIndex {
    return (this.index ??= new LineIndex(this.document?.text ?? this.input.text))
  }

  private get sheetInput(): SheetInput {
    const { document, base, update, rules, moves } = this
    const lineOf = (offset: number): number => this.lines.position(offset).line
    return { document: document!, base: base!, factory: this.file?.factory ?? null, update, rules, moves, lineOf, plugins: this.plugins }
  }

  private get rows(): RowSketch[] {
    return (this.sketch ??= this.document && this.base ? sheetSketch(this.sheetInput) : [])
  }

  private shown(onlyMine: boolean): RowSketch[] {
    return onlyMine ? this.rows.filter((row) => row.mine || row.staged) : this.rows
  }

  /** What somebody sees who looks at a part of the sheet. */
  sheet(query: SheetQuery): SheetSnapshot {
    if (query.fresh) this.news.forget()
    const shown = this.shown(query.onlyMine)
    const from = Math.max(0, Math.min(query.from, shown.length))
    const settings = this.rows.filter((row) => row.type === 'setting')
    const linesOf = (rows: readonly RowSketch[]): Uint32Array<ArrayBuffer> =>
      Uint32Array.from(new Set(rows.map((row) => this.lines.position(row.entry.from).line)))
    // notes say what is so, which the rows show by themselves
    const all = this.allFindings.filter(({ severity }) => severity !== 'note')
    return {
      count: shown.length,
      shapes: this.news.of('shapes', Uint8Array.from(shown, shapeOf)),
      from,
      rows: shown.slice(from, query.to).map((row) => rowOf(this.sheetInput, row)),
      focus: this.focusAt(shown, query.focus),
      findings: this.news.of(
        'findings',
        all.slice(0, MOST_FINDINGS).map((finding) => this.placed(finding)),
      ),
      findingCount: all.length,
      settings: settings.length,
      updates: settings.filter((row) => row.changes).length,
      lineCount: this.lines.lineCount,
      hasTables: this.hasTables,
      mineLines: this.news.of('mine', linesOf(settings.filter((row) => row.mine)).sort()),
      updateLines: this.news.of('updates', linesOf(settings.filter((row) => row.changes)).sort()),
    }
  }

  private placed(finding: FileFinding): PlacedFinding {
    return { ...finding, ...this.lines.position(finding.from), pointer: this.pointerAt(finding.from) }
  }

  private focusAt(shown: readonly RowSketch[], pointer: string): SheetSnapshot['focus'] {
    const index = this.indexIn(shown, pointer)
    if (index < 0) return null
    const row = shown[index]!
    let entry: RowSketch | null = row
    while (entry && entry.type !== 'entry') entry = entry.parent
    return { index, row: rowOf(this.sheetInput, row), entry: entry && (rowOf(this.sheetInput, entry) as HeadRow) }
  }

  private indexIn(rows: readonly RowSketch[], pointer: string): number {
    const keys = parsePointer(pointer) ?? []
    const last = keys.at(-1)
    return last === undefined
      ? -1
      : rows.findIndex((row) => row.entry.key === last && row.depth === keys.length - 1 && formatPointer(keysOf(row)) === pointer)
  }

  /** The pointer of the last row that starts at or before an offset; empty where none does. */
  private pointerAt(offset: number): string {
    const row = this.rowAt(offset)
    return row ? formatPointer(keysOf(row)) : ''
  }

  private rowAt(offset: number): RowSketch | null {
    const line = this.lines.position(offset).line
    const end = this.lines.startOf(line + 1)
    const after = line >= this.lines.lineCount ? Infinity : end
    let best: RowSketch | null = null
    for (const row of this.rows)
      if (row.type !== 'removed' && row.entry.from < after && (!best || row.entry.from >= best.entry.from)) best = row
    return best
  }

  /** The pointer of the row that a line of the file belongs to. */
  pointerAtLine(line: number): string {
    return this.pointerAt(this.lines.startOf(line))
  }

  /** The next row from another one, in either direction; the same where there is none. */
  seek(pointer: string, by: 1 | -1, what: SeekFor, onlyMine: boolean): string {
    const rows = this.shown(onlyMine)
    const fits = (row: RowSketch): boolean =>
      what === 'any' || (what === 'setting' ? row.type === 'setting' : row.mine && row.type !== 'section')
    const at = this.indexIn(rows, pointer)
    for (let i = at + by; i >= 0 && i < rows.length; i += by) if (fits(rows[i]!)) return formatPointer(keysOf(rows[i]!))
    return pointer
  }
}
