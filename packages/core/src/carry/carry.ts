import { applyEdits, type Edit } from '../text/edits'
import type { Document } from '../tree/nodes'
import { sameNode } from '../tree/compare'
import { parsePointer } from '../tree/pointer'
import { fromJson, toJson, valueOf } from '../tree/values'
import { OperationError } from '../formats/error'
import { sameValue } from '../formats/operations'
import { lenient, UNSAID } from '../formats/reading'
import { formatById, parse } from '../formats/registry'
import { rereadInPlace } from '../formats/reread'
import { KeyIndex, TreeIndex } from './index-tree'
import { listsOf, readAlike } from './lists'
import { reorderLists } from './reorder'
import { reshape } from './reshape'
import type { CarryInput, CarryOptions, CarryResult, Choice, Decision, Outcome } from './types'
import { wordReasons } from './reasons'
import { Walk } from './walk'

/**
 * Carries my customisations of a settings file onto a new version of it. Never throws: inputs that do not parse are
 * named in `broken` and carried as far as they could be read.
 */
export function carry(input: CarryInput, options: CarryOptions = {}): CarryResult {
  const texts = input.factory === null ? [input.mine, input.update] : [input.mine, input.update, input.factory]
  const reading = lenient(input.reading ?? UNSAID)
  const documents = readAlike(texts.map((text) => parse(text, input.format, reading)))
  const lists = listsOf(documents)
  const read = (text: string): Document => parse(text, input.format, { ...reading, lists })
  const [mine, update] = documents as [Document, Document]
  const factory = documents[2] ?? null
  const broken = (['factory', 'mine', 'update'] as const).filter((name) => hasErrors({ factory, mine, update }[name]))
  const chose = Object.keys(options.choices ?? {}).length > 0
  if (!chose && input.factory === input.mine) return whole(input.update, factory, mine, update, broken)
  if (!chose && input.factory === input.update) return whole(input.mine, factory, mine, update, broken)
  const walk = walkOne(factory, mine, update, options.choices ?? {})
  const { patch } = walk.render
  const placed = walk.notes.all.map(({ spot, decision }) => ({ ...decision, path: patch.pointer(spot) }))
  const reorders = walk.reordersIn(update)
  const ordered = reorderLists(applySafely(update, patch.groups(update), read), reorders, read)
  const result = ordered.document
  const decisions = placed.map((decision) => order(outOfOrder({ ...decision, path: ordered.pointer(decision.path) }, ordered.failed)))
  const index = new KeyIndex()
  const checked = decisions.map((decision) => verify(decision, result, index))
  return {
    text: options.shape === 'mine' ? reshapeSafely(mine, result, read) : result.text,
    decisions: checked,
    baseline: factory !== null,
    broken,
  }
}

function walkOne(factory: Document | null, mine: Document, update: Document, choices: Readonly<Record<string, Choice>>): Walk {
  const walk = new Walk(factory ? new TreeIndex(factory) : null, new TreeIndex(mine), new TreeIndex(update), choices, [
    { factory, mine, update },
  ])
  walk.run()
  return walk
}

/** An order of mine that the file could not be put into is named. */
export function outOfOrder(decision: Decision, failed: ReadonlySet<string>): Decision {
  if (!failed.has(decision.id)) return decision
  const because = [...decision.because, { code: 'order-lost' } as const]
  return { ...decision, attention: true, weight: 'decide', because, reason: wordReasons(because) }
}

export function hasErrors(document: Document | null): boolean {
  return document !== null && document.findings.some((finding) => finding.severity === 'error')
}

/** One side left everything alone, so the other stands as it is; the decisions say what that means. */
function whole(text: string, factory: Document | null, mine: Document, update: Document, broken: CarryResult['broken']): CarryResult {
  const walk = walkOne(factory, mine, update, {})
  const pointers = factory?.text === update.text
  const decisions = walk.notes.all.map(({ spot, decision }) =>
    order({ ...decision, path: pointers && decision.from ? decision.from : walk.render.patch.pointer(spot) }),
  )
  return { text, decisions: decisions.map(settled), baseline: true, broken }
}

/** The same decision where there is nothing to decide. */
export function settled(decision: Decision): Decision {
  const { weight: _weight, ...rest } = decision
  return { ...rest, attention: false }
}

