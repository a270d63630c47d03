import { array, object, string } from 'yup'
import { FORMAT_IDS, formatOf, parse, readingFor, type FormatId } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import { readDescription } from '../rules/description'
import type { Rule } from '../rules/rule'
import type { Document } from '../tree/nodes'
import { getNode, parsePointer } from '../tree/pointer'
import { NumberText, toJson, valueOf, type Value } from '../tree/values'
import { arrangementOf } from './arrangements'
import type { Family, Piece } from './family'
import { nameOf, pathOf, patternsFor, placedByName } from './folders'
import { isPlainPath } from './paths'
import { copiesOf, matchesPiece } from './pieces'
import { pieceSchema } from './schema'

/** What a package says of itself, without the files it brings. */
export interface PackageAbout {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  readonly authors: readonly string[]
  /** Ranges of versions by name, as also below. */
  readonly requires: Readonly<Record<string, string>>
  readonly optional: Readonly<Record<string, string>>
  /** What those that are optional add, where they are there. */
  readonly adds: Readonly<Record<string, string>>
  readonly conflicts: Readonly<Record<string, string>>
  readonly companions: Readonly<Record<string, string>>
  readonly nodes: Readonly<Record<string, string>>
  /** Those of them that everybody holds who is not denied them. */
  readonly open: readonly string[]
  readonly commands: Readonly<Record<string, string>>
  /** What its texts may hold that is filled in, each with what it stands for. */
  readonly placeholders: Readonly<Record<string, string>>
  readonly changes: string
  /** What only a person can do. */
  readonly tasks: readonly string[]
  /** What of it belongs elsewhere, beside what its family says. */
  readonly pieces: readonly Piece[]
  /** What its author declares of settings, by the name of the file as `nameOf` gives it. */
  readonly rules?: Readonly<Record<string, readonly Rule[]>>
}

export interface PackageInfo extends PackageAbout {
  /** The settings files it brings or writes at its first start, by the names of `nameOf`. */
  readonly defaults: Readonly<Record<string, string>>
  readonly readme: string
  readonly changelog: string
}

/** A file that is no package of this family, with the reason. */
export class PackageError extends Error {
  readonly code = 'bad-package'
}

