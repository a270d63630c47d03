import { applyEdits, trimEdit, type Edit } from '../text/edits'
import { eolOf, lineEnd, lineIndent, lineStart } from '../text/lines'
import {
  isContainer,
  isNameless,
  type Container,
  type Document,
  type Entry,
  type ListNode,
  type MapNode,
  type Node,
  type ScalarNode,
  type ScalarStyle,
} from '../tree/nodes'
import { formatPointer, getNode, locate, type Located } from '../tree/pointer'
import { matchSequences } from '../tree/sequence'
import { CodeText, NumberText, printValue, valueOf, type Value } from '../tree/values'
import { convertedValue } from './convert'
import { dedent } from './dedent'
import { OperationError } from './error'
import { ownEnd, ownStart, spliceEntries, valueStart } from './splice'
import { formatById, parseLike, writerOf } from './registry'
import { ANY_LIST, indentStep, type Insertion, type NewEntry, type ScalarValue } from './writer'

function requireLocated(document: Document, keys: readonly string[]): Located {
  const found = locate(document, keys)
  if (!found) throw new OperationError('no-such-setting', `there is no setting ${formatPointer(keys) || '(the whole file)'}`)
  if (found.parent.type === 'map' && found.parent.entries.filter((entry) => entry.key === found.entry.key).length > 1)
    throw new OperationError('duplicate-key', `${formatPointer(keys)} stands there twice; remove one of the two first`)
  return found
}

function requireContainer(document: Document, keys: readonly string[]): Container {
  const node = getNode(document, keys)
  if (!node || !isContainer(node))
    throw new OperationError(node ? 'not-a-section' : 'no-such-setting', `${formatPointer(keys) || 'the file'} is not a section or list`)
  return node
}

/**
 * Edits that give a setting a value. Setting what is there already is no edit.
 * @param style how a text shall be quoted where that can be chosen; as it is now without it. What is typed letter by letter
 *   needs quotes on the way (`https:`) that it does not need in the end.
 */
export function setValue(document: Document, keys: readonly string[], value: Value, style?: ScalarStyle): Edit[] {
  const { entry, parent } = requireLocated(document, keys)
  return replaceValue(document, parent, entry, value, style)
}

/** Edits that replace the value of an entry, keeping its comments, its quotes and its place. */
export function replaceValue(document: Document, parent: Container, entry: Entry, value: Value, style?: ScalarStyle): Edit[] {
  const node = entry.value
  if (sameValue(valueOf(document, node), value) || isAmountOf(document, node, value)) return []
  const writer = writerOf(document.format)
  const composite = Array.isArray(value) || value instanceof Map
  const refused =
    node.type === 'scalar' && node.kind === 'code' && !(value instanceof CodeText)
      ? 'is code, which only the source view changes'
      : (writer.refuses?.(parent, value) ?? null)
  if (refused) throw new OperationError('cannot-hold', `${entry.key}: it ${refused}`)
  if (!composite && node.type === 'scalar')
    return replaceScalar(document, parent, entry, style && node.kind === 'text' ? { ...node, style } : node, value as ScalarValue)
  if (
    Array.isArray(value) &&
    node.type === 'list' &&
    !node.documents &&
    !usesAlias(node) &&
    (node.entries.length > 0 || isInlineList(value as readonly Value[]))
  )
    return editList(document, entry, node, value as readonly Value[])
  if (value instanceof Map && node.type === 'map' && node.entries.length > 0 && value.size > 0 && !usesAlias(node))
    return editMap(document, entry, node, value as ReadonlyMap<string, Value>)
  const replaced = writer.replace?.(document, parent, entry, value)
  if (replaced) return replaced
  if (writer.replaceWith)
    return writer.replaceWith(document, parent, entry, writer.entryLines(document, parent, parent.type === 'map' ? entry.key : null, value))
  if (writer.portable)
    return replaceSourceLines(
      document,
      node,
      composite
        ? writer.entryLines(document, ANY_LIST, null, value)
        : [writer.scalar({ document, container: parent, entry, old: null }, value as ScalarValue)],
    )
  if (!composite)
    return replaceByText(
      document,
      entry,
      writerOf(document.format).scalar({ document, container: parent, entry, old: null }, value as ScalarValue),
    )
  return replaceByLines(
    document,
    parent,
    entry,
    writerOf(document.format).entryLines(document, parent, parent.type === 'map' ? entry.key : null, value),
  )
}

