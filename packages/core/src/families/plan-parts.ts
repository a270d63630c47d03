import { formatOrText, parse, readingFor } from '../formats/registry'
import { getNode, parsePointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import type { EntryAction, FileAction, ItemAction, TextAction } from './actions'
import { arrangementOf } from './arrangements'
import { fillIn, type Family, type Piece, type Registration } from './family'
import { wordsFor, type Placed } from './folders'
import { PackageError } from './package-info'
import { isPlainPath } from './paths'
import { copiesOf, matchesPiece } from './pieces'

/** What is in a package that is to be placed. */
export interface PackageContent {
  /** SHA-256 of its bytes. */
  readonly sha: string
  /** Where in those bytes it begins. */
  readonly root: string
  /** Its files, below that. */
  readonly members: readonly string[]
  /** The texts of those whose settings or lines go elsewhere. */
  readonly texts: ReadonlyMap<string, string>
}

/** One thing that is done to place a plugin. */
export interface PlanPart {
  readonly kind: 'package' | 'register' | 'copy' | 'entries' | 'block'
  /** The file, or the folder, it is about. */
  readonly path: string
  /** Where it comes from, in the package; null for what the family says. */
  readonly from: string | null
  /** The other plugin whose files it goes into. */
  readonly of: string | null
  readonly actions: readonly FileAction[]
  /** The author's reason; empty for none. */
  readonly because: string
  /** Why nothing is done; empty where it is. */
  readonly skipped: string
}

/** What must be known to work the parts out. */
export interface PartsInput {
  readonly family: Family
  readonly plugin: Placed & { readonly version: string }
  readonly content: PackageContent
  /** What the package says belongs elsewhere. */
  readonly pieces: readonly Piece[]
  /** Those it needs or works with: their lines come first. */
  readonly follows: readonly string[]
  /** Plugins that are on the server, or come with it. */
  readonly others: readonly Placed[]
  /** Where the version it replaces lies. */
  readonly replaces?: string
  /** The place, as in a world, that was chosen; null for none yet. */
  readonly place: string | null
  /** Files that are replaced though one is there. */
  readonly overwrite?: readonly string[]
}

/** What placing a plugin comes to: its package, how it is made known, and what of it belongs elsewhere. @throws PackageError */
export function planParts(input: PartsInput): PlanPart[] {
  const { family, plugin, content, pieces, replaces } = input
  const what = { ...content, ...(replaces === undefined ? {} : { replaces }) }
  const actions = arrangementOf(family).install(family, plugin, what)
  const isFolder = arrangementOf(family).arrives === 'folder'
  const path = isFolder ? plugin.home : ((actions[0] as { path: string } | undefined)?.path ?? '')
  return [
    { kind: 'package', path, from: content.root === '' ? null : content.root, of: null, actions, because: '', skipped: '' },
    ...registrations(input),
    ...family.pieces.flatMap((piece) => partsOfPiece(input, piece)),
    // what a package says replaces nothing by itself: whoever installs says so, or the family
    ...pieces.flatMap((piece) => partsOfPiece(input, { ...piece, keep: true })),
  ]
}

function registrations(input: PartsInput): PlanPart[] {
  const lines = (other: Placed): string[] =>
    registrationsOf(input.family, other, true).flatMap((action) => (action.kind === 'line' ? [action.line] : []))
  const after = input.others.filter(({ name }) => input.follows.includes(name)).flatMap(lines)
  return registrationsOf(input.family, input.plugin, true).map((action) => ({
    kind: 'register',
    path: action.path,
    from: null,
    of: null,
    actions: [action.kind === 'line' ? { ...action, after } : action],
    because: '',
    skipped: '',
  }))
}

/** What switches on that plugins are loaded at all. */
export function frameworkAction({ file, line, at, is }: NonNullable<Family['framework']>): TextAction {
  return line === undefined
    ? { kind: 'entry', path: file, at: parsePointer(at ?? '') ?? [], value: is ?? true, present: true }
    : { kind: 'line', path: file, line, present: true }
}

/** What makes a plugin known to the server, or takes that back. */
export function registrationsOf(family: Family, plugin: Placed & { readonly version?: string }, present: boolean): TextAction[] {
  const words = { ...wordsFor(family, plugin), version: plugin.version ?? '' }
  return family.register.map((how) => registration(how, words, present))
}

function registration(how: Registration, words: Readonly<Record<string, string>>, present: boolean): TextAction {
  const path = fillIn(how.file, words)
  if (how.kind === 'line')
    return { kind: 'line', path, line: fillIn(how.line ?? '', words), present, ...(how.like === undefined ? {} : { like: how.like }) }
  const at = (parsePointer(how.at ?? '') ?? []).map((key) => fillIn(key, words))
  const value = withWords(how.value ?? true, words)
  return how.kind === 'item' ? { kind: 'item', path, at, value, present } : { kind: 'entry', path, at, value, present }
}

/** Data with the words in its texts filled in. */
function withWords(value: unknown, words: Readonly<Record<string, string>>): unknown {
  if (typeof value === 'string') return fillIn(value, words)
  if (Array.isArray(value)) return value.map((item) => withWords(item, words))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, item]) => [fillIn(key, words), withWords(item, words)]))
}

