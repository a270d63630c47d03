import { nameWords } from '../carry/likeness'
import { parsePointer } from '../tree/pointer'
import { defineCheck, type CheckResult } from './check'
import type { ColumnFact, FileFacts, NamesFact } from './facts'
import { groupedBy } from './grouped'
import { fixTo, lettersOf } from './letters'
import { nearest } from './near'

/** Settings that name an entry of the same plugin, as a category or a place to begin, which is not there. */
export const entriesAreThere = defineCheck({
  id: 'entries-are-there',
  scope: 'server',
  codes: ['unknown-entry'],
  *run(_workspace, facts) {
    for (const files of groupedBy(facts.values(), ({ plugin, path }) => plugin ?? path).values()) yield* ofPlugin(files)
  },
})

type Placed = CheckResult & { readonly file: string }

function* ofPlugin(files: readonly FileFacts[]): Iterable<Placed> {
  const sections = files.flatMap(({ names, path }) => names.map((section) => ({ ...section, path })))
  if (sections.length === 0) return
  const shipped = new Map<string, Set<string>>()
  for (const { columns } of files)
    for (const { pattern, shipped: theirs } of columns) {
      const all = shipped.get(pattern) ?? new Set()
      for (const text of theirs) all.add(text)
      shipped.set(pattern, all)
    }
  for (const { path, columns } of files)
    for (const column of columns) {
      const section = namedBy(column, shipped.get(column.pattern)!, sections)
      if (section) yield* missing(path, column, section)
    }
}

/** The section a column names entries of: the author's own are all in it, and there are several, or both are called alike. */
function namedBy<T extends NamesFact>({ pattern }: ColumnFact, values: ReadonlySet<string>, sections: readonly T[]): T | null {
  if (values.size === 0) return null
  const word = nameWords(parsePointer(pattern)?.at(-1) ?? '').at(-1)
  return (
    sections.find(({ shipped, pointer }) => {
      if (shipped.length < 2 || pattern.startsWith(pointer + '/') || ![...values].every((value) => shipped.includes(value))) return false
      return values.size > 2 || nameWords(parsePointer(pointer)?.at(-1) ?? '').at(-1) === word
    }) ?? null
  )
}

function* missing(file: string, { values }: ColumnFact, { names, pointer }: NamesFact): Iterable<Placed> {
  const where = parsePointer(pointer)?.at(-1) ?? ''
  for (const { text, from, to } of values) {
    if (names.includes(text)) continue
    const near = nearest(text, names)?.id
    yield {
      code: 'unknown-entry',
      severity: 'warning',
      file,
      from,
      to,
      message: `${where} has no ${text}. ${near ? `Did you mean ${near}?` : `Pick one of ${names.slice(0, 8).join(', ')}.`}`,
      cause: `entry ${text}`,
      ...fixTo(lettersOf({ from, to }, text), near),
    }
  }
}
