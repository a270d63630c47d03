import { LENIENT, LineIndex, formatOf, locate, parse, parsePointer } from '@pasticcio/core'
import type { PlanRow } from './plan-groups'
import type { UpdatePlan } from './types'

export interface Excerpt {
  readonly total: number
  readonly lines: readonly { readonly no: number; readonly text: string; readonly here: boolean }[]
}

/** Lines of the new file around the setting of a row; null where it has none. */
export function excerptOf(plan: UpdatePlan, row: PlanRow): Excerpt | null {
  const file = plan.files.find((item) => item.path === row.path)
  const format = file && formatOf(file.path)
  if (!file || !format || file.result === null) return null
  const entry = locate(parse(file.result, format, LENIENT), parsePointer(row.decision.path) ?? [])?.entry
  if (!entry) return null
  const index = new LineIndex(file.result)
  const from = Math.max(1, index.position(entry.lead.find((comment) => comment.attached)?.from ?? entry.from).line - 1)
  const here = index.position(entry.from).line
  const lines = file.result.split(/\r?\n/)
  return {
    total: lines.length,
    lines: lines.slice(from - 1, Math.min(here + 3, from + 8)).map((text, i) => ({ no: from + i, text, here: from + i === here })),
  }
}
