/*
 * Reading again what an edit touched, and only that. A file is made of units: the entries of blocks with the lines they
 * own (YAML), or the values inside brackets (JSON, Lua tables). The smallest units around the edits are read by
 * themselves and put into the tree; all behind them moves along. What cannot be read alone is read with the whole file.
 */
import { applyEdits, sortEdits, type Edit } from '../text/edits'
import { lineEnd, lineStart, skipBreak } from '../text/lines'
import { isContainer, type Comment, type Container, type Document, type Entry, type Finding, type Node } from '../tree/nodes'
import type { Parts } from './format'
import { formatById, parseLike } from './registry'
import { ownEnd } from './splice'

/** With more units than this, finding the place of each offset among them costs more than reading the whole file. */
const MOST_UNITS = 48

/** What came of reading again: null in `changes` when the whole file was. */
export interface Reread {
  readonly document: Document
  readonly changes: readonly Change[] | null
}

/** A stretch that was read again. */
export interface Change {
  /** In the old text. */
  readonly from: number
  readonly to: number
  /** By how much what follows has moved because of this one. */
  readonly delta: number
  /** The names of the sections around it. */
  readonly path: readonly string[]
  /** What stands there now. */
  readonly entries: readonly Entry[]
}

/** A unit of the old tree: entry `index` of a section, with the stretch of text that is read for it. */
interface Unit {
  readonly from: number
  readonly to: number
  readonly container: Container
  readonly index: number
  readonly path: readonly string[]
  /** Entries around it, outermost first. */
  readonly owners: readonly Entry[]
}

/**
 * Applies edits to a document and reads the result, which shares with the given one what stands in front of the edits.
 * Findings, offsets and comments are as after a full read; the given document stays as it is.
 */
export function reread(document: Document, edits: readonly Edit[]): Reread {
  const { parts } = formatById(document.format)
  const first = parts ? unitsOf(document, parts, sortEdits(edits))?.[0] : undefined
  if (!parts || !first) return { document: parseLike(document, applyEdits(document.text, edits)), changes: null }
  return rereadInPlace({ ...document, root: apartFrom(document.root, parts.scattered ? 0 : first.unit.from) }, edits)
}

/**
 * The same for those who need the given document no more: its tree is taken over, which saves copying what stands
 * behind the edits.
 */
export function rereadInPlace(document: Document, edits: readonly Edit[]): Reread {
  const text = applyEdits(document.text, edits)
  const { parts } = formatById(document.format)
  const fresh = parts ? freshUnits(document, parts, edits, text) : null
  if (!parts || !fresh) return { document: parseLike(document, text), changes: null }
  return {
    document: place(document, parts, text, fresh),
    changes: fresh.map(({ unit, entries, delta }) => ({ from: unit.from, to: unit.to, delta, path: unit.path, entries })),
  }
}

/**
 * Whether what edits touch reads without a finding, looked at by itself: then so does the whole file, as far as it did
 * before. False says nothing: it may be that the file has to be read to know.
 */
export function readsAlone(document: Document, edits: readonly Edit[]): boolean {
  const { parts } = formatById(document.format)
  return parts !== undefined && freshUnits(document, parts, edits, applyEdits(document.text, edits)) !== null
}

interface Fresh {
  readonly unit: Unit
  readonly entries: Entry[]
  readonly delta: number
}

/** The units around edits, read by themselves; null where the whole file has to be read. */
function freshUnits(document: Document, parts: Parts, edits: readonly Edit[], text: string): Fresh[] | null {
  const units = unitsOf(document, parts, sortEdits(edits))
  if (!units || units.length > MOST_UNITS) return null
  let shift = 0
  const fresh: Fresh[] = []
  for (const { unit, delta } of units) {
    if (document.findings.some((finding) => finding.to >= unit.from && finding.from <= unit.to)) return null
    const entries = readUnit(document, parts, unit, text.slice(unit.from + shift, unit.to + shift + delta), unit.from + shift)
    if (!entries || !isFree(unit, entries)) return null
    fresh.push({ unit, entries, delta })
    shift += delta
  }
  return fresh
}

/** A copy of what reaches behind an offset; what ends in front of it is the same in both trees. */
function apartFrom(node: Node, from: number): Node {
  // field by field where there are many of a kind: that takes a fifth of the time of a spread
  if (node.type === 'scalar') {
    const { type, from: start, to, outer, anchor, tag, kind, style, value } = node
    return { type, from: start, to, outer, anchor, tag, kind, style, value }
  }
  if (node.type === 'alias') return { ...node }
  const entries: Entry[] = new Array<Entry>(node.entries.length)
  for (let i = 0; i < entries.length; i++) {
    const entry = node.entries[i]!
    entries[i] = endOf(entry) < from ? entry : apartEntry(entry, from)
  }
  return { ...node, tail: copied(node.tail), entries }
}