/** Puts a value's source, given as lines, in the place of another, indented like the line that stands on. */
export function replaceSourceLines(document: Document, node: Node, lines: readonly string[]): Edit[] {
  const { text } = document
  const indent = lineIndent(text, node.outer)
  return trimmed(text, {
    from: node.outer,
    to: node.to,
    insert: lines.map((line, i) => (i === 0 || line === '' ? line : indent + line)).join(eolOf(text)),
  })
}

/** Whether constant arithmetic (`15 * 60`) comes to the number given. */
function isAmountOf(document: Document, node: Node, value: Value): boolean {
  if (node.type !== 'scalar' || node.kind !== 'number' || !(value instanceof NumberText)) return false
  return (
    Number.isNaN(Number(document.text.slice(node.from, node.to))) &&
    !Number.isNaN(Number(value.text)) &&
    Object.is(value.amount, node.value)
  )
}

/** Values short and plain enough to stand inside the brackets of a list that was empty. */
function isInlineList(values: readonly Value[]): boolean {
  return values.every((item) => !Array.isArray(item) && !(item instanceof Map)) && values.map(printValue).join(', ').length < 80
}

/** A list becomes another by as little as must change: items that stay keep their place, comments and style. */
function editList(document: Document, owner: Entry, list: ListNode, values: readonly Value[]): Edit[] {
  const writer = writerOf(document.format)
  if (list.entries.length === 0) return replaceSource(document, list, writer.inline(document, values))
  const old = list.entries.map((entry) => printValue(valueOf(document, entry.value)))
  const edits: Edit[] = []
  const removals = new Set<number>()
  const insertions: { after: number; entry: NewEntry }[] = []
  let fromOld = 0
  let fromNew = 0
  for (const [toOld, toNew] of [...matchSequences(old, values.map(printValue)), [old.length, values.length] as const]) {
    // between two items that stay, old ones give way to new ones in place as long as there are both
    for (; fromOld < toOld && fromNew < toNew; fromOld++, fromNew++)
      edits.push(...replaceValue(document, list, list.entries[fromOld]!, values[fromNew]!))
    for (; fromOld < toOld; fromOld++) removals.add(fromOld)
    for (; fromNew < toNew; fromNew++) insertions.push({ after: toOld - 1, entry: freshEntry(document, list, null, values[fromNew]!) })
    fromOld = toOld + 1
    fromNew = toNew + 1
  }
  return [...edits, ...changeEntries(document, list, owner, removals, insertions)]
}

/** A section becomes another the same way, entry by entry. */
function editMap(document: Document, owner: Entry, map: MapNode, values: ReadonlyMap<string, Value>): Edit[] {
  const there = new Map(map.entries.map((entry, index) => [entry.key, { entry, index }]))
  const edits: Edit[] = []
  const insertions: { after: number; entry: NewEntry }[] = []
  let after = -1
  for (const [key, value] of values) {
    const known = there.get(key)
    if (known) {
      edits.push(...replaceValue(document, map, known.entry, value))
      after = Math.max(after, known.index)
    } else insertions.push({ after, entry: freshEntry(document, map, key, value) })
  }
  const removals = new Set(map.entries.flatMap((entry, index) => (values.has(entry.key) || isNameless(entry) ? [] : [index])))
  return [...edits, ...changeEntries(document, map, owner, removals, insertions)]
}

function replaceScalar(document: Document, parent: Container, entry: Entry, node: ScalarNode, value: ScalarValue): Edit[] {
  const writer = writerOf(document.format)
  const source = writer.scalar({ document, container: parent, entry, old: node }, value)
  return replaceSource(document, node, source)
}

/** Puts source text in the place of a value; a space is added where a value was left out. */
export function replaceSource(document: Document, node: Node, source: string): Edit[] {
  const bare = node.type === 'scalar' && node.style === 'empty'
  const needsSpace = bare && source !== '' && writerOf(document.format).blankBeforeValue && !/\s/.test(document.text[node.from - 1] ?? ' ')
  const edit = trimEdit(document.text, { from: node.from, to: node.to, insert: (needsSpace ? ' ' : '') + source })
  return edit ? [edit] : []
}

