import { isGroup } from '../../carry/groups'
import { apparentKind } from '../../tree/compare'
import { isContainer, isNameless, type Container, type Document, type Entry, type MapNode } from '../../tree/nodes'
import { formatPointer } from '../../tree/pointer'
import { authorsComment, describedIn, headComment } from '../comments'
import type { Applies, Need, Rule } from '../rule'
import { appliesIn, asksToLeave, boundsIn, emptyMeansIn, itemsIn, lengthIn, needsIn, saidIn, timeUnitIn } from '../said'
import { id, keysOf } from './ids'
import { areParts } from './money-words'
import { roleOf, sameAsIn } from './roles'
import { aroundOf, lookAt, type Detector, type FileLook, type KnownIds, type Look } from './look'
import { angle, codes, duration, numericSwitch, percent, port, slot, weight } from './numbers'
import { coordinates, isPlace } from './places'
import { heldAgainst, type Witness } from './witnesses'
import { choice, colour, command, file, host, link, node, picture, secret, spelledDuration, timeOfDay, wordSwitch } from './texts'

export type { KnownIds } from './look'

/** What tells the meaning of a value, the most telling first. A new meaning is one more of these. */
const DETECTORS: readonly Detector[] = [
  coordinates,
  secret,
  link,
  timeOfDay,
  colour,
  numericSwitch,
  codes,
  port,
  slot,
  weight,
  duration,
  angle,
  wordSwitch,
  choice,
  node,
  picture,
  file,
  host,
  command,
  id,
  spelledDuration,
]

/**
 * What settings may be, as a factory copy shows it: the kind of each default, what it stands for by its name, its shape and
 * its neighbours, and the bounds, choices and unit its comment names. Entries of a group share their rules, under `*`.
 * @param known the server's own lists of ids
 */
export function inferRules(factory: Document, known: KnownIds = {}): Rule[] {
  const rules = new Map<string, Rule>()
  const witnesses = new Map<string, Witness[]>()
  const { root } = factory
  if (root.type === 'map' || root.type === 'list')
    new Inference({ document: factory, head: headComment(factory), known }, rules, witnesses).visit(root, [], [], new Map())
  const applies = ofWholeFile(factory)
  if (applies) rules.set('', { path: '', source: 'comment', applies })
  const held = [...rules].map(([pointer, rule]) => (witnesses.has(pointer) ? heldAgainst(rule, witnesses.get(pointer)!) : rule))
  return held.filter(({ kind, choices, means, role, applies }) => kind !== 'null' || (choices ?? means ?? role ?? applies) !== undefined)
}

/** What makes any change of a file count, as a comment at its head says that is not about its first setting. */
function ofWholeFile({ root, text }: Document): Applies | undefined {
  const first = isContainer(root) ? root.entries[0] : undefined
  const above = (first?.lead ?? []).filter((comment) => !comment.attached)
  return appliesIn(above.map(({ from, to }) => text.slice(from, to)).join('\n'))
}

/** What comments above say of settings by their names. */
type Described = ReadonlyMap<string, string>

class Inference {
  constructor(
    private readonly file: FileLook,
    private readonly rules: Map<string, Rule>,
    private readonly witnesses: Map<string, Witness[]>,
  ) {}

  visit(container: Container, keys: readonly string[], above: readonly Entry[], described: Described): void {
    const { document } = this.file
    const around = aroundOf(document, container, above, (names) => keysOf(names, this.file.known) === 'items')
    const shared = container.type === 'list' || (isGroup([container]) && !areParts(container.entries.map(({ key }) => key)))
    let unitAbove: string | null = null
    for (const entry of container.entries) {
      if (isNameless(entry)) continue
      const path = [...keys, shared ? '*' : entry.key]
      const own = authorsComment(document, entry)
      if (entry.lead.length > 0 || entry.trail) unitAbove = /^\W*(?:all )?in \w+\s*:/i.test(own) ? timeUnitIn(own) : null
      // items of a list have no rules of their own but where they are sections
      if (container.type === 'map') this.learn(lookAt(this.file, around, entry, own || (described.get(entry.key) ?? ''), unitAbove), path)
      const { value } = entry
      if ((value.type !== 'map' && value.type !== 'list') || (value.type === 'map' && isPlace(value))) continue
      if (value.type === 'map') this.addLengths(value, own, path)
      const said = own === '' ? null : describedIn(own)
      this.visit(value, path, [...above, entry], said?.size ? new Map([...described, ...said]) : described)
    }
  }

  private learn(look: Look, path: readonly string[]): void {
    const rule = this.ruleOf(look, path)
    if (path.includes('*')) {
      const { texts, isList } = look
      const witness: Witness = { kind: rule.kind ?? 'null', texts, isList }
      const others = this.witnesses.get(rule.path)
      if (others) others.push(witness)
      else this.witnesses.set(rule.path, [witness])
    }
    this.add(rule)
  }

  /** Entries of a group that differ in kind leave it open; where they differ in meaning, it has none. */
  private add(rule: Rule): void {
    const pointer = rule.path
    const known = this.rules.get(pointer)
    if (!known) this.rules.set(pointer, rule)
    else if (known.kind === 'null' && known.means === undefined) this.rules.set(pointer, rule)
    else if (rule.kind === 'null' && rule.means === undefined) return
    else if (known.kind !== rule.kind && known.means !== rule.means) this.rules.set(pointer, { path: pointer, kind: 'null' })
    else if (known.means === undefined && rule.means !== undefined) this.rules.set(pointer, { ...rule, kind: known.kind! })
    // what one entry says in words another may say in money
    else if (known.means === rule.means && known.role === undefined && rule.role) this.rules.set(pointer, { ...known, role: rule.role })
  }

