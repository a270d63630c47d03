import { CAUSES, groupedBy, type FindingCode, type Severity } from '@pasticcio/core'

export type GroupBy = 'cause' | 'plugin' | 'newest'

/** What a finding needs to be put with its like. */
export interface Groupable {
  readonly code: FindingCode
  readonly severity: Severity
  readonly cause?: string
  readonly plugin: string | null
  readonly file: string
  readonly since: string
  readonly fix?: unknown
  readonly aside: unknown
}

export interface FindingGroup<F extends Groupable> {
  readonly id: string
  readonly title: string
  /** What all of it is about, in a few words. */
  readonly about: string
  readonly severity: Severity
  readonly findings: readonly F[]
  readonly isOpen: boolean
  /** Whether all of it is one mistake, which can be mended at once. */
  readonly isAlike: boolean
}

const RANK: Readonly<Record<Severity, number>> = { error: 0, warning: 1, note: 2 }
/** So many lines are shown at first, beside those of errors. */
const FEW = 24

/**
 * Findings in groups: by what is wrong, by plugin, or the newest first; errors before warnings, what was set aside last.
 * @param toggled ids of groups that are open or folded other than they are at first
 */
export function groupFindings<F extends Groupable>(all: readonly F[], by: GroupBy, toggled: ReadonlySet<string>): FindingGroup<F>[] {
  const left = all.filter(({ aside }) => !aside)
  const aside = all.filter(({ aside: put }) => put)
  const groups = by === 'newest' ? newest(left) : grouped(left, by === 'cause' ? causeOf(left) : ({ plugin, file }) => plugin ?? file)
  const sorted = groups.sort(
    (a, b) => RANK[a.severity] - RANK[b.severity] || b.findings.length - a.findings.length || (a.title < b.title ? -1 : 1),
  )
  if (aside.length > 0)
    sorted.push({
      id: 'aside',
      title: 'Set aside',
      about: 'comes back when the value changes',
      severity: 'note',
      findings: aside,
      isAlike: false,
    })
  let lines = 0
  return sorted.map((group) => {
    const fits = lines + group.findings.length <= FEW
    const isFirst = group.severity === 'error' || fits || group.id === 'aside' || by === 'newest'
    if (fits) lines += group.findings.length
    return { ...group, isOpen: isFirst !== toggled.has(group.id) }
  })
}

type Closed<F extends Groupable> = Omit<FindingGroup<F>, 'isOpen'>

/** One mistake in several places is a group of its own; what is alone goes with its kind. */
function causeOf(all: readonly Groupable[]): (finding: Groupable) => string {
  const counts = new Map<string, number>()
  const keyOf = ({ code, cause }: Groupable): string => `${code} ${cause ?? ''}`
  for (const finding of all) if (finding.cause) counts.set(keyOf(finding), (counts.get(keyOf(finding)) ?? 0) + 1)
  return (finding) => ((counts.get(keyOf(finding)) ?? 0) > 1 ? keyOf(finding) : finding.code)
}

function grouped<F extends Groupable>(all: readonly F[], keyOf: (finding: F) => string): Closed<F>[] {
  return [...groupedBy(all, keyOf)].map(([id, findings]) => {
    const [first] = findings
    const isCause = findings.every(({ code }) => code === first!.code)
    const isAlike =
      findings.length > 1 && findings.every(({ cause, fix }) => fix !== undefined && cause !== undefined && cause === first!.cause)
    const severity = findings.reduce<Severity>((worst, one) => (RANK[one.severity] < RANK[worst] ? one.severity : worst), 'note')
    const isPlugin = id === (first!.plugin ?? first!.file)
    const title = isCause && !isPlugin ? CAUSES[first!.code].title : id
    return { id, title, about: isPlugin ? '' : whereOf(findings), severity, findings, isAlike }
  })
}

/** Plugins by name, as far as there is room; else how many. */
function whereOf(findings: readonly Groupable[]): string {
  const names = [...new Set(findings.map(({ plugin, file }) => plugin ?? file.split('/').pop()!))]
  return names.length <= 3 ? names.join(', ') : `in ${names.length} plugins`
}

function newest<F extends Groupable>(all: readonly F[]): Closed<F>[] {
  const sorted = [...all].sort((a, b) => (a.since < b.since ? 1 : a.since > b.since ? -1 : RANK[a.severity] - RANK[b.severity]))
  if (sorted.length === 0) return []
  return [{ id: 'newest', title: 'Newest first', about: '', severity: 'error', findings: sorted, isAlike: false }]
}