function apartEntry(entry: Entry, from: number): Entry {
  const { key, keyFrom, keyTo, from: start, to, comma, names } = entry
  const value = apartFrom(entry.value, from)
  const trail = entry.trail && { ...entry.trail }
  const copy: Entry = { key, keyFrom, keyTo, value, from: start, to, lead: copied(entry.lead), trail, comma }
  if (names) copy.names = names
  return copy
}

function copied(comments: readonly Comment[]): readonly Comment[] {
  return comments.length === 0 ? comments : comments.map((comment) => ({ ...comment }))
}

/** Where an entry ends with everything that belongs to it, comments inside its sections too. */
function endOf(entry: Entry): number {
  return Math.max(ownEnd(entry), entry.value.to)
}

// ---- finding the units --------------------------------------------------------------------------------------------

/** The units around edits in the order of the file, each with the growth of the text by its edits. */
function unitsOf(document: Document, parts: Parts, edits: readonly Edit[]): { unit: Unit; delta: number }[] | null {
  const units: { unit: Unit; delta: number }[] = []
  for (const edit of edits) {
    const last = units[units.length - 1]
    let delta = edit.insert.length - (edit.to - edit.from)
    if (last && edit.from >= last.unit.from && edit.to <= last.unit.to && !(edit.from === last.unit.to && edit.insert !== '')) {
      last.delta += delta
      continue
    }
    const unit = parts.units === 'lines' ? blockUnit(document, edit) : bracketUnit(document, parts, edit)
    if (!unit) return null
    // a unit may take in those before it, but never only a part of one
    while (units.length > 0 && units[units.length - 1]!.unit.from >= unit.from) delta += units.pop()!.delta
    if (units.length > 0 && units[units.length - 1]!.unit.to > unit.from) return null
    units.push({ unit, delta })
  }
  return units
}

/** Where the lines of an entry in a block start, comments first. */
function unitStart(text: string, entry: Entry): number {
  return lineStart(text, entry.lead[0]?.from ?? entry.from)
}

function blockUnit(document: Document, edit: Edit): Unit | null {
  const { text } = document
  let container = document.root
  let found: Unit | null = null
  const path: string[] = []
  const owners: Entry[] = []
  const column =
    edit.from === edit.to && edit.insert !== '' ? /^[ \t]*/.exec(edit.insert.replace(/^(?:[ \t]*(?:\r\n|\r|\n))+/, ''))![0].length : -1
  while (isContainer(container) && !container.flow && !(container.type === 'list' && container.documents) && container.entries.length > 0) {
    const { entries } = container
    // a list that starts behind a dash or a key shares its first line with it
    const first = entries[0]!
    if (text.slice(unitStart(text, first), first.lead[0]?.from ?? first.from).trim() !== '') break
    let index = lastStartingAt(text, entries, edit.from)
    if (index < 0) break
    const start = unitStart(text, entries[index]!)
    // lines put in between two entries go with the one below, unless they are indented like what is inside the one above
    if (edit.from === start && edit.to === start && column > container.indent && index > 0) index--
    const from = unitStart(text, entries[index]!)
    const next = entries[index + 1]
    const to = next
      ? unitStart(text, next)
      : container.tail.length > 0 || container === document.root
        ? -1
        : skipBreak(text, lineEnd(text, ownEnd(entries[index]!)))
    const end = to >= 0 ? to : container.tail.length === 0 ? text.length : -1
    if (end < 0 || edit.to > end || (end < text.length && edit.to === end && edit.from < end)) break
    found = { from, to: end, container, index, path: [...path], owners: [...owners] }
    owners.push(entries[index]!)
    path.push(entries[index]!.key)
    container = entries[index]!.value as Container
  }
  return found
}

/** The last entry whose lines start at or before an offset; -1 where none does. */
function lastStartingAt(text: string, entries: readonly Entry[], offset: number): number {
  let low = 0
  let high = entries.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (unitStart(text, entries[middle]!) <= offset) low = middle
    else high = middle - 1
  }
  return unitStart(text, entries[low]!) <= offset ? low : -1
}

