import type { Rule } from '../rule'

/** What the author's own entries hold in one place of a group, against which a rule of all of them is held. */
export interface Witness {
  readonly kind: string
  readonly texts: readonly string[]
  readonly isList: boolean
}

/**
 * A rule without what an entry of the author's own does not keep: a comment above one of them speaks of that alone.
 * @param witnesses the places it was told from
 */
export function heldAgainst(rule: Rule, witnesses: readonly Witness[]): Rule {
  const texts = witnesses.flatMap((witness) => witness.texts).filter((text) => text !== '')
  const amounts = texts.map(Number).filter((amount) => !Number.isNaN(amount))
  const said = new Set(rule.said?.map(({ value }) => Number(value)))
  const bounded = amounts.filter((amount) => !said.has(amount))
  const kinds = new Set(witnesses.map(({ kind }) => kind).filter((kind) => kind !== 'null'))
  const held: { -readonly [Part in keyof Rule]: Rule[Part] } = { ...rule }
  if (kinds.size > 1) held.kind = 'null'
  if (witnesses.some(({ kind }) => kind === 'null')) held.mayBeEmpty = true
  if (held.choices && !texts.every((text) => held.choices!.includes(text))) {
    delete held.choices
    if (held.means === 'choice') delete held.means
  }
  if (held.min !== undefined && bounded.some((amount) => amount < held.min!)) delete held.min
  if (held.max !== undefined && bounded.some((amount) => amount > held.max!)) delete held.max
  if (held.wholeNumber && bounded.some((amount) => !Number.isInteger(amount))) delete held.wholeNumber
  if (held.maxItems !== undefined && witnesses.some((witness) => witness.isList && witness.texts.length > held.maxItems!))
    delete held.maxItems
  return held
}