  /** How long a text may be, said above a section of nothing but texts, holds for each of them. */
  private addLengths({ entries }: MapNode, comment: string, path: readonly string[]): void {
    const maxLength = comment === '' ? undefined : lengthIn(comment)
    if (maxLength === undefined || !entries.every(({ value }) => value.type === 'scalar' && value.kind === 'text')) return
    for (const { key } of entries) this.add({ path: formatPointer([...path, key]), source: 'comment', kind: 'text', maxLength })
  }

  private ruleOf(look: Look, path: readonly string[]): Rule {
    const kind = apparentKind(look.document, look.entry.value) as NonNullable<Rule['kind']>
    const found = this.meaningOf(look, kind)
    const fromComment = look.comment === '' ? {} : said(look, kind, found)
    const needs = needsOf(look, path, found.choices ?? [])
    const rule: Rule = { path: formatPointer(path), source: isFromComment(found, fromComment) ? 'comment' : 'seen', kind }
    const role = roleOf(look, found)
    const sameAs = found.means === 'port' ? sameAsIn(look.comment) : null
    return Object.assign(rule, found, fromComment, sameAs, role ? { role } : null, needs.length > 0 ? { needs } : null)
  }

  private meaningOf(look: Look, kind: string): Partial<Rule> {
    const { value } = look.entry
    if (value.type === 'alias') return {}
    if (value.type === 'scalar' && value.kind === 'code') return { means: 'code' }
    if (kind === 'bool') return { means: 'switch' }
    if (value.type === 'map') {
      const keys = keysOf(
        value.entries.map(({ key }) => key),
        look.known,
        look.words,
      )
      return { ...coordinates(look), ...(keys ? { keys } : {}) }
    }
    if (value.type === 'list' && value.entries.some((item) => item.value.type === 'map' || item.value.type === 'list')) return {}
    for (const detect of DETECTORS) {
      const found = detect(look)
      if (found) return found
    }
    return percent(look) ?? {}
  }
}

function needsOf(look: Look, path: readonly string[], choices: readonly string[]): Need[] {
  const { around, comment, entry } = look
  const { plugins, settings } = comment === '' ? { plugins: [], settings: [] } : needsIn(comment)
  const beside = (name: string): string => formatPointer([...path.slice(0, -1), name])
  const named = settings.filter(({ name }) => around.names.has(name) && name !== entry.key)
  const { master } = around
  const ofMaster = master && master !== entry && around.above.length > 0 ? [{ setting: beside(master.key), is: true }] : []
  return [
    ...plugins.map(({ plugin, before }) => (choices.includes(before) ? { plugin, for: before } : { plugin })),
    ...named.map(({ name, is }) => ({ setting: beside(name), is })),
    ...ofMaster,
  ]
}

/** What the comment says beside the meaning, as far as the value the plugin ships agrees. */
function said(look: Look, kind: string, found: Partial<Rule>): Partial<Rule> {
  const { comment } = look
  const emptyMeans = kind === 'text' || kind === 'null' ? emptyMeansIn(comment) : undefined
  const applies = appliesIn(comment)
  const common = {
    ...(emptyMeans ? { emptyMeans } : {}),
    ...(asksToLeave(comment) ? { leave: true } : {}),
    ...(applies ? { applies } : {}),
  }
  if (look.kind === 'number' && found.means !== 'choice' && found.means !== 'switch' && found.means !== 'slot')
    return { ...common, ...amountsIn(look, found) }
  if (look.entry.value.type === 'list') {
    const maxItems = itemsIn(comment)
    const most = look.kind === 'text' && found.means === undefined ? lengthIn(comment) : undefined
    const fits = most !== undefined && look.texts.every((text) => text.length <= most)
    return {
      ...common,
      ...(maxItems !== undefined && look.texts.length <= maxItems ? { maxItems } : {}),
      ...(fits ? { maxLength: most } : {}),
    }
  }
  if (kind !== 'text' || found.means !== undefined) return common
  const maxLength = lengthIn(comment)
  return { ...common, ...(maxLength === undefined ? {} : { maxLength }) }
}

function amountsIn(look: Look, found: Partial<Rule>): Partial<Rule> {
  const { comment } = look
  const values = saidIn(comment)
  const bounds = found.means === 'port' ? {} : boundsIn(comment)
  const amounts = look.texts.filter((text) => !values.some(({ value }) => value === text)).map(Number)
  const fits = amounts.every((amount) => !(amount < bounds.min!) && !(amount > bounds.max!))
  const outside = values.filter(({ value }) => fits && (Number(value) < bounds.min! || Number(value) > bounds.max!))
  return {
    ...(fits ? bounds : {}),
    ...(/\bwhole (?:numbers?|laps|\w+s) only\b|\bwhole numbers?\b|\binteger\b|\bno fractions?\b/i.test(comment)
      ? { wholeNumber: true }
      : {}),
    ...(values.length > 0 && (outside.length > 0 || values.some(({ value }) => Number(value) <= 0)) ? { said: values } : {}),
  }
}

const FROM_COMMENT = [
  'min',
  'max',
  'choices',
  'said',
  'maxLength',
  'maxItems',
  'emptyMeans',
  'leave',
  'wholeNumber',
  'zone',
  'applies',
] as const
const isFromComment = (found: Partial<Rule>, said: Partial<Rule>): boolean =>
  FROM_COMMENT.some((key) => said[key] !== undefined || (key === 'choices' && found.choices !== undefined))
