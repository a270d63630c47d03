import { formatOf, parse, readingFor } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import { getNode, parsePointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import type { Family } from './family'

/** What a package says of itself. */
export interface PackageInfo {
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  readonly authors: readonly string[]
  readonly requires: Readonly<Record<string, string>>
  readonly optional: Readonly<Record<string, string>>
  readonly nodes: Readonly<Record<string, string>>
  readonly commands: Readonly<Record<string, string>>
  readonly changes: string
  /** The settings files it writes at its first start, by name. */
  readonly defaults: Readonly<Record<string, string>>
}

/** A file that is no package of this family, with the reason. */
export class PackageError extends Error {
  readonly code = 'bad-package'
}

const SAFE_NAME = /^[A-Za-z0-9][A-Za-z0-9 _.-]{0,63}$/

/**
 * Reads what a package says of itself. `files` are the texts in the archive by path, of which only the descriptor and
 * the default settings are looked at. @throws PackageError
 */
export function readPackage(files: ReadonlyMap<string, string>, family: Family): PackageInfo {
  const { descriptor } = family
  const text = files.get(descriptor.file)
  if (text === undefined) throw new PackageError(`it holds no ${descriptor.file}, which packages of the family ${family.id} have`)
  const document = parse(text, formatOf(descriptor.file) ?? yamlFormat.id, readingFor(descriptor.file, family))
  const error = document.findings.find((finding) => finding.severity === 'error')
  if (error) throw new PackageError(`${descriptor.file} line ${new LineIndex(text).position(error.from).line}: ${error.message}`)
  const read = (pointer: string | undefined): unknown => {
    const keys = pointer === undefined ? null : parsePointer(pointer)
    const node = keys && getNode(document, keys)
    return node ? toJson(document, node) : undefined
  }
  const name = String(read(descriptor.name) ?? '')
  const version = String(read(descriptor.version) ?? '')
  if (!SAFE_NAME.test(name) || name.includes('..'))
    throw new PackageError(`${descriptor.file} names the plugin “${name}”, which cannot be a file name`)
  if (version === '') throw new PackageError(`${descriptor.file} names no version`)
  return {
    name,
    version,
    summary: String(read(descriptor.summary) ?? ''),
    game: String(read(descriptor.game) ?? '*'),
    authors: list(read(descriptor.authors)),
    requires: texts(read(descriptor.requires)),
    optional: texts(read(descriptor.optional)),
    nodes: texts(read(descriptor.nodes)),
    commands: texts(read(descriptor.commands)),
    changes: String(read(descriptor.changes) ?? ''),
    defaults: defaultFiles(files, family),
  }
}

function defaultFiles(files: ReadonlyMap<string, string>, family: Family): Record<string, string> {
  const base = family.descriptor.defaults
  if (base === undefined) return {}
  const found: Record<string, string> = {}
  for (const [path, text] of files) if (path.startsWith(base) && isSettingsFile(path, family)) found[path.slice(base.length)] = text
  return found
}

/** Whether a file of a plugin holds settings, and is not one the server itself writes. */
export function isSettingsFile(path: string, family: Family): boolean {
  const ending = path.split('.').pop() ?? ''
  return family.settings.endings.includes(ending) && !isRecord(path, family)
}

/** Whether the running server writes this file by itself. */
export function isRecord(path: string, family: Family): boolean {
  return family.settings.records.includes(path.split('/').pop() ?? '')
}

function list(value: unknown): string[] {
  return Array.isArray(value) ? value.map(String) : []
}

function texts(value: unknown): Record<string, string> {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return {}
  return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, String(item)]))
}