/** A section or list gives way to a value on one line. */
function replaceByText(document: Document, entry: Entry, source: string): Edit[] {
  const node = entry.value
  if (isContainer(node) && !node.flow) {
    const behind = valueStart(document, entry)
    if (node.from <= lineEnd(document.text, behind)) return [{ from: node.from, to: node.to, insert: source }]
    return [
      { from: behind, to: behind, insert: ' ' + source },
      { from: lineEnd(document.text, entry.trail?.to ?? behind), to: node.to, insert: '' },
    ]
  }
  return [{ from: node.from, to: node.to, insert: source }]
}

/** A value gives way to the value in `lines`, which are those of a whole entry under the same key. */
export function replaceByLines(document: Document, parent: Container, entry: Entry, lines: readonly string[]): Edit[] {
  const { text } = document
  const eol = eolOf(text)
  const node = entry.value
  if (parent.flow) {
    const indent = lineIndent(text, entry.from)
    const spread = lineStart(text, entry.from) + indent.length === entry.from
    const joined = spread
      ? lines.map((line, i) => (i === 0 || line === '' ? line : indent + line)).join(eol)
      : lines.map((line) => line.trim()).join(' ')
    return trimmed(text, { from: entry.from, to: Math.max(node.to, entry.to), insert: joined })
  }
  const indent = ' '.repeat(Math.max(0, parent.indent))
  const rest = lines.slice(1).map((line) => (line === '' ? '' : indent + line))
  const behind = valueStart(document, entry)
  const headRest = lines[0]!.slice(headLength(lines[0]!, parent))
  const below = rest.map((line) => eol + line).join('')
  if (!entry.trail) return trimmed(text, { from: behind, to: Math.max(behind, node.to), insert: headRest + below })
  // the comment of the line stays on the line: behind the new head, before what follows it
  const block = isContainer(node) && !node.flow && node.from > entry.trail.to
  if (block)
    return [
      { from: behind, to: behind, insert: headRest },
      { from: entry.trail.to, to: node.to, insert: below },
    ]
  return [
    {
      from: behind,
      to: Math.max(behind, Math.min(node.to, lineEnd(text, behind), entry.trail.from)),
      insert: headRest + spacing(text, entry, behind),
    },
    { from: entry.trail.to, to: Math.max(entry.trail.to, node.to), insert: below },
  ]
}

/** A comment needs a blank in front of it; where the value ends right before it, one is put back. */
function spacing(text: string, entry: Entry, behind: number): string {
  const cut = Math.max(behind, Math.min(entry.value.to, entry.trail!.from))
  return /\s/.test(text[cut] ?? ' ') ? '' : ' '
}

function headLength(line: string, parent: Container): number {
  if (parent.type === 'list') return 1
  return /^("(?:[^"\\]|\\.)*"|'(?:[^']|'')*'|[^]*?):(?=\s|$)/.exec(line)?.[0].length ?? line.length
}

function trimmed(text: string, edit: Edit): Edit[] {
  const result = trimEdit(text, edit)
  return result ? [result] : []
}

/** Edits that add an entry after the one named `after`; first when it is null, last when it is left out. */
export function addEntry(
  document: Document,
  parentKeys: readonly string[],
  key: string | null,
  value: Value,
  after?: string | null,
): Edit[] {
  const container = requireContainer(document, parentKeys)
  if (container.type === 'map' && key === null) throw new OperationError('cannot-hold', 'an entry of a section needs a name')
  if (key !== null && container.type === 'map' && container.entries.some((entry) => entry.key === key))
    throw new OperationError('key-exists', `${formatPointer([...parentKeys, key])} is there already`)
  const landing = landingOf(document, container, locate(document, parentKeys)?.parent ?? null)
  const index =
    after === undefined ? container.entries.length - 1 : after === null ? -1 : container.entries.findIndex((entry) => entry.key === after)
  return insertEntries(document, parentKeys, [
    { after: index, entry: freshEntry(document, landing, container.type === 'map' ? key : null, value) },
  ])
}

/** An entry written from a value. @throws OperationError when the format has no way to write it. */
function freshEntry(document: Document, container: Container, key: string | null, value: Value): NewEntry {
  const writer = writerOf(document.format)
  const refused = writer.refuses?.(container, value) ?? null
  if (refused) throw new OperationError('cannot-hold', `${key ?? 'the value'}: it ${refused}`)
  const alone = writer.standsAlone?.(container, key, value)
  return {
    lead: [],
    body: (alone ? null : onOneLine(document, container, key, value)) ?? writer.entryLines(document, container, key, value),
    trail: '',
    blankBefore: false,
    ...(alone !== undefined ? { standsAlone: alone } : {}),
  }
}

