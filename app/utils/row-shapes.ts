import type { RowSketch } from './sheet-sketch'

/*
 * How high a row of the sheet is, in CSS pixels, before it is drawn: enough to place thousands of rows of which a few
 * are on the screen. Rows that are drawn are measured.
 */
const LINE = 24
const SECTION = 36
const ENTRY = 28
const TEXT_LINE = 20

export const SHAPE = { line: 0, section: 1, entry: 2, /** and the number of lines */ block: 10 } as const

/** The shape of a row as a small number. */
export function shapeOf(row: RowSketch): number {
  if (row.type === 'section') return SHAPE.section
  if (row.type === 'entry') return SHAPE.entry
  const { value } = row.entry
  if (row.type !== 'setting') return SHAPE.line
  if (value.type === 'scalar' && value.kind === 'text' && String(value.value).includes('\n'))
    return SHAPE.block + Math.min(6, String(value.value).split('\n').length)
  if (value.type !== 'list') return SHAPE.line
  const isLong = value.entries.some((item) => item.value.type === 'scalar' && String(item.value.value).includes(' '))
  return isLong ? SHAPE.block + Math.min(6, value.entries.length) : SHAPE.line
}

export function heightOf(shape: number): number {
  if (shape === SHAPE.section) return SECTION
  if (shape === SHAPE.entry) return ENTRY
  return shape > SHAPE.block ? (shape - SHAPE.block) * TEXT_LINE + 8 : LINE
}
