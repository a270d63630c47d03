import { OperationError } from '../formats/error'
import { addEntry, editDocument, removeEntry, sameValue, setValue } from '../formats/operations'
import { formatOrText, parse } from '../formats/registry'
import type { Reading } from '../formats/reading'
import { eolOf } from '../text/lines'
import { applyEdits } from '../text/edits'
import type { Document, Node } from '../tree/nodes'
import { formatPointer, getNode } from '../tree/pointer'
import { fromJson, valueOf } from '../tree/values'

/** Where the bytes of a file come from: content by its SHA-256, or a member of a package. */
export type Content = { readonly sha: string } | { readonly package: string; readonly member: string }

/** One thing done to the files of a server, worked out before anything is written. Paths are relative to its folder. */
export type FileAction =
  | {
      readonly kind: 'put'
      readonly path: string
      readonly content: Content
      /** Left as it is where a file is there. */ readonly ifAbsent?: boolean
    }
  | { readonly kind: 'remove'; readonly path: string; /** Taken away only with this content. */ readonly ifSha?: string }
  | TextAction

/** A change within a text file, of which all else stays. */
export type TextAction = LineAction | EntryAction | ItemAction | BlockAction

/** A line in a text file, as in a list of what to load. */
export interface LineAction {
  readonly kind: 'line'
  readonly path: string
  readonly line: string
  readonly present: boolean
  /** Lines it must stand behind, where they are there. */
  readonly after?: readonly string[]
  /** Lines of its kind: a new one goes behind the last of them. A regular expression. */
  readonly like?: string
}

/** A setting in a file: there with its value, or not there. */
export interface EntryAction {
  readonly kind: 'entry'
  readonly path: string
  readonly at: readonly string[]
  /** JSON data. Where it is to be taken out, only one with this value is; without a value any. */
  readonly value?: unknown
  readonly present: boolean
  /** Whether one that is there with another value stays as it is. */
  readonly keep?: boolean
}

/** An item of a list in a file. */
export interface ItemAction {
  readonly kind: 'item'
  readonly path: string
  /** The list. */
  readonly at: readonly string[]
  /** JSON data; an item is the same if all of it is. */
  readonly value: unknown
  readonly present: boolean
}

/** A stretch of lines in a text file, behind a blank line. */
export interface BlockAction {
  readonly kind: 'block'
  readonly path: string
  readonly text: string
  readonly present: boolean
}

export const isTextAction = (action: FileAction): action is TextAction => action.kind !== 'put' && action.kind !== 'remove'

/**
 * The text a file has after a change within it is as the action wants it; the same text where it is so already, null where
 * there was no file and there is nothing to take out. Pure: the caller holds the lock. @throws OperationError
 */
export function resolveAction(action: TextAction, now: string | null, reading: Reading): string | null {
  if (now === null && !action.present) return null
  const text = now ?? ''
  switch (action.kind) {
    case 'line':
      return resolveLine(action, text)
    case 'block':
      return resolveBlock(action, text)
    case 'entry':
      return resolveEntry(action, text, reading)
    case 'item':
      return resolveItem(action, text, reading)
  }
}

/** Whether a file is as a change within it wants it; one that cannot be read is not. */
export function isResolved(action: TextAction, now: string | null, reading: Reading): boolean {
  try {
    return resolveAction(action, now, reading) === now
  } catch (error) {
    if (error instanceof OperationError) return false
    throw error
  }
}

const LINES = /(?<=\r\n|\n|\r(?!\n))/
const bare = (text: string): string => text.replace(/[\r\n]+$/, '').trim()

function resolveLine({ line, present, after = [], like }: LineAction, now: string): string {
  const lines = now === '' ? [] : now.split(LINES)
  const at = lines.findIndex((text) => bare(text) === line.trim())
  if (!present) return lines.filter((text) => bare(text) !== line.trim()).join('')
  const before = lines.findLastIndex((text) => after.includes(bare(text)))
  if (at >= 0 && at > before) return now
  // one that stands too early is moved
  const others = lines.filter((_text, index) => index !== at)
  const fits = like === undefined ? null : new RegExp(like)
  const place = Math.max(
    others.findLastIndex((text) => after.includes(bare(text))),
    fits ? others.findLastIndex((text) => fits.test(bare(text))) : others.length - 1,
  )
  return insertAfter(others, place < 0 ? others.length - 1 : place, at >= 0 ? lines[at]! : line, eolOf(now))
}