/** A section or list on one line, where all those beside it stand so; null where it is written over several. */
function onOneLine(document: Document, container: Container, key: string | null, value: Value): string[] | null {
  if (!(value instanceof Map || Array.isArray(value))) return null
  const beside = container.entries.map((entry) => entry.value).filter(isContainer)
  const isShort = (node: Container): boolean => node.flow && !/[\r\n]/.test(document.text.slice(node.from, node.to))
  if (beside.length === 0 || !beside.every(isShort)) return null
  const writer = writerOf(document.format)
  const text = writer.inline(document, value)
  if (text.length > LONGEST_LINE || /[\r\n]/.test(text)) return null
  // written as with a number, in whose place it then stands
  const [line, ...others] = writer.entryLines(document, container, key, new NumberText('0'))
  return line?.endsWith('0') && others.length === 0 ? [line.slice(0, -1) + text] : null
}

/** In characters, without what stands before the value. */
const LONGEST_LINE = 100

/** Takes entries out of a section and puts others in, in the way of the format. */
function changeEntries(
  document: Document,
  container: Container,
  owner: Entry | null,
  removals: ReadonlySet<number>,
  insertions: readonly Insertion[],
): Edit[] {
  if (removals.size === 0 && insertions.length === 0) return []
  const own = writerOf(document.format).splice
  return own ? own(document, container, owner, removals, insertions) : spliceEntries(document, container, owner, removals, insertions)
}

/**
 * The section as new entries will find it: empty brackets at the end of a line of a block give way to lines of their
 * own. `around` is what the section itself stands in, null for the root.
 */
export function landingOf(document: Document, container: Container, around: Container | null): Container {
  const opens = container.flow && container.entries.length === 0 && around !== null && !around.flow && !document.traits.brackets
  return opens ? { ...container, flow: false, indent: Math.max(0, around.indent) + indentStep(document) } : container
}

/** Edits that insert prepared entries, whatever the section holds now: entries, nothing, or empty brackets. */
export function insertEntries(
  document: Document,
  parentKeys: readonly string[],
  insertions: readonly { after: number; entry: NewEntry }[],
): Edit[] {
  return insertInto(document, requireContainer(document, parentKeys), locate(document, parentKeys), insertions, new Set())
}

/** The same for a section at hand, `owner` being the entry it is the value of; entries at `removals` go at once. */
export function insertInto(
  document: Document,
  container: Container,
  owner: Pick<Located, 'entry' | 'parent'> | null,
  insertions: readonly { after: number; entry: NewEntry }[],
  removals: ReadonlySet<number>,
): Edit[] {
  if (owner && insertions.length > 0 && landingOf(document, container, owner.parent) !== container) {
    const step = ' '.repeat(indentStep(document))
    const lines = insertions.flatMap(({ entry }) => [...entry.lead, ...entry.body].map((line) => (line === '' ? '' : step + line)))
    return replaceByLines(document, owner.parent, owner.entry, [ownerHead(document, owner), ...lines])
  }
  return changeEntries(document, container, owner?.entry ?? null, removals, insertions)
}

function ownerHead(document: Document, owner: Pick<Located, 'entry' | 'parent'>): string {
  return owner.parent.type === 'list' ? '-' : document.text.slice(owner.entry.keyFrom, owner.entry.keyTo) + ':'
}

/** Edits that take an entry away with its comments. */
export function removeEntry(document: Document, keys: readonly string[]): Edit[] {
  const { parent, index } = requireLocated(document, keys)
  const owner = locate(document, keys.slice(0, -1))
  return changeEntries(document, parent, owner?.entry ?? null, new Set([index]), [])
}

/** Edits that give an entry another name. */
export function renameEntry(document: Document, keys: readonly string[], name: string): Edit[] {
  const { entry, parent } = requireLocated(document, keys)
  if (parent.type === 'list') throw new OperationError('cannot-hold', 'an entry of a list has no name')
  if (entry.key === name) return []
  if (parent.entries.some((other) => other.key === name)) throw new OperationError('key-exists', `${name} is there already`)
  const own = writerOf(document.format).rename
  if (own) return own(document, parent, entry, name)
  return trimmed(document.text, {
    from: entry.keyFrom,
    to: entry.keyTo,
    insert: writerOf(document.format).key(document, parent, name, entry),
  })
}

