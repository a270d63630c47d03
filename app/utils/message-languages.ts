import type { ListedMessage } from './message-groups'
import type { LanguageShown } from './types'

/** One text in all languages of its file; null where a language does not have it. */
export interface LanguageRow {
  readonly base: string
  readonly pointer: string
  readonly cells: readonly (ListedMessage | null)[]
}

/** Texts of files that are called after languages, side by side. @param languages the columns */
export function languageRows(
  all: readonly ListedMessage[],
  files: readonly LanguageShown[],
  languages: readonly string[],
): readonly LanguageRow[] {
  const baseOf = new Map(files.map(({ file, base }) => [file, base]))
  const rows = new Map<string, { base: string; pointer: string; cells: (ListedMessage | null)[] }>()
  for (const message of all) {
    const base = baseOf.get(message.file)
    const at = languages.indexOf(message.language ?? '')
    if (base === undefined || at < 0) continue
    const key = `${base} ${message.pointer}`
    const row = rows.get(key) ?? { base, pointer: message.pointer, cells: languages.map(() => null) }
    row.cells[at] = message
    rows.set(key, row)
  }
  return [...rows.values()]
}
