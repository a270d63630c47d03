import type { Link } from './pairing/pair-items'
import { SURE } from './pairing/pair-items'
import type { Reason } from './reasons'
import type { Outcome, Weight } from './types'

/** How a setting of the factory copy was found again under another name or place. */
export interface Found {
  /** 0 to 1. */
  readonly confidence: number
  readonly reason: Reason
  /** Only its spelling changed (`saveEvery`, `save-every`), in its place: nobody has to look at that. */
  readonly respelt?: boolean
}

/** What is known of one setting, or one entry of a group, in the three versions. */
export interface Facts {
  /** Whether there is a factory copy of the version in use at all. */
  readonly baseline: boolean
  readonly inFactory: boolean
  readonly inMine: boolean
  readonly inUpdate: boolean
  readonly mineIsFactory?: boolean
  readonly mineIsUpdate?: boolean
  readonly updateIsFactory?: boolean
  /** A version stamp: a setting that says which version wrote the file. */
  readonly stamp?: boolean
  /** Whether mine and the update's are of one kind, and whether the update changed its kind. */
  readonly sameKind?: boolean
  readonly kindMoved?: boolean
  /** The words for the kinds, where it changed. */
  readonly kinds?: { readonly from: string; readonly to: string }
  /** The unit or the scale of the default seems to have changed. */
  readonly scale?: Reason | null
  readonly found?: Found | null
  /** The item of a list that holds it was found by little. */
  readonly doubt?: Link | null
  /** It is an entry of a group or an item of a list of sections. */
  readonly entry?: boolean
  /** Of the group it is new in: I took whole shipped entries out, or only put some in; or it stands where I took one out. */
  readonly group?: 'mine' | 'joined' | 'in-place' | null
  /** Where an addition goes: its section was found elsewhere, is gone and only its neighbours were found, or nothing was. */
  readonly landing?: { readonly found: Found | null; readonly gone: boolean } | 'nowhere'
}

/** What is to be written: the update's as it stands, mine, mine where its kind fits, nothing, or mine kept out of the file. */
export type Take = 'update' | 'mine' | 'fitting' | 'nothing' | 'aside'

export interface Verdict {
  readonly outcome: Outcome
  readonly take: Take
  readonly weight: Weight | null
  readonly because: readonly Reason[]
}

/**
 * The table of docs/carry.md, row by row: what becomes of a setting, given what is known of it. Pure; what can be written
 * at all, and where, is found out by those who write it.
 */
export function decide(facts: Facts): Verdict {
  if (facts.inMine && facts.inUpdate) return decideBoth(facts)
  if (facts.inMine) return facts.inFactory ? decideGone(facts) : decideAdded(facts)
  return facts.inFactory ? decideRemoved(facts) : decideNew(facts)
}

const verdict = (outcome: Outcome, take: Take, weight: Weight | null, ...because: Reason[]): Verdict => ({ outcome, take, weight, because })

function decideBoth(facts: Facts): Verdict {
  const { inFactory, baseline, found } = facts
  if (facts.stamp && !facts.updateIsFactory && (inFactory || !baseline)) {
    if (facts.mineIsUpdate) return verdict('unchanged', 'update', null)
    return verdict('stamp', 'update', inFactory && !facts.mineIsFactory ? 'look' : null, { code: 'stamp' })
  }
  if (facts.mineIsFactory)
    return facts.updateIsFactory
      ? verdict('unchanged', 'update', null)
      : verdict('took-update', 'update', null, { code: 'left-as-shipped' })
  if (facts.mineIsUpdate) return verdict('same-change', 'update', null, { code: 'same-change' })
  if (facts.kindMoved && !facts.sameKind)
    return withDoubt(facts, verdict('kind-changed', 'fitting', 'decide', { code: 'kind-changed', ...facts.kinds! }))
  if (facts.scale) return withDoubt(facts, verdict('scale-changed', 'mine', 'decide', facts.scale, ...(found ? [found.reason] : [])))
  if (found) return withDoubt(facts, decideFound(facts, found))
  if (facts.updateIsFactory) return withDoubt(facts, verdict('kept-mine', 'mine', null, { code: 'update-left-it' }))
  if (!inFactory && !baseline) return withDoubt(facts, verdict('kept-mine', 'mine', null, { code: 'no-baseline' }))
  const outcome = facts.sameKind ? 'default-moved' : 'kind-changed'
  return withDoubt(
    facts,
    verdict(outcome, 'mine', facts.sameKind ? 'look' : 'decide', { code: inFactory ? 'default-moved' : 'both-added' }),
  )
}

function decideFound({ updateIsFactory }: Facts, found: Found): Verdict {
  if (updateIsFactory) return verdict('moved', 'mine', weightOfFound(found), found.reason)
  // with another spelling it is the same setting, so only its default is news
  const outcome = found.respelt ? 'default-moved' : 'moved'
  return verdict(outcome, 'mine', weightOfFound(found) ?? 'look', found.reason, { code: 'default-moved' })
}

function decideGone(facts: Facts): Verdict {
  if (facts.mineIsFactory) return verdict('dropped', 'nothing', null, { code: 'gone' })
  return facts.entry
    ? verdict('kept-mine', 'mine', 'decide', { code: 'taken-out' })
    : verdict('kept-aside', 'aside', 'decide', { code: 'gone-changed' })
}

function decideRemoved(facts: Facts): Verdict {
  const { found } = facts
  // taking out what may be another setting would be a guess: it stays until somebody says so
  if (found && !found.respelt) return verdict('moved', 'update', 'decide', found.reason, { code: 'left-in' })
  if (!facts.updateIsFactory) return withDoubt(facts, verdict('stays-removed', 'nothing', 'decide', { code: 'removed-changed' }))
  return withDoubt(facts, verdict('stays-removed', 'nothing', null, { code: 'removed' }))
}

function decideAdded(facts: Facts): Verdict {
  const { landing } = facts
  if (landing === 'nowhere') return verdict('kept-aside', 'aside', 'decide', { code: 'section-gone' })
  if (landing?.gone) return verdict('kept-addition', 'mine', 'decide', { code: 'section-gone' }, { code: 'placed-by-guess' })
  if (landing?.found && !landing.found.respelt)
    return withDoubt(facts, verdict('kept-addition', 'mine', weightOfFound(landing.found), { code: 'added' }, landing.found.reason))
  return withDoubt(facts, verdict('kept-addition', 'mine', null, { code: 'added' }))
}

function decideNew(facts: Facts): Verdict {
  if (facts.group === 'mine') return verdict('offered', 'nothing', 'decide', { code: 'offered' })
  if (facts.group === 'joined') return verdict('added-by-update', 'update', 'look', { code: 'new-beside-mine' })
  if (facts.group === 'in-place') return verdict('added-by-update', 'update', 'look', { code: 'new-where-removed' })
  return verdict('added-by-update', 'update', null, { code: facts.entry ? 'new-in-group' : 'new' })
}

function weightOfFound(found: Found): Weight | null {
  if (found.respelt) return null
  return found.confidence >= SURE ? 'look' : 'decide'
}

/** What is mine inside an item that was found by little is carried, and asked about. */
function withDoubt(facts: Facts, given: Verdict): Verdict {
  const { doubt } = facts
  if (!doubt) return given
  return { ...given, weight: 'decide', because: [...given.because, { code: 'unsure', how: doubt.how === 'equal' ? 'name' : doubt.how }] }
}