/** Edits that put a copy of an entry right after it, under another name (in a list: the same), with its comments. */
export function duplicateEntry(document: Document, keys: readonly string[], name: string | null): Edit[] {
  const { entry, parent, index } = requireLocated(document, keys)
  if (parent.type === 'map' && (name === null || parent.entries.some((other) => other.key === name)))
    throw new OperationError('key-exists', name === null ? 'the copy needs a name' : `${name} is there already`)
  const copied = copyEntry(document, entry, parent, document, parent, parent.type === 'map' ? name : null)
  return insertEntries(document, keys.slice(0, -1), [{ after: index, entry: { ...copied, blankBefore: blankAbove(document, entry) } }])
}

/**
 * Edits that move an entry with its comments: into the section `parentKeys`, after the entry named `after`; first when
 * that is null, last when it is left out.
 */
export function moveEntry(document: Document, keys: readonly string[], parentKeys: readonly string[], after?: string | null): Edit[] {
  const { entry, parent, index } = requireLocated(document, keys)
  const target = requireContainer(document, parentKeys)
  if (formatPointer(parentKeys).startsWith(formatPointer(keys)))
    throw new OperationError('cannot-hold', `${formatPointer(keys)} cannot move into itself`)
  if (target !== parent && target.type === 'map' && target.entries.some((other) => other.key === entry.key))
    throw new OperationError('key-exists', `${formatPointer([...parentKeys, entry.key])} is there already`)
  if (target.type === 'map' && parent.type === 'list')
    throw new OperationError('cannot-hold', 'an item of a list has no name, which it would need in a section')
  const place =
    after === undefined ? target.entries.length - 1 : after === null ? -1 : target.entries.findIndex((other) => other.key === after)
  if (target === parent && (place === index || place === index - 1)) return []
  const owner = locate(document, parentKeys)
  const landing = landingOf(document, target, owner?.parent ?? null)
  const moved: Insertion = {
    after: place,
    entry: {
      ...copyEntry(document, entry, parent, document, landing, null),
      blankBefore: blankAbove(document, entry) && target.entries.length > 0,
    },
  }
  if (target === parent) return insertInto(document, target, owner, [moved], new Set([index]))
  return [
    ...insertInto(document, target, owner, [moved], new Set()),
    ...changeEntries(document, parent, locate(document, keys.slice(0, -1))?.entry ?? null, new Set([index]), []),
  ]
}

/**
 * Edits that put the entries of a section or list in another order, each with its comments; `order` has the old
 * positions in their new order. Blank lines and commas stay where they are.
 */
export function reorderEntries(document: Document, parentKeys: readonly string[], order: readonly number[]): Edit[] {
  const container = requireContainer(document, parentKeys)
  const { entries } = container
  if (order.length !== entries.length || new Set(order).size !== entries.length || order.some((at) => !entries[at]))
    throw new OperationError('cannot-hold', 'an order names every entry once')
  if (!document.traits.reorderable || entries.some((entry) => entry.names || (container.flow && entry.trail)))
    throw new OperationError('cannot-hold', 'these entries cannot change places')
  const piece = (entry: Entry): { from: number; to: number } => ({ from: ownStart(entry), to: container.flow ? entry.to : ownEnd(entry) })
  return order.flatMap((at, i) => {
    const from = piece(entries[at]!)
    const to = piece(entries[i]!)
    return at === i ? [] : trimmed(document.text, { ...to, insert: document.text.slice(from.from, from.to) })
  })
}

/** Whether an entry is set off from what precedes it by a blank line. */
export function blankAbove(document: Document, entry: Entry): boolean {
  const { text } = document
  const start = lineStart(text, ownStart(entry))
  if (start === 0 || text.slice(start, ownStart(entry)).trim() !== '') return false
  const before = text[start - 2] === '\r' && text[start - 1] === '\n' ? start - 2 : start - 1
  return lineStart(text, before) === before && before > 0
}

/**
 * An entry of one document made ready to stand in another: its own lines where both write alike, else written anew
 * from its value. `name` overrides its key; null keeps it.
 */
