import { applyEdits, type Edit } from '../text/edits'
import type { Document } from '../tree/nodes'
import { sameNode } from '../tree/compare'
import { parsePointer } from '../tree/pointer'
import { fromJson, toJson, valueOf } from '../tree/values'
import { OperationError } from '../formats/error'
import { sameValue } from '../formats/operations'
import { parse } from '../formats/registry'
import { TreeIndex } from './index-tree'
import { listsOf, readAlike } from './lists'
import { Merge } from './merge'
import { reorderLists } from './reorder'
import { reshape } from './reshape'
import type { CarryInput, CarryOptions, CarryResult, Choice, Decision } from './types'

/**
 * Carries my customisations of a settings file onto a new version of it. Never throws: inputs that do not parse are
 * named in `broken` and carried as far as they could be read.
 */
export function carry(input: CarryInput, options: CarryOptions = {}): CarryResult {
  const texts = input.factory === null ? [input.mine, input.update] : [input.mine, input.update, input.factory]
  const documents = readAlike(texts.map((text) => parse(text, input.format, { relaxed: true })))
  const lists = listsOf(documents)
  const read = (text: string): Document => parse(text, input.format, { relaxed: true, lists })
  const [mine, update] = documents as [Document, Document]
  const factory = documents[2] ?? null
  const broken = (['factory', 'mine', 'update'] as const).filter((name) => hasErrors({ factory, mine, update }[name]))
  const chose = Object.keys(options.choices ?? {}).length > 0
  if (!chose && input.factory === input.mine) return whole(input.update, factory, mine, update, broken)
  if (!chose && input.factory === input.update) return whole(input.mine, factory, mine, update, broken)
  const merge = mergeOne(factory, mine, update, options.choices ?? {})
  const { text, pointer } = reorderLists(applySafely(update, merge.patch.groups(update), read), merge.reordersIn(update), read)
  const decisions = merge.notes.map(({ spot, decision }) => order({ ...decision, path: pointer(merge.patch.pointer(spot)) }))
  const result = read(text)
  const index = new TreeIndex(result)
  const checked = decisions.map((decision) => verify(decision, index))
  return { text: options.shape === 'mine' ? reshapeSafely(mine, result, read) : text, decisions: checked, baseline: factory !== null, broken }
}

function mergeOne(factory: Document | null, mine: Document, update: Document, choices: Readonly<Record<string, Choice>>): Merge {
  const merge = new Merge(factory ? new TreeIndex(factory) : null, new TreeIndex(mine), new TreeIndex(update), choices, [{ factory, mine, update }])
  merge.run()
  return merge
}

export function hasErrors(document: Document | null): boolean {
  return document !== null && document.findings.some((finding) => finding.severity === 'error')
}

/** One side left everything alone, so the other stands as it is; the decisions say what that means. */
function whole(text: string, factory: Document | null, mine: Document, update: Document, broken: CarryResult['broken']): CarryResult {
  const merge = mergeOne(factory, mine, update, {})
  const pointers = factory?.text === update.text
  const decisions = merge.notes.map(({ spot, decision }) => order({ ...decision, path: pointers && decision.from ? decision.from : merge.patch.pointer(spot) }))
  return { text, decisions: decisions.map((item) => ({ ...item, attention: false })), baseline: true, broken }
}

/** A decision with its fields in the order the report has them; `from` only where it says something. */
export function order(decision: Decision): Decision {
  const { id, path, outcome, attention, factory, mine, update, result, reason, from, ...rest } = decision
  return { id, path, outcome, attention, ...given({ factory, mine, update, result }), reason, ...(from !== undefined && (from !== path || rest.fromFile !== undefined) ? { from } : {}), ...rest }
}

function given(fields: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined))
}

/** Applies the edits; should the result not read, leaves out those that break it, one change at a time. */
export function applySafely(update: Document, groups: readonly (readonly Edit[])[], read: (text: string) => Document): string {
  const errors = (document: Document): number => document.findings.filter((finding) => finding.severity === 'error').length
  const most = errors(update)
  const attempt = (edits: readonly Edit[]): string | null => {
    try {
      const text = applyEdits(update.text, edits)
      return errors(read(text)) <= most ? text : null
    } catch {
      return null
    }
  }
  const all = attempt(groups.flat())
  if (all !== null) return all
  const kept: Edit[] = []
  let text = update.text
  for (const group of groups) {
    const next = attempt([...kept, ...group])
    if (next === null) continue
    kept.push(...group)
    text = next
  }
  return text
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

/** A value of mine that is not in the result after all is named, never passed over. */
export function verify(decision: Decision, index: TreeIndex): Decision {
  const result = index.document
  if (decision.result === undefined) return decision
  const keys = parsePointer(decision.path)
  const node = keys ? (keys.length === 0 ? result.root : index.at(keys)?.value ?? null) : null
  if (node && (JSON.stringify(toJson(result, node)) === JSON.stringify(decision.result) || sameValue(valueOf(result, node), fromJson(decision.result)) || sameText(toJson(result, node), decision.result))) return decision
  return { ...decision, outcome: 'kept-aside', attention: true, reason: `${decision.reason}; it could not be written into the new file without breaking it`, ...(node ? { result: toJson(result, node) } : {}) }
}
