import type { TextRun } from '../values/markup'

/** How much a player sees at once. */
export interface PageSize {
  /** Letters in a row; words that do not fit go to the next. */
  readonly letters: number
  /** Rows on a page. */
  readonly rows: number
}

type Row = readonly TextRun[]

/** Rows that are broken as a player sees them, in pages. A form feed begins a page. @param lines as they are written */
export function pagesOf(lines: readonly Row[], { letters, rows }: PageSize): readonly (readonly Row[])[] {
  const pages: Row[][] = [[]]
  for (const line of lines) {
    const [first, ...more] = atFormFeeds(line)
    for (const [i, part] of [first!, ...more].entries()) {
      if (i > 0) pages.push([])
      for (const row of wrapped(part, letters)) {
        if (pages.at(-1)!.length === rows) pages.push([])
        pages.at(-1)!.push(row)
      }
    }
  }
  return pages
}

function atFormFeeds(line: Row): Row[] {
  const parts: TextRun[][] = [[]]
  for (const run of line)
    run.text.split('\f').forEach((text, i) => {
      if (i > 0) parts.push([])
      if (text !== '') parts.at(-1)!.push({ ...run, text })
    })
  return parts
}

/** One line as rows of at most so many letters, broken at blanks where there are some; words longer than a row are cut. */
function wrapped(line: Row, most: number): Row[] {
  const letters = line.flatMap((run, at) => [...run.text].map((letter) => ({ letter, at })))
  const rows: Row[] = []
  let from = 0
  while (letters.length - from > most) {
    // a blank right behind the last letter of a row ends it, too
    const blank = letters.slice(from, from + most + 1).findLastIndex(({ letter }) => letter === ' ')
    const to = blank > 0 ? from + blank : from + most
    rows.push(runsOf(line, letters.slice(from, to)))
    from = letters[to]?.letter === ' ' ? to + 1 : to
  }
  return [...rows, runsOf(line, letters.slice(from))]
}

function runsOf(line: Row, letters: readonly { readonly letter: string; readonly at: number }[]): Row {
  const runs: { at: number; text: string }[] = []
  for (const { letter, at } of letters) {
    const last = runs.at(-1)
    if (last?.at === at) last.text += letter
    else runs.push({ at, text: letter })
  }
  return runs.map(({ at, text }) => ({ ...line[at]!, text }))
}
