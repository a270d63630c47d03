import { formatOf, parse } from '../formats/registry'
import type { Document } from '../tree/nodes'
import { locate } from '../tree/pointer'
import type { WorkspaceFile } from './workspace'

/** What other versions of a plugin ship in the place of a file, the oldest first. */
export interface OtherVersions {
  /** The version that is installed. */
  readonly installed: string
  readonly versions: readonly { readonly version: string; readonly isNewer: boolean; readonly text: string }[]
}

/** A version that has a setting which the installed one does not have. */
export type Elsewhere =
  | { readonly what: 'dropped'; readonly had: string; readonly lacks: string }
  | { readonly what: 'later'; readonly has: string; readonly lacks: string }

const read = new WeakMap<OtherVersions, readonly (Document | null)[]>()

/** Whether another version of the plugin ships a setting that the installed one does not ship; null where none does. */
export function elsewhere({ path, others, document }: WorkspaceFile, keys: readonly string[]): Elsewhere | null {
  if (!others) return null
  const { versions, installed } = others
  const format = formatOf(path)
  let documents = read.get(others)
  if (!documents) read.set(others, (documents = versions.map(({ text }) => format && parse(text, format, document.reading))))
  const has = (i: number): boolean => documents[i] !== null && locate(documents[i]!, keys) !== null
  const older = versions.findLastIndex(({ isNewer }, i) => !isNewer && has(i))
  if (older >= 0) {
    const next = versions[older + 1]
    return { what: 'dropped', had: versions[older]!.version, lacks: next && !next.isNewer ? next.version : installed }
  }
  const newer = versions.findIndex(({ isNewer }, i) => isNewer && has(i))
  return newer < 0 ? null : { what: 'later', has: versions[newer]!.version, lacks: installed }
}
