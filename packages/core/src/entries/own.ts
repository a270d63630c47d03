import { renameEntry, setValue } from '../formats/operations'
import { OperationError } from '../formats/error'
import { parseLike } from '../formats/registry'
import type { RuleBook } from '../rules/book'
import { applyEdits, type Edit } from '../text/edits'
import { isContainer, type Comment, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer, locate } from '../tree/pointer'
import { withName } from './names'

/** A place in an entry that repeated its name, and has the new one now. */
export interface Renamed {
  /** JSON Pointer within the file; of a comment, that of the setting it is about. */
  readonly pointer: string
  readonly what: 'value' | 'name' | 'comment'
  readonly before: string
  readonly after: string
}

/** What names something else than the entry, also where it is spelt alike: an item, a choice of the author's, a file. */
const OF_OTHERS = new Set(['id', 'choice', 'file', 'picture', 'secret', 'code', 'link', 'host', 'colour', 'switch'])

/**
 * Puts a new name wherever an entry repeats its old one: in texts, nodes and commands, in names of its own parts, and in
 * what its comments say. What is known to name something else stays.
 * @param keys the entry, under the name it has now
 */
export function rewriteOwn(
  document: Document,
  keys: readonly string[],
  from: string,
  to: string,
  book: RuleBook,
): { readonly text: string; readonly renamed: readonly Renamed[] } {
  const found = locate(document, keys)
  if (!found || from === to) return { text: document.text, renamed: [] }
  const [edits, renamed]: [Edit[], Renamed[]] = [[], []]
  const names: string[][] = []
  const inComments = (comments: readonly (Comment | null)[], at: readonly string[]): void => {
    for (const comment of comments) {
      if (!comment) continue
      const before = document.text.slice(comment.from, comment.to)
      const after = withName(before, from, to)
      if (after === before) continue
      edits.push({ from: comment.from, to: comment.to, insert: after })
      renamed.push({ pointer: formatPointer(at), what: 'comment', before, after })
    }
  }
  const look = (entry: Entry, at: readonly string[]): void => {
    inComments([...entry.lead.filter(({ attached }) => attached || at.length > keys.length), entry.trail], at)
    const { value } = entry
    if (isContainer(value)) {
      for (const item of value.entries) {
        if (value.type === 'map' && item.key === from) names.push([...at, item.key])
        look(item, [...at, item.key])
      }
      inComments(value.tail, at)
      return
    }
    const told = rewritten(value, from, to)
    if (told === null || OF_OTHERS.has(meaningAt(book, at) ?? '')) return
    try {
      edits.push(...setValue(document, at, told.after))
      renamed.push({ pointer: formatPointer(at), what: 'value', ...told })
    } catch (error) {
      // what stands twice, or cannot hold the new name, stays as it is
      if (!(error instanceof OperationError)) throw error
    }
  }
  look(found.entry, keys)
  return { text: withNames(document, applyEdits(document.text, edits), names, to, renamed), renamed }
}

/** What a setting stands for; items of a list are what the list says. */
const meaningAt = (book: RuleBook, keys: readonly string[]): string | undefined =>
  book.find(keys)?.means ?? (/^\d+$/.test(keys.at(-1)!) ? book.find(keys.slice(0, -1))?.means : undefined)

function rewritten(value: Node, from: string, to: string): { readonly before: string; readonly after: string } | null {
  if (value.type !== 'scalar' || value.kind !== 'text') return null
  const before = String(value.value)
  const after = withName(before, from, to)
  return after === before ? null : { before, after }
}

/** Parts of the entry that bear its name, the inner ones first, so that the way to the others stays. */
function withNames(document: Document, text: string, names: readonly (readonly string[])[], to: string, renamed: Renamed[]): string {
  let now = text
  for (const keys of [...names].reverse()) {
    const read = parseLike(document, now)
    if (!locate(read, keys) || locate(read, [...keys.slice(0, -1), to])) continue
    now = applyEdits(now, renameEntry(read, keys, to))
    renamed.push({ pointer: formatPointer([...keys.slice(0, -1), to]), what: 'name', before: keys.at(-1)!, after: to })
  }
  return now
}
