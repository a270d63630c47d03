import { APPLIES, ROLES, type Meaning, type Need, type Rule } from '@pasticcio/core'
import { pointerWords } from './pointer-words'
import { APPLIES_WORDS, ROLE_WORDS } from './rule-words'

/** What may be typed of a rule, as text; empty for what is not said. */
export type RuleTexts = Readonly<Record<string, string>>

/** One thing that goes with a meaning. */
export interface RuleField {
  readonly name: string
  readonly label: string
  readonly placeholder: string
  readonly kind: 'number' | 'text' | 'list' | 'need' | 'pick' | 'yes'
  /** What to pick from, with words. */
  readonly options?: Readonly<Record<string, string>>
  readonly of: readonly Meaning[]
}

const AMOUNTS: readonly Meaning[] = ['number', 'duration', 'angle', 'port', 'slot', 'weight']
const WORDS: readonly Meaning[] = ['text', 'link', 'host', 'file', 'picture', 'id', 'node', 'command', 'time']

/** What can be said beside the meaning, in this order. */
export const RULE_FIELDS: readonly RuleField[] = [
  { name: 'zone', label: 'on the clock of', placeholder: 'UTC', kind: 'text', of: ['time'] },
  { name: 'choices', label: 'one of', placeholder: 'low, fair, high', kind: 'list', of: ['choice'] },
  { name: 'min', label: 'from', placeholder: 'any', kind: 'number', of: AMOUNTS },
  { name: 'max', label: 'to', placeholder: 'any', kind: 'number', of: AMOUNTS },
  { name: 'step', label: 'in steps of', placeholder: 'any', kind: 'number', of: ['number', 'duration'] },
  { name: 'maxLength', label: 'at most', placeholder: 'letters, any', kind: 'number', of: ['text'] },
  { name: 'width', label: 'wide', placeholder: 'pixels, any', kind: 'number', of: ['picture'] },
  { name: 'height', label: 'high', placeholder: 'pixels, any', kind: 'number', of: ['picture'] },
  { name: 'endings', label: 'ending with', placeholder: 'png, jpg', kind: 'list', of: ['picture', 'file'] },
  { name: 'folder', label: 'in the folder', placeholder: 'beside the file', kind: 'text', of: ['picture', 'file'] },
  { name: 'emptyMeans', label: 'empty', placeholder: 'switches it off', kind: 'text', of: WORDS },
]

const pick = <K extends string>(names: readonly K[], words: Readonly<Record<K, string>>): Readonly<Record<string, string>> =>
  Object.fromEntries(names.map((name) => [name, words[name]]))

/** What counts for any meaning. */
const NEED: RuleField = { name: 'needs', label: 'counts with', placeholder: 'another.setting', kind: 'need', of: [] }
/** What is said more rarely. */
const RARE: readonly RuleField[] = [
  { name: 'role', label: 'in the trade', placeholder: 'nothing special', kind: 'pick', options: pick(ROLES, ROLE_WORDS), of: [] },
  { name: 'applies', label: 'counts', placeholder: 'as the server has it', kind: 'pick', options: pick(APPLIES, APPLIES_WORDS), of: [] },
]
const OF_TEXTS: readonly RuleField[] = [
  { name: 'required', label: 'empty is', placeholder: 'allowed', kind: 'yes', options: { true: 'not allowed' }, of: [] },
  { name: 'pattern', label: 'of the form', placeholder: '^[a-z]+$', kind: 'text', of: [] },
]

/** What may be said of a setting of this meaning. */
export const fieldsOf = (means: Meaning): readonly RuleField[] => [...RULE_FIELDS.filter(({ of }) => of.includes(means)), NEED]

/** What may be said of it beside that, and seldom is. */
export const rareFieldsOf = (means: Meaning): readonly RuleField[] => [...(WORDS.includes(means) ? OF_TEXTS : []), ...RARE]

/** What a rule says already, for the fields. */
export function textsOf(rule: Rule | null): RuleTexts {
  const said = (rule ?? {}) as unknown as Readonly<Record<string, unknown>>
  const text = (field: RuleField): string => {
    const value = said[field.name]
    if (field.kind === 'need') return needText(rule?.needs?.[0])
    return Array.isArray(value) ? value.join(', ') : value === undefined ? '' : String(value as string | number)
  }
  return Object.fromEntries([...RULE_FIELDS, NEED, ...RARE, ...OF_TEXTS].map((field) => [field.name, text(field)]))
}

const needText = (need: Need | undefined): string => (need === undefined ? '' : 'plugin' in need ? need.plugin : pointerWords(need.setting))

/**
 * The parts of a rule that were typed for a meaning.
 * @param plugins names of those on the server: what is one of them is a plugin that it needs, anything else a setting
 */
export function partsOf(means: Meaning, texts: RuleTexts, plugins: readonly string[]): Partial<Rule> {
  const parts: Record<string, unknown> = {}
  for (const { name, kind } of [...fieldsOf(means), ...rareFieldsOf(means)]) {
    const text = (texts[name] ?? '').trim()
    if (text === '') continue
    if (kind === 'text' || kind === 'pick') parts[name] = text
    else if (kind === 'yes') parts[name] = true
    else if (kind === 'list') parts[name] = items(text)
    else if (kind === 'need')
      parts[name] = [plugins.includes(text) ? { plugin: text } : { setting: `/${text.replace(/^\//, '').replaceAll('.', '/')}`, is: true }]
    else if (Number.isFinite(Number(text))) parts[name] = Number(text)
  }
  return parts
}

const items = (text: string): string[] =>
  text
    .split(',')
    .map((item) => item.trim().replace(/^\./, ''))
    .filter(Boolean)
