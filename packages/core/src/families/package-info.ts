import { formatOf, parse, readingFor } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import { getNode, parsePointer } from '../tree/pointer'
import { NumberText, valueOf, type Value } from '../tree/values'
import { arrangementOf } from './arrangements'
import type { Family } from './family'
import { dataFolder } from './folders'

/** What a package says of itself, without the files it brings. */
export interface PackageAbout {
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
}

export interface PackageInfo extends PackageAbout {
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
  const read = (pointer: string | undefined): Value => {
    const keys = pointer === undefined ? null : parsePointer(pointer)
    const node = keys && getNode(document, keys)
    return node ? valueOf(document, node) : null
  }
  const name = written(read(descriptor.name))
  const version = written(read(descriptor.version))
  if (!SAFE_NAME.test(name) || name.includes('..'))
    throw new PackageError(`${descriptor.file} names the plugin “${name}”, which cannot be a file name`)
  if (version === '') throw new PackageError(`${descriptor.file} names no version`)
  return {
    name,
    version,
    summary: written(read(descriptor.summary)),
    game: written(read(descriptor.game)) || '*',
    authors: list(read(descriptor.authors)),
    requires: texts(read(descriptor.requires)),
    optional: texts(read(descriptor.optional)),
    nodes: texts(read(descriptor.nodes)),
    commands: texts(read(descriptor.commands)),
    changes: written(read(descriptor.changes)),
    defaults: defaultFiles(files, family, name),
  }
}

function defaultFiles(files: ReadonlyMap<string, string>, family: Family, plugin: string): Record<string, string> {
  const base = family.descriptor.defaults
  if (base === undefined) return {}
  const found: [string, string][] = []
  const taken = new Map<string, string>()
  for (const [path, text] of files) {
    if (!path.startsWith(base) || !isSettingsFile(path, family)) continue
    const name = path.slice(base.length)
    requireHarmless(path, `${dataFolder(family, plugin)}/${name}`, family)
    const twin = taken.get(nameOnDisk(name))
    if (twin !== undefined) throw new PackageError(`${path} and ${twin} would be one file on a disk that knows no capitals`)
    taken.set(nameOnDisk(name), path)
    found.push([name, text])
  }
  return Object.fromEntries(found)
}

/** Two names that are one where capitals, or ways to write a letter, make no difference. */
export const nameOnDisk = (name: string): string => name.normalize('NFC').toLowerCase()

/** @throws PackageError for a file that would not lie in its plugin's folder, or where a package lies */
function requireHarmless(path: string, target: string, family: Family): void {
  const isPlain = target.split('/').every((part) => part !== '' && part !== '.' && part !== '..')
  if (!isPlain || /[\\\x00-\x1f]|^[A-Za-z]:/.test(target)) throw new PackageError(`${path} would lie outside of the plugin’s folder`)
  if (arrangementOf(family).isPackage(family, target)) throw new PackageError(`${path} would take the place of a package`)
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

/** A value as it was written: `1.0` stays `1.0`. Sections and lists say nothing. */
function written(value: Value | undefined): string {
  if (value instanceof NumberText) return value.text
  return typeof value === 'string' || typeof value === 'boolean' ? String(value) : ''
}

function list(value: Value): string[] {
  return Array.isArray(value) ? (value as readonly Value[]).map(written) : []
}

function texts(value: Value): Record<string, string> {
  if (!(value instanceof Map)) return {}
  return Object.fromEntries([...(value as ReadonlyMap<string, Value>)].map(([key, item]) => [key, written(item)]))
}