/** A decision with its fields in the order the report has them; `from` only where it says something. */
export function order(decision: Decision): Decision {
  const { id, path, outcome, attention, weight, factory, mine, update, result, reason, from, ...rest } = decision
  return {
    id,
    path,
    outcome,
    attention,
    ...(weight ? { weight } : {}),
    ...given({ factory, mine, update, result }),
    reason,
    ...(from !== undefined && (from !== path || rest.fromFile !== undefined) ? { from } : {}),
    ...rest,
  }
}

function given(fields: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined))
}

/** So many times a result is read again to find the changes that break it; the rest of them is left out unread. */
const MOST_ATTEMPTS = 120

/**
 * Applies the edits; should the result not read, finds those that break it by halves, and leaves them out. The tree of
 * the update is taken over: where pointers are needed, they must be known before.
 */
export function applySafely(update: Document, groups: readonly (readonly Edit[])[], read: (text: string) => Document): Document {
  const errors = (document: Document): number => document.findings.filter((finding) => finding.severity === 'error').length
  const most = errors(update)
  const { text, format } = update
  let kept: readonly (readonly Edit[])[] = []
  let result: Document | null = null
  let attempts = 0
  // reading again shifts in place; where assignments lie apart that has no use
  if (formatById(format).parts && !formatById(format).parts!.scattered) {
    try {
      const quick = rereadInPlace(update, groups.flat()).document
      if (errors(quick) <= most) return quick
    } catch (error) {
      // edits that overlap: which of them can stand is found out below
      if (!(error instanceof RangeError)) throw error
    }
  }
  const attempt = (more: readonly (readonly Edit[])[]): boolean => {
    attempts++
    try {
      const document = read(applyEdits(text, [...kept, ...more].flat()))
      if (errors(document) > most) return false
      kept = [...kept, ...more]
      result = document
      return true
    } catch {
      return false
    }
  }
  const waiting = [groups]
  for (let next = waiting.pop(); next && attempts < MOST_ATTEMPTS; next = waiting.pop()) {
    if (next.length === 0 || attempt(next) || next.length === 1) continue
    const half = next.length >> 1
    waiting.push(next.slice(half), next.slice(0, half))
  }
  return result ?? read(text)
}

/** My text with the update's changes; where that cannot be written, the update's text, which reads the same. */
export function reshapeSafely(mine: Document, result: Document, read: (text: string) => Document): string {
  try {
    const text = reshape(mine, result)
    const shaped = read(text)
    const asWanted = sameNode({ document: shaped, node: shaped.root }, { document: result, node: result.root })
    return asWanted || (hasErrors(result) && !hasErrors(shaped)) ? text : result.text
  } catch (error) {
    if (error instanceof RangeError || error instanceof OperationError) return result.text
    throw error
  }
}

/** Whether two single values are written alike: between formats with and without kinds `5` may be a text or a number. */
function sameText(a: unknown, b: unknown): boolean {
  return typeof a !== 'object' && typeof b !== 'object' && String(a) === String(b)
}

/** Outcomes that put no value of mine into the result. */
const THEIRS: ReadonlySet<Outcome> = new Set<Outcome>(['took-update', 'added-by-update', 'stamp', 'dropped'])

/** A value of mine that is not in the result after all is named, never passed over. */
export function verify(decision: Decision, result: Document, index: KeyIndex): Decision {
  if (decision.result === undefined || THEIRS.has(decision.outcome)) return decision
  const keys = parsePointer(decision.path)
  const node = keys ? (keys.length === 0 ? result.root : (index.at(keys, result)?.value ?? null)) : null
  if (
    node &&
    (JSON.stringify(toJson(result, node)) === JSON.stringify(decision.result) ||
      sameValue(valueOf(result, node), fromJson(decision.result)) ||
      sameText(toJson(result, node), decision.result))
  )
    return decision
  const because = [...decision.because, { code: 'would-break' } as const]
  return {
    ...decision,
    outcome: 'kept-aside',
    attention: true,
    weight: 'decide',
    because,
    reason: wordReasons(because),
    ...(node ? { result: toJson(result, node) } : {}),
  }
}
