import { parse, formatOf } from '../formats/registry'
import type { Reading } from '../formats/reading'
import type { Family } from '../families/family'
import type { PackageInfo } from '../families/package-info'
import { inferRules, type KnownIds } from '../rules/infer'
import type { Rule } from '../rules/rule'
import type { Document } from '../tree/nodes'

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
}

/** All settings of a server at once, drafts in their places: what every check looks at. */
export interface Workspace {
  readonly family: Family | null
  readonly plugins: readonly Pick<PackageInfo, 'name' | 'version'>[]
  readonly files: ReadonlyMap<string, WorkspaceFile>
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
}

/** Reads one file for a workspace; null for a path whose ending stands for no format. */
export function workspaceFile(input: WorkspaceInput): WorkspaceFile | null {
  const { path, plugin, reading } = input
  const format = formatOf(path)
  if (!format) return null
  // also where both say the same they are trees of their own: the one that is typed on moves
  const factory = input.factory === null ? null : parse(input.factory, format, reading)
  return {
    path,
    plugin,
    document: { ...parse(input.text, format, reading), file: path },
    factory,
    rules: [...(factory ? inferRules(factory, input.known) : []), ...(input.rules ?? [])],
  }
}

/** A workspace of some files, as where a single one is looked at. */
export function workspaceOf(
  files: readonly (WorkspaceFile | null)[],
  family: Family | null = null,
  plugins: Workspace['plugins'] = [],
): Workspace {
  const known = files.filter((file) => file !== null)
  return { family, plugins, files: new Map(known.map((file) => [file.path, file])) }
}