function bracketUnit(document: Document, parts: Parts, edit: Edit): Unit | null {
  let container: Node = document.root
  let found: Unit | null = null
  const path: string[] = []
  const owners: Entry[] = []
  while (isContainer(container)) {
    const { entries }: Container = container
    // assignments of one table may lie apart, so they are looked through one by one
    const index: number = parts.scattered ? entries.findIndex((entry) => holds(entry.value, edit)) : lastValueAt(entries, edit.from)
    const entry: Entry | undefined = entries[index]
    if (!entry || !holds(entry.value, edit)) break
    found = { from: entry.value.outer, to: entry.value.to, container, index, path: [...path], owners: [...owners] }
    owners.push(entry)
    path.push(entry.key)
    container = entry.value
  }
  return found
}

function lastValueAt(entries: readonly Entry[], offset: number): number {
  let low = 0
  let high = entries.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (entries[middle]!.value.outer <= offset) low = middle
    else high = middle - 1
  }
  return low
}

/** Whether an edit lies in a value: inside of its brackets, or anywhere in a single value. */
function holds(node: Node, edit: Edit): boolean {
  return isContainer(node)
    ? edit.from > node.outer && edit.to < node.to
    : edit.from >= node.outer && edit.to <= node.to && node.outer < node.to
}

// ---- reading them -------------------------------------------------------------------------------------------------

function readUnit(document: Document, parts: Parts, unit: Unit, source: string, at: number): Entry[] | null {
  return parts.units === 'lines' ? readBlock(document, parts, unit, source, at) : readValue(document, parts, unit, source, at)
}

function readBlock(document: Document, parts: Parts, unit: Unit, source: string, at: number): Entry[] | null {
  const { container } = unit
  const last = document.text.length === unit.to
  if (parts.reaches?.test(source) || (!last && !/[\r\n]$/.test(source))) return null
  const part = parseLike(document, source)
  const { root } = part
  if (
    part.findings.length > 0 ||
    !isContainer(root) ||
    root.type !== container.type ||
    root.flow ||
    root.entries.length === 0 ||
    root.indent !== container.indent ||
    root.tail.length > 0
  )
    return null
  move(root.entries, at)
  return root.entries
}

function readValue(document: Document, parts: Parts, unit: Unit, source: string, at: number): Entry[] | null {
  const { before } = parts
  const old = unit.container.entries[unit.index]!
  // assignments elsewhere add to this table, whatever it becomes
  if (old.value.type === 'map' && old.value.prefix !== undefined) return null
  const part = parseLike(document, before + source)
  const value = before !== '' ? (part.root as Container).entries[0]?.value : part.root
  if (!value || part.findings.length > 0 || value.outer !== before.length || value.to !== before.length + source.length) return null
  if (isContainer(part.root) && before !== '' && part.root.entries.length !== 1) return null
  if (value.type === 'scalar' && value.kind === 'code') return null
  const entry: Entry = { ...old, value }
  moveNode(value, at - before.length)
  // the rest of the entry is where it was; it moves with all that stands in front of it
  return [entry]
}

/** Whether names of new entries are free in their section. */
function isFree(unit: Unit, entries: readonly Entry[]): boolean {
  if (unit.container.type === 'list') return true
  const old = unit.container.entries[unit.index]!.key
  const names = new Set(entries.map((entry) => entry.key))
  if (names.size === 1 && names.has(old)) return true
  return names.size === entries.length && unit.container.entries.every((entry, i) => i === unit.index || !names.has(entry.key))
}

// ---- putting them into the tree -----------------------------------------------------------------------------------

function place(document: Document, parts: Parts, text: string, fresh: readonly Fresh[]): Document {
  const values = parts.units === 'values'
  const done = new Set<Entry>()
  // from the end, so that positions in lists stay right
  for (let i = fresh.length - 1; i >= 0; i--) {
    const { unit, entries } = fresh[i]!
    const { container } = unit
    if (values) {
      container.entries[unit.index]!.value = entries[0]!.value
      done.add(container.entries[unit.index]!)
      continue
    }
    container.entries.splice(unit.index, 1, ...entries)
    if (container.type === 'list')
      for (let at = unit.index; at < (entries.length === 1 ? unit.index + 1 : container.entries.length); at++)
        container.entries[at]!.key = String(at)
    for (const entry of entries) done.add(entry)
  }
  const ends = fresh.map(({ unit, delta }) => ({ to: unit.to, delta }))
  const from = fresh[0]?.unit.to ?? text.length
  const shift = new Shift(parts, from, ends, done, new Set(fresh.map(({ unit }) => unit.container)))
  shift.node(document.root)
  for (const { unit } of fresh) stretch(unit, document.root)
  const findings = document.findings.map((finding): Finding => ({ ...finding, from: shift.at(finding.from), to: shift.at(finding.to) }))
  return { ...document, text, findings }
}

