import { parse, formatOf, type FormatId } from '../formats/registry'
import { lenient, type Reading } from '../formats/reading'
import type { Family } from '../families/family'
import type { PackageInfo } from '../families/package-info'
import { inferRules, type KnownIds } from '../rules/infer'
import type { Rule } from '../rules/rule'
import type { Document } from '../tree/nodes'
import type { Mark, Markup } from '../values/markup'
import { NO_KNOWLEDGE, type Knowledge } from './knowledge'
import type { OtherVersions } from './other-versions'

/** A settings file with everything that is known of it. */
export interface WorkspaceFile {
  /** Relative to the server's folder. */
  readonly path: string
  /** The plugin it belongs to; null for files of nobody known. */
  readonly plugin: string | null
  /** The draft where there is one, else what is on the server. */
  readonly document: Document
  /** As the plugin shipped it; null where that is not known. */
  readonly factory: Document | null
  readonly rules: readonly Rule[]
  /** What other versions of the plugin ship in its place, where some are known. */
  readonly others?: OtherVersions
}

/** What makes of a file something else than its writer meant, so that nothing more can be said of it. */
const BREAKS = new Set([
  'syntax',
  'tab-indent',
  'bad-indent',
  'missing-colon',
  'missing-comma',
  'unclosed-quote',
  'unclosed-bracket',
  'unclosed-block',
  'unclosed-tag',
  'wrong-quote',
  'missing-equals',
  'swallowed',
  'too-deep',
])

/** Whether a file is read as its writer meant it. Of one that is not, only that is told. */
export const isReadable = ({ document }: WorkspaceFile): boolean =>
  !document.findings.some(({ severity, code }) => severity === 'error' && BREAKS.has(code))

/** All settings of a server at once, drafts in their places: what every check looks at. */
export interface Workspace {
  readonly family: Family | null
  readonly plugins: readonly Pick<PackageInfo, 'name' | 'version'>[]
  readonly files: ReadonlyMap<string, WorkspaceFile>
  /** What is known of the server beside its settings. */
  readonly knowledge: Knowledge
}

export interface WorkspaceInput {
  readonly path: string
  readonly plugin: string | null
  readonly text: string
  readonly factory: string | null
  readonly reading: Reading
  /** Rules from elsewhere; they overrule those the factory copy shows. */
  readonly rules?: readonly Rule[]
  /** The server's own lists of ids, which tell what is one. */
  readonly known?: KnownIds
  readonly others?: OtherVersions
}

/** Reads one file for a workspace; null for a path whose ending stands for no format. */
export function workspaceFile(input: WorkspaceInput): WorkspaceFile | null {
  const { path, plugin } = input
  const format = formatOf(path)
  if (!format) return null
  const reading = readerOf(input, format)
  // also where both say the same they are trees of their own: the one that is typed on moves
  const factory = input.factory === null ? null : parse(input.factory, format, reading)
  const document = { ...parse(input.text, format, reading), file: path }
  // where nobody knows what was shipped, the file itself tells what its values are, and nothing is wrong by it
  const inferred = inferRules(factory ?? document, input.known)
  const { others } = input
  return { path, plugin, document, factory, rules: [...inferred, ...(input.rules ?? [])], ...(others ? { others } : {}) }
}

/** Whoever ships comments where strict readers take none has a reader that takes them. */
function readerOf({ factory, reading }: WorkspaceInput, format: FormatId): Reading {
  if (factory === null || reading.jsonComments) return reading
  const shipsThem = parse(factory, format, reading).findings.some(({ code }) => code === 'comment-not-allowed' || code === 'extra-comma')
  return shipsThem ? lenient(reading) : reading
}

/** A workspace of some files, as where a single one is looked at. */
export function workspaceOf(
  files: readonly (WorkspaceFile | null)[],
  family: Family | null = null,
  plugins: Workspace['plugins'] = [],
  knowledge: Knowledge = family ? { ...NO_KNOWLEDGE, texts: markupOf(family) } : NO_KNOWLEDGE,
): Workspace {
  const known = files.filter((file) => file !== null)
  return { family, plugins, files: new Map(known.map((file) => [file.path, file])), knowledge }
}

/** How the texts of a family are written. */
export function markupOf({ texts }: Family): Markup {
  const { placeholder, 'line-break': lineBreak, codes, marks, surfaces } = texts
  return { placeholder: placeholder as string[], lineBreak: lineBreak ?? null, codes: codes ?? null, marks: marks as Mark[], surfaces }
}
