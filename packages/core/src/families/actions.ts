import { OperationError } from '../formats/error'
import { addEntry, editDocument, removeEntry, sameValue, setValue } from '../formats/operations'
import { formatOrText, parse } from '../formats/registry'
import type { Reading } from '../formats/reading'
import { eolOf } from '../text/lines'
import { applyEdits } from '../text/edits'
import type { Document } from '../tree/nodes'
import { getNode } from '../tree/pointer'
import { fromJson, valueOf } from '../tree/values'

/** Where the bytes of a file come from: content by its SHA-256, or a member of a package. */
export type Content = { readonly sha: string } | { readonly package: string; readonly member: string }

/** One thing done to the files of a server, worked out before anything is written. Paths are relative to its folder. */
export type FileAction =
  | { readonly kind: 'put'; readonly path: string; readonly content: Content }
  | { readonly kind: 'remove'; readonly path: string; /** Taken away only with this content. */ readonly ifSha?: string }
  | LineAction
  | EntryAction

/** A line in a text file, as in a list of what to load; all else in the file stays. */
export interface LineAction {
  readonly kind: 'line'
  readonly path: string
  readonly line: string
  readonly present: boolean
}

/** A setting in a file: there with its value, or not there. */
export interface EntryAction {
  readonly kind: 'entry'
  readonly path: string
  readonly at: readonly string[]
  /** JSON data. */
  readonly value?: unknown
  readonly present: boolean
}

/**
 * The text a file has after a line or entry is as the action wants it; the same text where it is so already, null where
 * there was no file and there is nothing to take out. Pure: the caller holds the lock. @throws OperationError
 */
export function resolveAction(action: LineAction | EntryAction, now: string | null, reading: Reading): string | null {
  if (now === null && !action.present) return null
  return action.kind === 'line' ? resolveLine(action, now ?? '') : resolveEntry(action, now ?? '', reading)
}

function resolveLine({ line, present }: LineAction, now: string): string {
  const lines = now.split(/(?<=\r\n|\n|\r(?!\n))/)
  const bare = (text: string): string => text.replace(/[\r\n]+$/, '').trim()
  if (!present) return lines.filter((text) => bare(text) !== line.trim()).join('')
  if (lines.some((text) => bare(text) === line.trim())) return now
  const eol = eolOf(now)
  return now + (now === '' || /[\r\n]$/.test(now) ? '' : eol) + line + eol
}

function resolveEntry(action: EntryAction, now: string, reading: Reading): string {
  const { at } = action
  let document: Document = parse(now, formatOrText(action.path), reading)
  const error = document.findings.find((finding) => finding.severity === 'error')
  if (error) throw new OperationError('would-not-read', `${action.path} has mistakes; mend them first`)
  const node = getNode(document, at)
  if (!action.present) return node ? applyEdits(now, removeEntry(document, at)) : now
  const value = fromJson(action.value)
  if (node) return sameValue(valueOf(document, node), value) ? now : applyEdits(now, setValue(document, at, value))
  // the sections around it may be missing, too
  for (let depth = 1; depth < at.length; depth++)
    if (!getNode(document, at.slice(0, depth)))
      document = editDocument(document, addEntry(document, at.slice(0, depth - 1), at[depth - 1]!, new Map()))
  const parent = getNode(document, at.slice(0, -1))
  const key = parent?.type === 'list' ? null : at.at(-1)!
  return editDocument(document, addEntry(document, at.slice(0, -1), key, value)).text
}