const SAFE_NAME = /^[\p{L}\p{N}][\p{L}\p{N} _.'’-]{0,63}$/u
const WITHOUT_VERSION = 'unknown'

/**
 * Reads what a package says of itself. `files` are the texts in it by path, of which the descriptor, the default settings
 * and what is written for people are looked at. @param named its name where the family says nothing of one @throws PackageError
 */
export function readPackage(files: ReadonlyMap<string, string>, family: Family, named: string): PackageInfo {
  const file = family.descriptor.file ?? ''
  const text = files.get(file)
  if (text === undefined) throw new PackageError(`it holds no ${file}, which packages of the family ${family.id} have`)
  const readme = firstOf(files, family.descriptor.readme)
  const about = readAbout(text, family, { file, named, notes: readme })
  return {
    ...about,
    ...declaredIn(files, family),
    readme,
    changelog: firstOf(files, family.descriptor.changelog),
    defaults: defaultFiles(files, family, about),
  }
}

/** The settings file that a file of a package describes; null where it describes none. */
function describedBy(path: string, { descriptor }: Family): string | null {
  const [before, after] = descriptor.schemas?.split('{file}') ?? []
  if (before === undefined || after === undefined || !path.startsWith(before) || !path.endsWith(after)) return null
  const name = path.slice(before.length, path.length - after.length)
  return name === '' ? null : name
}

/** What the author declares of settings. A description that cannot be read declares nothing, and keeps nothing back. */
function declaredIn(files: ReadonlyMap<string, string>, family: Family): Pick<PackageAbout, 'rules'> {
  const declared = [...files].flatMap(([path, text]): [string, readonly Rule[]][] => {
    const name = describedBy(path, family)
    const rules = name === null ? [] : declaredRules(text)
    return name === null || rules.length === 0 ? [] : [[name, rules]]
  })
  return declared.length > 0 ? { rules: Object.fromEntries(declared) } : {}
}

function declaredRules(text: string): readonly Rule[] {
  try {
    return readDescription(text)
  } catch {
    return []
  }
}

/** Where a description stands, and what there is besides. */
interface Described {
  readonly file: string
  /** Its name where the description says none. */
  readonly named: string
  /** What the package has to read. */
  readonly notes: string
}

/** Reads a plugin's description. @throws PackageError */
export function readAbout(text: string, family: Family, { file, named, notes }: Described): PackageAbout {
  const { descriptor } = family
  const document = described(text, family, file)
  const read = (pointer: string | undefined): Value => {
    const keys = pointer === undefined ? null : parsePointer(pointer)
    const node = keys && getNode(document, keys)
    return node ? valueOf(document, node) : null
  }
  const name = written(read(descriptor.name)) || named
  if (!SAFE_NAME.test(name) || name.includes('..'))
    throw new PackageError(`${file} names the plugin “${name}”, which cannot be a file name`)
  const version = written(read(descriptor.version)) || (descriptor.version === undefined ? WITHOUT_VERSION : '')
  if (version === '') throw new PackageError(`${file} names no version`)
  const optional = read(descriptor.optional)
  return {
    name,
    version,
    summary: written(read(descriptor.summary)),
    game: written(read(descriptor.game)) || '*',
    authors: list(read(descriptor.authors)),
    requires: ranges(read(descriptor.requires)),
    optional: ranges(optional),
    adds: additions(optional),
    conflicts: ranges(read(descriptor.conflicts)),
    companions: ranges(read(descriptor.companions)),
    nodes: texts(read(descriptor.nodes)),
    open: list(read(descriptor.open)),
    commands: texts(read(descriptor.commands)),
    placeholders: texts(read(descriptor.placeholders)),
    changes: written(read(descriptor.changes)),
    tasks: [...list(read(descriptor.tasks)), ...openItems(notes)],
    pieces: piecesOf(document, descriptor.pieces, file),
  }
}

/** The description as a tree: a file of its own, or the first lines of a single file. */
function described(text: string, family: Family, file: string): Document {
  const { header } = family.descriptor
  const source = header ? headerOf(text, header.lines) : text
  if (source === null) throw new PackageError(`its first lines do not say what it is, as those of the family ${family.id} do`)
  const format = header ? FORMAT_IDS.find((id) => id === header.format) : formatOf(file)
  const document = parse(source, format ?? (yamlFormat.id satisfies FormatId), readingFor(header ? '' : file, family))
  const error = document.findings.find((finding) => finding.severity === 'error')
  if (error) throw new PackageError(`${file} line ${new LineIndex(source).position(error.from).line}: ${error.message}`)
  return document
}

/** What the first lines that fit the pattern say; lines keep their numbers, and blank ones may stand before. */
function headerOf(text: string, pattern: string): string | null {
  const fits = new RegExp(pattern)
  const lines: string[] = []
  let hasBegun = false
  for (const line of text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/)) {
    const found = fits.exec(line)
    if (found) {
      hasBegun = true
      lines.push(found.groups?.['text'] ?? found[1] ?? '')
    } else if (hasBegun || (line.trim() !== '' && !line.startsWith('#!'))) break
    else lines.push('')
  }
  return hasBegun ? lines.join('\n') : null
}

/** Reads a package that is one file: its first lines describe it, and blocks in it are the settings it writes. @throws PackageError */
export function readSingleFile(text: string, family: Family, fileName: string): PackageInfo {
  const named = fileName
    .split('/')
    .pop()!
    .replace(/\.[^.]+$/, '')
  const about = readAbout(text, family, { file: fileName, named, notes: '' })
  const files = new Map(Object.entries(blocksOf(text, family)))
  const placed = placedByName(family, about.name)
  const defaults = [...files]
    .filter(([path]) => patternsFor(family, placed).isSettings(path))
    .map(([path, content]) => [nameOf(family, placed, path), content])
  return { ...about, readme: '', changelog: '', defaults: Object.fromEntries(defaults) as Record<string, string> }
}