/** Puts a line behind another, which may be the last and have no end. */
function insertAfter(lines: readonly string[], place: number, line: string, eol: string): string {
  const ended = (text: string): string => (text === '' || /[\r\n]$/.test(text) ? text : text + eol)
  return [...lines.slice(0, place + 1).map(ended), ended(line), ...lines.slice(place + 1)].join('')
}

function resolveBlock({ text, present }: BlockAction, now: string): string {
  const eol = eolOf(now)
  const block = text.replace(/^\s*\n|\s+$/g, '').replace(/\r\n|\r|\n/g, eol)
  const at = now.indexOf(block)
  const isWhole = at >= 0 && /(^|[\r\n])$/.test(now.slice(0, at)) && /^([\r\n]|$)/.test(now.slice(at + block.length))
  if (present) {
    if (isWhole) return now
    const ended = now === '' || /[\r\n]$/.test(now) ? now : now + eol
    return ended + (ended === '' ? '' : eol) + block + eol
  }
  if (!isWhole) return now
  const rest = now.slice(at + block.length)
  const behind = rest.startsWith(eol) ? rest.slice(eol.length) : rest
  const before = now.slice(0, at)
  // the blank line it was set off with goes along
  return (behind === '' && before.endsWith(eol + eol) ? before.slice(0, -eol.length) : before) + behind
}

function readWhole(path: string, now: string, reading: Reading): Document {
  const document = parse(now, formatOrText(path), reading)
  if (document.findings.some((finding) => finding.severity === 'error'))
    throw new OperationError('would-not-read', `${path} has mistakes; mend them first`)
  return document
}

function resolveEntry(action: EntryAction, now: string, reading: Reading): string {
  const { at, path, keep = false } = action
  const document = readWhole(path, now, reading)
  const node = getNode(document, at)
  const isSame = (): boolean => node !== null && sameValue(valueOf(document, node), fromJson(action.value))
  if (!action.present) return node && (action.value === undefined || isSame()) ? applyEdits(now, removeEntry(document, at)) : now
  if (node) return keep || isSame() ? now : applyEdits(now, setValue(document, at, fromJson(action.value)))
  const whole = withSections(document, at.slice(0, -1))
  const parent = getNode(whole, at.slice(0, -1))
  return editDocument(whole, addEntry(whole, at.slice(0, -1), parent?.type === 'list' ? null : at.at(-1)!, fromJson(action.value))).text
}

/** The document with the sections on the way to an entry, where they are missing. */
function withSections(document: Document, at: readonly string[]): Document {
  let whole = document
  for (let depth = 1; depth <= at.length; depth++)
    if (!getNode(whole, at.slice(0, depth))) whole = editDocument(whole, addEntry(whole, at.slice(0, depth - 1), at[depth - 1]!, new Map()))
  return whole
}

function resolveItem({ path, at, value, present }: ItemAction, now: string, reading: Reading): string {
  const document = readWhole(path, now, reading)
  const list = getNode(document, at)
  const index = list ? itemsOf(list).findIndex((item) => sameValue(valueOf(document, item), fromJson(value))) : -1
  if (!present) return index < 0 ? now : applyEdits(now, removeEntry(document, [...at, String(index)]))
  if (index >= 0) return now
  if (list?.type === 'list') return applyEdits(now, addEntry(document, at, null, fromJson(value)))
  if (list && !isNothing(list)) throw new OperationError('cannot-hold', `${formatPointer(at) || 'the whole'} of ${path} is no list`)
  if (at.length === 0) throw new OperationError('cannot-hold', `${path} holds no list`)
  return resolveEntry({ kind: 'entry', path, at, value: [value], present: true }, now, reading)
}

const itemsOf = (node: Node): readonly Node[] => (node.type === 'list' ? node.entries.map((entry) => entry.value) : [])

/** An empty place, or an empty section, which a list can take. */
const isNothing = (node: Node): boolean =>
  (node.type === 'scalar' && node.kind === 'null') || (node.type === 'map' && node.entries.length === 0)
