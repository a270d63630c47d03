import Papa from 'papaparse'
import type { Range, Shown } from '~/utils/ledger-range'

const headOf = ({ key }: { readonly key: string }): string => key || 'value'

/** Rows with their ids, and with the file or section of each where there are several, below a line of heads. */
function linesOf({ rows, columns }: Shown, hasPlaces: boolean): string[][] {
  const where = (place: string): string[] => (hasPlaces ? [place] : [])
  return [
    ['id', ...where('file'), ...columns.map(headOf)],
    ...rows.map((row) => [row.id, ...where(row.place), ...columns.map(({ at }) => row.cells[at]?.text ?? '')]),
  ]
}

/** Cells as a spreadsheet takes them: tab-separated below a line of heads (RFC 4180 quotes); of one cell its text alone. */
export function copiedText(shown: Shown, { top, bottom, left, right }: Range, hasPlaces: boolean): string {
  const part = { rows: shown.rows.slice(top, bottom + 1), columns: shown.columns.slice(left, right + 1) }
  const lines = linesOf(part, hasPlaces)
  if (top === bottom && left === right) return lines[1]?.at(-1) ?? ''
  return Papa.unparse(lines, { delimiter: '\t', newline: '\n' })
}

/** All rows that are shown as a CSV file; defaults are no rows of their own. */
export const csvOf = (shown: Shown, hasPlaces: boolean): string =>
  Papa.unparse(linesOf({ ...shown, rows: shown.rows.filter((row) => !row.isDefault) }, hasPlaces), { newline: '\n' }) + '\n'

/** Rows of a file or of what was pasted. @param delimiter found out without */
export function rowsOf(text: string, delimiter?: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy', ...(delimiter ? { delimiter } : {}) })
  return data
}

/** Gives a text to the browser as a file to be kept. */
export function saveFile(text: string, name: string, type: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