function blocksOf(text: string, family: Family): Record<string, string> {
  const { blocks } = family.descriptor
  if (!blocks) return {}
  const [begin, end] = [new RegExp(blocks.begin), new RegExp(blocks.end)]
  const found: Record<string, string> = {}
  let open: { name: string; from: number } | null = null
  for (const line of text.matchAll(/[^\r\n]*(?:\r\n|\n|\r|$)/g)) {
    const bare = line[0].replace(/[\r\n]+$/, '')
    const name = begin.exec(bare)?.groups?.['name']
    if (open && end.test(bare)) {
      found[open.name] = text.slice(open.from, line.index)
      open = null
    } else if (!open && name !== undefined) open = { name, from: line.index + line[0].length }
  }
  return found
}

function defaultFiles(files: ReadonlyMap<string, string>, family: Family, about: PackageAbout): Record<string, string> {
  const base = family.plugins.kept === 'unpacked' ? (family.descriptor.defaults ?? '') : family.descriptor.defaults
  if (base === undefined) return {}
  const placed = arrangementOf(family).placeNew(family, about.name)
  const found: [string, string][] = []
  const taken = new Map<string, string>()
  const copied = [...family.pieces, ...about.pieces].flatMap((piece) =>
    piece.kind === 'copy' ? copiesOf(family, piece, [...files.keys()], placed) : [],
  )
  const own = [...files.keys()].filter((path) => path.startsWith(base)).map((path) => ({ path, name: path.slice(base.length) }))
  for (const { path, name } of [...own, ...copied.map(({ member, path }) => ({ path: member, name: nameOf(family, placed, path) }))]) {
    const text = files.get(path)!
    const target = pathOf(family, placed, name)
    const isSettings = patternsFor(family, placed).isSettings(target)
    if (formatOf(path) === null && !isSettings) continue
    requireHarmless(path, target, family)
    if (!isSettings) continue
    const twin = taken.get(nameOnDisk(name))
    if (twin !== undefined) throw new PackageError(`${path} and ${twin} would be one file on a disk that knows no capitals`)
    taken.set(nameOnDisk(name), path)
    found.push([name, text])
  }
  return Object.fromEntries(found)
}

/** Which texts of a package are read to know it; `path` is below its own root. */
export function isOfInterest(path: string, family: Family, pieces: readonly Piece[]): boolean {
  if (formatOf(path) !== null && [...family.pieces, ...pieces].some(({ kind, from }) => kind === 'copy' && matchesPiece(from, path)))
    return true
  const { file, defaults, readme, changelog } = family.descriptor
  if (path === file || [...readme, ...changelog].includes(path) || describedBy(path, family) !== null) return true
  if (family.plugins.kept === 'unpacked') return formatOf(path) !== null && mayBeSettings(path.slice((defaults ?? '').length), family)
  return defaults !== undefined && path.startsWith(defaults) && mayBeSettings(path.slice(defaults.length), family)
}

/** Whether a file of this name in a plugin's own folder holds settings. */
function mayBeSettings(name: string, family: Family): boolean {
  const placed = arrangementOf(family).placeNew(family, 'x')
  return patternsFor(family, placed).isSettings(pathOf(family, placed, name))
}

/** Two names that are one where capitals, or ways to write a letter, make no difference. */
export const nameOnDisk = (name: string): string => name.normalize('NFC').toLowerCase()