/** The end of a block is that of its last entry, all the way up. */
function stretch(unit: Unit, root: Node): void {
  if (unit.container.flow || !isContainer(root)) return
  const fit = (container: Container): void => {
    const first = container.entries[0]!
    const last = container.entries[container.entries.length - 1]!
    if (!container.flow) {
      if (container.outer === container.from) container.outer = first.from
      container.from = first.from
      container.to = last.to
    }
  }
  fit(unit.container)
  for (const owner of [...unit.owners].reverse()) {
    if (isContainer(owner.value)) fit(owner.value)
    owner.to = Math.max(owner.keyTo, owner.value.to)
  }
  fit(root)
}

/**
 * Moves everything from an offset on, in the order of the file, which is the order in memory. Entries in `done` have
 * their new places; of values read alone only what is around them moves.
 */
class Shift {
  private readonly values: boolean
  private readonly scattered: boolean
  /** Looking up every section in a set costs more than moving it. */
  private readonly only: Container | null
  private readonly single: number

  constructor(
    parts: Parts,
    private readonly from: number,
    private readonly ends: readonly { readonly to: number; readonly delta: number }[],
    private readonly done: ReadonlySet<Entry>,
    private readonly touched: ReadonlySet<Container>,
  ) {
    this.values = parts.units === 'values'
    this.scattered = parts.scattered
    this.single = ends[0]?.delta ?? 0
    this.only = touched.size === 1 ? [...touched][0]! : null
  }

  at(offset: number): number {
    if (offset < this.from) return offset
    if (this.ends.length === 1) return offset + this.single
    let by = 0
    for (const { to, delta } of this.ends) {
      if (to > offset) break
      by += delta
    }
    return offset + by
  }

  node(node: Node): void {
    node.outer = this.at(node.outer)
    node.from = this.at(node.from)
    node.to = this.at(node.to)
    if (node.type === 'map' || node.type === 'list') this.entries(node)
  }

  private entries(container: Container): void {
    if (container.tail.length > 0) this.spans(container.tail)
    const { entries } = container
    const apart = this.scattered && entries.some((entry) => entry.names !== undefined)
    const mixed = this.only ? container === this.only : this.touched.has(container)
    for (let i = apart || mixed ? 0 : this.firstMoved(entries); i < entries.length; i++) {
      const entry = entries[i]!
      const read = mixed && this.done.has(entry)
      if (read && !this.values) continue
      this.entry(entry)
      if (!read) this.node(entry.value)
    }
  }

  /** The first entry that the stretch from the offset on can be part of: what the next one still precedes stands all in front. */
  private firstMoved(entries: readonly Entry[]): number {
    if (entries.length === 0 || entries[0]!.from >= this.from) return 0
    let low = 0
    let high = entries.length - 1
    while (low < high) {
      const middle = (low + high) >> 1
      if (entries[middle + 1]!.from < this.from) low = middle + 1
      else high = middle
    }
    return low
  }

  private entry(entry: Entry): void {
    if (entry.lead.length > 0) this.spans(entry.lead)
    if (entry.trail) this.spans([entry.trail])
    if (this.scattered && entry.names) entry.names = entry.names.map((span) => ({ from: this.at(span.from), to: this.at(span.to) }))
    entry.keyFrom = this.at(entry.keyFrom)
    entry.keyTo = this.at(entry.keyTo)
    entry.from = this.at(entry.from)
    entry.to = this.at(entry.to)
    if (entry.comma >= 0) entry.comma = this.at(entry.comma)
  }

  private spans(list: readonly { from: number; to: number }[]): void {
    for (const item of list) {
      item.from = this.at(item.from)
      item.to = this.at(item.to)
    }
  }
}

/** Moves freshly read entries to where they stand in the file. */
function move(entries: readonly Entry[], by: number): void {
  for (const entry of entries) {
    entry.keyFrom += by
    entry.keyTo += by
    entry.from += by
    entry.to += by
    if (entry.comma >= 0) entry.comma += by
    for (const comment of [...entry.lead, ...(entry.trail ? [entry.trail] : [])]) {
      comment.from += by
      comment.to += by
    }
    moveNode(entry.value, by)
  }
}

function moveNode(node: Node, by: number): void {
  node.from += by
  node.to += by
  node.outer += by
  if (!isContainer(node)) return
  for (const comment of node.tail) {
    comment.from += by
    comment.to += by
  }
  move(node.entries, by)
}