function partsOfPiece(input: PartsInput, piece: Piece): PlanPart[] {
  const { family, plugin, content, others, place } = input
  const members = content.members.filter((member) => matchesPiece(piece.from, member))
  if (members.length === 0) return []
  const other = piece.of === undefined ? null : others.find(({ name }) => name === piece.of)
  const more = {
    version: plugin.version,
    ...(place === null ? {} : { place }),
    ...(other ? { 'their-home': other.home, 'their-folder': other.folder } : {}),
  }
  const to = fillIn(piece.to, { ...wordsFor(family, plugin), ...more })
  const about = { kind: piece.kind, from: piece.from, of: piece.of ?? null, because: piece.because }
  if (other === undefined) return [{ ...about, path: to, actions: [], skipped: `${piece.of} is not on this server` }]
  if (to.includes('{place}')) return [{ ...about, path: to, actions: [], skipped: 'choose where first' }]
  if (!isPlainPath(to.replace(/\/$/, ''))) throw new PackageError(`what it has for ${piece.to} would lie outside of the server’s folder`)
  if (piece.kind === 'copy') {
    const copies = copiesOf(family, piece, members, plugin, more)
    const odd = copies.find(
      ({ path }) => arrangementOf(family).isPackage(family, path) && path !== arrangementOf(family).mainPath(family, plugin),
    )
    if (odd) throw new PackageError(`${odd.member} in it would lie at ${odd.path}, where a package is`)
    return [{ ...about, path: to, actions: copies.map(({ member, path }) => copy(input, piece, member, path)), skipped: '' }]
  }
  return members.map((member) => {
    const text = content.texts.get(member) ?? ''
    const actions: FileAction[] =
      piece.kind === 'block' ? [{ kind: 'block', path: to, text, present: true }] : entries(input, piece, member, text, to)
    return { ...about, from: member, path: to, actions, skipped: '' }
  })
}

function copy({ content, overwrite = [] }: PartsInput, piece: Piece, member: string, path: string): FileAction {
  const replaces = !piece.keep || overwrite.includes(path)
  return { kind: 'put', path, content: { package: content.sha, member: content.root + member }, ...(replaces ? {} : { ifAbsent: true }) }
}

/** What a file of the package adds to another: each of its settings, or each item of its list. */
function entries({ family }: PartsInput, piece: Piece, member: string, text: string, path: string): FileAction[] {
  const document = parse(text, formatOrText(member), readingFor(member, family))
  if (document.findings.some(({ severity }) => severity === 'error'))
    throw new PackageError(`${member} in it, which belongs into ${path}, has mistakes`)
  const at = parsePointer(piece.at) ?? []
  const from = getNode(document, at) ?? document.root
  if (from.type === 'list')
    return from.entries.map((entry): ItemAction => ({ kind: 'item', path, at, value: toJson(document, entry.value), present: true }))
  if (from.type !== 'map') return []
  return from.entries.map((entry): EntryAction => ({
    kind: 'entry',
    path,
    at: [...at, entry.key],
    value: toJson(document, entry.value),
    present: true,
    keep: true,
  }))
}

/** What takes a change within a file back, where nobody changed what it did. */
export function inverseOf(action: TextAction): TextAction {
  return { ...action, present: false }
}