/** @throws PackageError for a file that would not lie in its plugin's folder, or where a package lies */
function requireHarmless(path: string, target: string, family: Family): void {
  if (!isPlainPath(path) || !isPlainPath(target)) throw new PackageError(`${path} would lie outside of the plugin’s folder`)
  if (family.plugins.kept !== 'unpacked' && arrangementOf(family).isPackage(family, target))
    throw new PackageError(`${path} would take the place of a package`)
}

const firstOf = (files: ReadonlyMap<string, string>, names: readonly string[]): string =>
  names.map((name) => files.get(name)).find((text) => text !== undefined) ?? ''

/** Items of a list in what there is to read that have a box to tick, as in `- [ ] Open the port`. */
function openItems(notes: string): string[] {
  return [...notes.matchAll(/^\s*[-*+] \[ \] +(\S.*)$/gm)].map(([, words]) => words!.trim())
}

function piecesOf(document: Document, pointer: string | undefined, file: string): Piece[] {
  const keys = pointer === undefined ? null : parsePointer(pointer)
  const node = keys && getNode(document, keys)
  if (!node) return []
  try {
    return array(pieceSchema.required()).required().validateSync(toJson(document, node)) as Piece[]
  } catch (error) {
    const line = new LineIndex(document.text).position(node.from).line
    throw new PackageError(`${file} line ${line}: ${(error as Error).message.replaceAll('this', 'a piece')}`, { cause: error })
  }
}

/** A value as it was written: `1.0` stays `1.0`. Sections and lists say nothing. */
function written(value: Value | undefined): string {
  if (value instanceof NumberText) return value.text
  return typeof value === 'string' || typeof value === 'boolean' ? String(value) : ''
}

/** A list of texts; one text is a list with commas. */
function list(value: Value): string[] {
  if (Array.isArray(value)) return (value as readonly Value[]).map(written).filter((item) => item !== '')
  return written(value)
    .split(',')
    .map((item) => item.trim())
    .filter((item) => item !== '')
}

function texts(value: Value): Record<string, string> {
  if (!(value instanceof Map)) return Object.fromEntries(list(value).map((name) => [name, '']))
  return Object.fromEntries([...(value as ReadonlyMap<string, Value>)].map(([key, item]) => [key, written(item)]))
}

/** Names with ranges: a section (`Purse: ">=1.5"`, also with `range` and `adds` below), or a list (`Purse >=1.5`). */
function ranges(value: Value): Record<string, string> {
  if (value instanceof Map)
    return Object.fromEntries([...(value as ReadonlyMap<string, Value>)].map(([name, item]) => [name, written(part(item, 'range')) || '*']))
  return Object.fromEntries(
    list(value).map((item) => {
      const [, name, range = '*'] = /^(.+?)(?:\s*[@:]?\s*((?:[<>=~^*]|\d+(?:\.[\dx*]+)+).*))?$/.exec(item)!
      return [name!.trim(), range.trim()]
    }),
  )
}

function additions(value: Value): Record<string, string> {
  if (!(value instanceof Map)) return {}
  return Object.fromEntries(
    [...(value as ReadonlyMap<string, Value>)].flatMap(([name, item]) => {
      const adds = item instanceof Map ? written(item.get('adds') as Value) : ''
      return adds === '' ? [] : [[name, adds]]
    }),
  )
}

const part = (value: Value, key: string): Value => (value instanceof Map ? ((value.get(key) as Value | undefined) ?? null) : value)

/** What is kept of a package, as it was kept. */
export const aboutSchema = object({
  name: string().required(),
  version: string().required(),
  summary: string().defined(),
  game: string().required(),
  authors: array(string().required()).required(),
  requires: object().required(),
  optional: object().required(),
  adds: object().default({}),
  conflicts: object().default({}),
  companions: object().default({}),
  nodes: object().required(),
  open: array(string().required()).default([]),
  commands: object().required(),
  placeholders: object().default({}),
  changes: string().defined(),
  tasks: array(string().required()).default([]),
  pieces: array(pieceSchema.required()).default([]),
  rules: object().optional(),
})
