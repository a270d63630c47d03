import { parsePointer, plainLabel, type Decision } from '@pasticcio/core'
import type { UpdatePlan } from './types'

export interface PlanRow {
  readonly path: string
  readonly file: string
  readonly decision: Decision
  readonly label: string
  /** Still to be decided: it holds the update. */
  readonly open: boolean
  /** Kept as yours, and told; it holds nothing. */
  readonly told: boolean
  /** Needed a decision, which was made. */
  readonly decided: boolean
}

export interface PlanGroup {
  readonly id: string
  readonly title: string
  readonly aside: string
  readonly rows: readonly PlanRow[]
  readonly folded: boolean
}

/** The plan's decisions in groups, those that wait for somebody first. */
export function groupPlan(plan: UpdatePlan): PlanGroup[] {
  const rows = plan.files.flatMap((file) =>
    file.decisions.map((decision): PlanRow => {
      // people know a setting by the name it had
      const keys = parsePointer(decision.from ?? decision.path) ?? []
      return {
        path: file.path,
        file: file.path.split('/').pop()!,
        decision,
        label: labelOf(keys, decision),
        open: decision.weight === 'decide',
        told: decision.weight === 'look',
        decided: !decision.attention && decision.chosen !== undefined,
      }
    }),
  )
  const waits = rows.filter((row) => row.open || row.decided)
  const told = rows.filter((row) => row.told)
  const rest = rows.filter((row) => !row.open && !row.told && !row.decided)
  const of = (...outcomes: string[]): PlanRow[] => rest.filter((row) => outcomes.includes(row.decision.outcome))
  return [
    { id: 'decide', title: 'Needs your decision', aside: '', rows: waits, folded: false },
    { id: 'told', title: 'Worth a look', aside: 'decided as shown; nothing waits for you', rows: told, folded: false },
    {
      id: 'kept',
      title: 'Kept as yours',
      aside: 'the update leaves these alone',
      rows: of(
        'kept-mine',
        'kept-addition',
        'same-change',
        'stays-removed',
        'moved',
        'default-moved',
        'scale-changed',
        'kind-changed',
        'kept-aside',
      ),
      folded: false,
    },
    { id: 'new', title: 'New settings', aside: 'taken as the update ships them', rows: of('added-by-update', 'offered'), folded: false },
    {
      id: 'followed',
      title: 'Follows the update',
      aside: 'you had left these as shipped',
      rows: of('took-update', 'dropped', 'stamp'),
      folded: true,
    },
  ].filter((group) => group.rows.length > 0)
}

/** The name in plain words; one that says little alone (`to`, `price`) together with what it is part of. */
function labelOf(keys: readonly string[], decision: Decision): string {
  const last = keys.at(-1) ?? ''
  const above = keys.at(-2)
  if (/^\d+$/.test(last)) return `${plainLabel(above ?? '')} ${Number(last) + 1}`
  const section = [decision.mine, decision.update, decision.factory].some(
    (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
  )
  const label = plainLabel(last)
  return above !== undefined && !section && last.length <= 7 && !label.includes(' ')
    ? `${plainLabel(above)}: ${label.toLowerCase()}`
    : label
}

/** Outcomes that nobody should wave through with others: each needs a look of its own. */
export const NEEDS_EYES: readonly string[] = ['scale-changed', 'kind-changed', 'kept-aside']

/** Names a row among all files of a plan. */
export function rowId(row: PlanRow): string {
  return `${row.path}#${row.decision.id}`
}

/** The option that stands unless somebody chooses otherwise. */
export function standingChoice({ decision, open }: PlanRow): string {
  if (decision.chosen) return decision.chosen
  const options = decision.options ?? []
  // the same amount in the new unit is nearly always what is meant, so it is what Enter takes
  if (open && options.some((option) => option.id === 'converted')) return 'converted'
  const same = options.find((option) => JSON.stringify(option.value) === JSON.stringify(decision.result))
  return same?.id ?? options[0]?.id ?? ''
}

/** A reason as a sentence. */
export function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** A value on one line, sections by their size. */
export function brief(value: unknown): string {
  if (value === undefined) return '–'
  if (value === null || value === '') return 'empty'
  if (Array.isArray(value))
    return value.every((item) => typeof item !== 'object') ? value.join(', ') || 'empty list' : `${value.length} entries`
  if (typeof value === 'object') return `${Object.keys(value).length} lines`
  return String(value)
}

const CHOICE_WORDS: Readonly<Record<string, readonly [string, string]>> = {
  mine: ['Keep yours', 'Your value goes into the new file.'],
  converted: ['Yours, converted', 'The same amount in the new unit.'],
  update: ['Take what the update ships', 'Your value is let go; History still has it.'],
  factory: ['Do as the old version did', 'The old default goes into the new file.'],
  keep: ['Keep it', 'It goes into the new file as you have it.'],
  drop: ['Let it go', 'It is not in the new file; History still has it.'],
}

/** What a choice is called and what it means. */
export function choiceWords(id: string): readonly [string, string] {
  return CHOICE_WORDS[id] ?? [id, '']
}
