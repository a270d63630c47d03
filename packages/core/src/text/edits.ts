/** One replacement in a stated text: `[from, to)` in UTF-16 units is replaced by `insert`. */
export interface Edit {
  readonly from: number
  readonly to: number
  readonly insert: string
  /** A line end taken along with what follows it; left alone when something else is put there. */
  readonly soft?: true
}

/** Sorts by position and keeps the given order of insertions at one place, which is the order they shall have in the text. */
export function sortEdits(edits: readonly Edit[]): Edit[] {
  const soft = edits.some((edit) => edit.soft)
  return (soft ? withoutNeedlessSoft(edits) : edits)
    .map((edit, index) => ({ edit, index }))
    .sort((a, b) => a.edit.from - b.edit.from || a.edit.to - b.edit.to || a.index - b.index)
    .map((item) => item.edit)
}

function withoutNeedlessSoft(edits: readonly Edit[]): readonly Edit[] {
  const filled = new Set(edits.filter((edit) => edit.insert !== '').map((edit) => edit.from))
  return edits.filter((edit) => !edit.soft || !filled.has(edit.to))
}

/**
 * Applies edits, all of which refer to `text` as it stands before any of them.
 * @throws RangeError when an edit lies outside the text or two of them overlap: that is a fault of the caller.
 */
export function applyEdits(text: string, edits: readonly Edit[]): string {
  if (edits.length === 0) return text
  const parts: string[] = []
  let at = 0
  for (const edit of sortEdits(edits)) {
    if (edit.from < at || edit.to < edit.from || edit.to > text.length)
      throw new RangeError(`edit ${edit.from}-${edit.to} overlaps or leaves a text of ${text.length}`)
    parts.push(text.slice(at, edit.from), edit.insert)
    at = edit.to
  }
  parts.push(text.slice(at))
  return parts.join('')
}

/** The edits that take the result of `applyEdits(text, edits)` back to `text`. */
export function invertEdits(text: string, edits: readonly Edit[]): Edit[] {
  let shift = 0
  return sortEdits(edits).map((edit) => {
    const from = edit.from + shift
    shift += edit.insert.length - (edit.to - edit.from)
    return { from, to: from + edit.insert.length, insert: text.slice(edit.from, edit.to) }
  })
}

/** Leaves out what both ends have in common, and edits that change nothing. */
export function trimEdit(text: string, edit: Edit): Edit | null {
  const old = text.slice(edit.from, edit.to)
  if (old === edit.insert) return null
  let start = 0
  const most = Math.min(old.length, edit.insert.length)
  while (start < most && old[start] === edit.insert[start]) start++
  let end = 0
  while (end < most - start && old[old.length - 1 - end] === edit.insert[edit.insert.length - 1 - end]) end++
  return { from: edit.from + start, to: edit.to - end, insert: edit.insert.slice(start, edit.insert.length - end) }
}
