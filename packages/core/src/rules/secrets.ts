import type { Reading } from '../formats/reading'
import { parse } from '../formats/registry'
import { eachSetting } from '../tree/each'
import type { FormatId } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { RuleBook } from './book'
import { DOTS } from './dots'
import { inferRules } from './infer'
import type { Rule } from './rule'

/** A secret that is shorter than this is hidden where it stands, and not looked for elsewhere: it may be any word. */
const SHORTEST_LOOKED_FOR = 6

/** A customisation, or a decision of an update: what a setting holds in each layer, and what is said of it. */
interface Told {
  readonly path: string
  readonly kind?: string
  readonly comment?: boolean
  readonly factory?: unknown
  readonly mine?: unknown
  readonly update?: unknown
  readonly result?: unknown
  readonly reason?: string
  readonly because?: unknown
  readonly options?: readonly { readonly value?: unknown }[]
}

interface Place {
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** What it is, without quotes. */
  readonly secret: string
}

/**
 * Hides the secrets of one file in whatever is shown of it: its texts, as they were and as they will be, and values of its
 * settings. What a secret is, its rules say: those that are given, and those that are told from the text.
 */
export class SecretMask {
  private readonly places = new Map<string, readonly Place[]>()
  private readonly paths = new Set<string>()
  private readonly known = new Set<string>()

  /** @param texts all texts that anything is shown of; null for none */
  constructor(
    private readonly file: { readonly format: FormatId; readonly reading: Reading; readonly rules: readonly Rule[] },
    texts: readonly (string | null)[],
  ) {
    for (const text of texts) if (text !== null) this.learn(text)
  }

  /**
   * A text of the file with dots for secrets, in comments also.
   * @param before the text it is shown against: a secret that is another than there says so, or the change would be lost
   */
  text<T extends string | null>(text: T, before: string | null = null): T {
    if (text === null) return text
    const was = new Map(before === null ? [] : this.learn(before).map(({ pointer, secret }) => [pointer, secret]))
    let shown = ''
    let at = 0
    for (const { pointer, from, to, secret } of this.learn(text)) {
      const other = was.get(pointer)
      shown += this.words(text.slice(at, from)) + DOTS + (other !== undefined && other !== secret ? ' (changed)' : '')
      at = to
    }
    return (shown + this.words(text.slice(at))) as T
  }

  /** What a setting holds, with dots for secrets. @param path the setting's JSON Pointer */
  value(value: unknown, path: string): unknown {
    if (value === undefined || value === null || value === '') return value
    if (this.paths.has(path)) return DOTS
    if (typeof value === 'string') return this.words(value)
    if (Array.isArray(value)) return value.map((item, i) => this.value(item, `${path}/${i}`))
    if (typeof value !== 'object') return value
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, this.value(item, path + formatPointer([key]))] as const))
  }

  /** One change of a setting, with dots for secrets in all that it tells. */
  change<T extends Told>(change: T): T {
    const isComment = change.kind === 'comment' || change.comment === true
    const hide = (value: unknown): unknown => (isComment ? this.quoted(value) : this.value(value, change.path))
    const shown = { ...change } as Record<string, unknown>
    for (const layer of ['factory', 'mine', 'update', 'result'] as const) if (layer in change) shown[layer] = hide(change[layer])
    for (const telling of ['reason', 'because'] as const) if (telling in change) shown[telling] = this.quoted(change[telling])
    if (change.options)
      shown['options'] = change.options.map((option) => ('value' in option ? { ...option, value: hide(option.value) } : option))
    return shown as unknown as T
  }

  /** The same data, with dots for secrets that its words quote. */
  private quoted(data: unknown): unknown {
    if (typeof data === 'string') return this.words(data)
    if (Array.isArray(data)) return data.map((item) => this.quoted(item))
    if (typeof data !== 'object' || data === null) return data
    return Object.fromEntries(Object.entries(data).map(([key, item]) => [key, this.quoted(item)] as const))
  }

  /** Words that may quote a secret, as a reason does. */
  words(words: string): string {
    let shown = words
    for (const secret of this.known) if (shown.includes(secret)) shown = shown.replaceAll(secret, DOTS)
    return shown
  }

  private learn(text: string): readonly Place[] {
    const there = this.places.get(text)
    if (there) return there
    const document = parse(text, this.file.format, this.file.reading)
    const book = new RuleBook([...this.file.rules, ...inferRules(document)])
    const places: Place[] = []
    for (const { keys, entry } of book.knows('secret') ? eachSetting(document) : []) {
      const { value } = entry
      if (value.type !== 'scalar' || value.value === null || value.value === '') continue
      // items of a list of secrets are what the list is
      if (book.find(keys)?.means !== 'secret' && book.find(keys.slice(0, -1))?.means !== 'secret') continue
      places.push({ pointer: formatPointer(keys), from: value.from, to: value.to, secret: String(value.value) })
    }
    this.places.set(
      text,
      places.sort((a, b) => a.from - b.from),
    )
    for (const { pointer, secret } of places) {
      this.paths.add(pointer)
      if (secret.length >= SHORTEST_LOOKED_FOR) this.known.add(secret)
    }
    return places
  }
}
