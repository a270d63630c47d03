import type { Finding } from '../tree/nodes'
import type { Change } from './reread'

/** Findings in their new places after parts of a text were read again; those within these are gone. */
export function movedAlong<F extends Finding>(findings: readonly F[], changes: readonly Change[]): F[] {
  return findings.flatMap((finding): F[] => {
    if (changes.some((change) => finding.to >= change.from && finding.from <= change.to)) return []
    const by = changes.reduce((sum, change) => (change.to <= finding.from ? sum + change.delta : sum), 0)
    if (by === 0) return [finding]
    const { fix } = finding
    return [{ ...moved(finding, by), ...(fix ? { fix: { ...fix, edits: fix.edits.map((edit) => moved(edit, by)) } } : {}) }]
  })
}

const moved = <T extends { readonly from: number; readonly to: number }>(place: T, by: number): T => ({
  ...place,
  from: place.from + by,
  to: place.to + by,
})