export function copyEntry(
  source: Document,
  entry: Entry,
  from: Container,
  target: Document,
  to: Container,
  name: string | null,
  comments = true,
): NewEntry {
  const writer = writerOf(target.format)
  const sameStyle = source.format === target.format && from.flow === to.flow && from.type === to.type
  const { text } = source
  const owned = comments ? entry.lead.filter((comment) => comment.attached) : []
  const lead = owned.flatMap((comment) => remark(text.slice(comment.from, comment.to), source, target))
  const trail = comments && entry.trail ? remark(text.slice(entry.trail.from, entry.trail.to), source, target).join(' ') : ''
  const key = to.type === 'map' ? (name ?? entry.key) : null
  if (writer.copy && source.format === target.format)
    return { lead, trail, blankBefore: false, ...writer.copy(source, entry, from, target, to, name) }
  if (!sameStyle || usesAlias(entry.value))
    return { ...freshEntry(target, to, key, convertedValue(source, entry.value, target, null)), lead, trail }
  const block = isContainer(entry.value) && !entry.value.flow
  const body = dedent(text.slice(entry.from, block ? ownEnd(entry) : entry.to), entry.from - lineStart(text, entry.from))
  if (block && entry.trail) {
    // the comment behind the key of a section is inside the copied text already
    return { lead, body: renamed(target, to, body, entry, name), trail: '', blankBefore: false }
  }
  return { lead, body: renamed(target, to, body, entry, name), trail, blankBefore: false }
}

function renamed(target: Document, to: Container, body: readonly string[], entry: Entry, name: string | null): string[] {
  if (name === null || to.type !== 'map' || name === entry.key) return [...body]
  const [first, ...rest] = body
  // a heading or a line of an assignment has something in front of its name
  const at = Math.max(0, entry.keyFrom - entry.from)
  return [
    first!.slice(0, at) + writerOf(target.format).key(target, to, name, null) + first!.slice(at + entry.keyTo - entry.keyFrom),
    ...rest,
  ]
}

function usesAlias(node: Node): boolean {
  if (node.type === 'alias') return true
  return isContainer(node) && node.entries.some((entry) => usesAlias(entry.value))
}

function remark(comment: string, source: Document, target: Document): string[] {
  const lines = comment.split(/\r\n|\r|\n/).map((line) => line.trim())
  if (source.format === target.format) return lines
  const { mark, end = '' } = formatById(target.format).comments ?? { mark: '' }
  return lines.map((line) => mark + line.replace(/^(\/\/|#|!|--\[\[|--|\/\*|;|<!--)/, '').replace(/\s*(\*\/|\]\]|-->)$/, '') + end)
}

/** Whether two values are the same, numbers by their spelling or, where one is a plain number, by amount. */
export function sameValue(a: Value, b: Value): boolean {
  if (a instanceof NumberText || b instanceof NumberText || typeof a === 'number' || typeof b === 'number') {
    if (a instanceof NumberText && b instanceof NumberText) return a.text === b.text
    const left = a instanceof NumberText ? a.amount : a
    const right = b instanceof NumberText ? b.amount : b
    return typeof left === 'number' && typeof right === 'number' && Object.is(left, right)
  }
  if (a instanceof CodeText || b instanceof CodeText) return a instanceof CodeText && b instanceof CodeText && a.text === b.text
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((item, i) => sameValue(item as Value, (b as Value[])[i]!))
  if (a instanceof Map && b instanceof Map) {
    const other = b as ReadonlyMap<string, Value>
    return (
      a.size === other.size &&
      [...(a as ReadonlyMap<string, Value>)].every(([key, item]) => other.has(key) && sameValue(item, other.get(key)!))
    )
  }
  return a === b
}

/**
 * Applies edits and reads the result.
 * @throws OperationError when a text that read well before would not read any more: then the edits were wrong.
 */
export function editDocument(document: Document, edits: readonly Edit[]): Document {
  if (edits.length === 0) return document
  const result = parseLike(document, applyEdits(document.text, edits))
  const errors = (of: Document): number => of.findings.filter((finding) => finding.severity === 'error').length
  if (errors(result) > errors(document))
    throw new OperationError('would-not-read', `the file would not read any more: ${result.findings[0]!.message}`)
  return result
}
