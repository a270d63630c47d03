import type { Edit } from '../text/edits'
import { eolOf, lineEnd, lineStart, skipBreak } from '../text/lines'
import { isContainer, type Comment, type Container, type Document, type Entry } from '../tree/nodes'
import { formatPointer, getNode, locate } from '../tree/pointer'
import { OperationError } from './error'
import { spliceEntries, startsLine } from './splice'
import { formatById, writerOf } from './registry'

/** A setting that stands in a comment, switched off. */
export interface OffSetting {
  readonly key: string
  /** The comment's lines, from the first marker to the end of the last. */
  readonly from: number
  readonly to: number
  /** The setting's lines without markers and outer indentation. */
  readonly lines: readonly string[]
}

/** The settings of a section that are commented out in it, as `# name: value`. */
export function commentedOut(document: Document, container: Container): OffSetting[] {
  const { text } = document
  const style = formatById(document.format).comments
  if (!style?.off) return []
  const mark = style.off
  const comments = commentsOf(container).filter(
    (comment) => startsLine(text, comment.from) && mark.test(text.slice(comment.from, comment.to)),
  )
  const bare = (comment: Comment): string => text.slice(comment.from, comment.to).replace(mark, '')
  const found: OffSetting[] = []
  for (let i = 0; i < comments.length; i++) {
    const first = comments[i]!
    const line = bare(first)
    const key = style.settingIn(line)
    if (key === null) continue
    const lines = [line]
    // a name with nothing behind it goes on in the lines below that are indented more
    let last = first
    while (
      /[:={]\s*$/.test(lines[0]!) &&
      i + 1 < comments.length &&
      isNextLine(text, last, comments[i + 1]!) &&
      /^(\s+\S|- |\})/.test(bare(comments[i + 1]!))
    ) {
      last = comments[++i]!
      lines.push(bare(last))
    }
    found.push({ key, from: first.from, to: last.to, lines })
  }
  return found
}

function commentsOf(container: Container): Comment[] {
  const own = [...container.entries.flatMap((entry) => entry.lead), ...container.tail]
  // comments below a nested block may belong to it by their column, and to this section by their meaning
  const below = container.entries.flatMap((entry) => (isContainer(entry.value) && !entry.value.flow ? entry.value.tail : []))
  return [...own, ...below].sort((a, b) => a.from - b.from)
}

function isNextLine(text: string, above: Comment, below: Comment): boolean {
  return skipBreak(text, lineEnd(text, above.to)) === lineStart(text, below.from)
}

/** Edits that switch a commented-out setting on, with the value it has in its comment. */
export function turnOn(document: Document, parentKeys: readonly string[], key: string): Edit[] {
  const container = getNode(document, parentKeys)
  const off = container && isContainer(container) ? commentedOut(document, container).find((item) => item.key === key) : undefined
  if (!container || !isContainer(container) || !off)
    throw new OperationError('no-such-setting', `no comment holds ${formatPointer([...parentKeys, key])}`)
  if (container.entries.some((entry) => entry.key === key))
    throw new OperationError('key-exists', `${formatPointer([...parentKeys, key])} is there already`)
  return turnOnAs(document, container, locate(document, parentKeys)?.entry ?? null, off, off.lines)
}

/** The same with other lines in the place of those of the comment. */
export function turnOnAs(document: Document, container: Container, owner: Entry | null, off: OffSetting, lines: readonly string[]): Edit[] {
  const { text } = document
  const eol = eolOf(text)
  const indent = text.slice(lineStart(text, off.from), off.from)
  const inBrackets = container.flow && off.from > container.from && off.to < container.to
  if (!inBrackets)
    return [{ from: off.from, to: off.to, insert: lines.map((line, i) => (i === 0 || line === '' ? line : indent + line)).join(eol) }]
  const body = lines.map((line, i) => (i === lines.length - 1 ? line.replace(/[,;]\s*$/, '') : line))
  const after = container.entries.filter((entry) => entry.from < off.from).length - 1
  const gone: Edit = { from: lineStart(text, off.from), to: skipBreak(text, lineEnd(text, off.to)), insert: '' }
  const change = writerOf(document.format).splice ?? spliceEntries
  return [gone, ...change(document, container, owner, new Set(), [{ after, entry: { lead: [], body, trail: '', blankBefore: false } }])]
}

/** Edits that switch a setting off: its lines become comments, its own comments stay as they are. */
export function turnOff(document: Document, keys: readonly string[]): Edit[] {
  const found = locate(document, keys)
  if (!found) throw new OperationError('no-such-setting', `there is no setting ${formatPointer(keys)}`)
  const { entry, parent, index } = found
  const { text } = document
  const to = Math.max(entry.to, entry.comma + 1)
  const alone = startsLine(text, entry.from) && (entry.trail !== null || /^[ \t;]*$/.test(text.slice(to, lineEnd(text, to))))
  const style = formatById(document.format).comments
  if (!alone || !style)
    throw new OperationError('cannot-hold', `${formatPointer(keys)} shares its line with others; put it on a line of its own first`)
  const edits = style.switchOff(document, entry, Math.max(to, entry.trail?.to ?? 0))
  const previous = parent.entries[index - 1]
  // what was the last value has no comma behind the one before it any more
  if (!document.traits.trailingComma && index === parent.entries.length - 1 && entry.comma < 0 && previous && previous.comma >= 0)
    edits.unshift({ from: previous.comma, to: previous.comma + 1, insert: '' })
  return edits
}
