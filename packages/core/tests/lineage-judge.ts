import { carry } from '../src/carry/carry'
import type { CarryResult } from '../src/carry/types'
import type { Section, Style } from './arbitraries'
import type { Dialect } from './dialects'
import {
  Maker,
  change,
  expected,
  isFields,
  isItems,
  seeded,
  toModel,
  toPlain,
  type Fields,
  type Item,
  type Kind,
  type Op,
  type Part,
  type Touched,
} from './lineage'

const MINE: readonly Op[] = ['set', 'set', 'name', 'add', 'insert', 'delete', 'move', 'stranger', 'addAll']
const UPDATE: readonly Op[] = ['set', 'set', 'name', 'add', 'addAll', 'insert', 'delete', 'move', 'stranger', 'restructure']

export interface Lineage {
  readonly factory: Fields
  readonly mine: Fields
  readonly update: Fields
  readonly byMe: Touched
  readonly byUpdate: Touched
}

export interface Judged {
  /** What is wrong; null where everything is as it must be. */
  readonly fault: string | null
  /** Whether the result is just what the lineages say, and whether anything was asked. */
  readonly exact: boolean
  readonly asked: boolean
}

/** A file of a kind and what both sides made of it, from a seed. */
export function lineageOf(kind: Kind, seed: number, mineOps: readonly Op[] = MINE, updateOps: readonly Op[] = UPDATE): Lineage {
  const maker = new Maker(kind, seeded(seed))
  const factory = maker.file()
  const some = (ops: readonly Op[]): Op[] => Array.from({ length: 1 + maker.int(3) }, () => maker.pick(ops))
  const mine = change(factory, maker, some(mineOps), 'mine')
  const update = change(factory, maker, some(updateOps), 'update')
  return { factory, mine: mine.file, update: update.file, byMe: mine.touched, byUpdate: update.touched }
}

export const PLAIN_STYLE: Style = {
  eol: '\n',
  indent: 2,
  quotes: 'plain',
  flowLists: false,
  blankLines: false,
  comments: false,
  finalBreak: true,
  listIndent: true,
}

export function texts(lineage: Lineage, dialect: Dialect): { factory: string; mine: string; update: string } {
  const write = (file: Fields): string => dialect.render(dialect.restrict(toModel(file) as Section), PLAIN_STYLE)
  return { factory: write(lineage.factory), mine: write(lineage.mine), update: write(lineage.update) }
}

/** Whether a dialect can hold the files as they are: XML has no list of fewer than two, and none within a list. */
export function holds(dialect: Dialect, lineage: Lineage): boolean {
  if (dialect.format !== 'xml') return true
  const short = (part: Part, inList: boolean): boolean => {
    if (isItems(part)) return inList || part.items.length < 2 || part.items.some((item) => short(item.part, true))
    return isFields(part) && [...part.fields.values()].some((value) => short(value, false))
  }
  return ![lineage.factory, lineage.mine, lineage.update, expected(lineage.factory, lineage.mine, lineage.update)].some((part) =>
    short(part, false),
  )
}

/** Carries the files of a lineage and compares what another reader finds in the result with what the lineages say. */
export function judge(lineage: Lineage, dialect: Dialect): Judged {
  const given = texts(lineage, dialect)
  const result = carry({ ...given, format: dialect.format })
  const asked = result.decisions.some((decision) => decision.attention)
  const wanted = expected(lineage.factory, lineage.mine, lineage.update)
  const got = unwrap(dialect, dialect.others(result.text)[0])
  const faults: string[] = []
  compare(wanted, got, '', { lineage, result, dialect, faults })
  const exact = print(shown(toPlain(wanted), dialect)) === print(got)
  const fault =
    faults.length === 0
      ? null
      : `${faults.join('\n')}\n--- factory\n${given.factory}--- mine\n${given.mine}--- update\n${given.update}--- result\n${result.text}--- decisions\n${result.decisions.map((item) => `${item.path} ${item.from ?? ''} ${item.outcome} ${item.weight ?? ''} ${item.reason}`).join('\n')}\nmine ${lineage.byMe.ops.join()} update ${lineage.byUpdate.ops.join()}`
  return { fault, exact, asked }
}

function unwrap(dialect: Dialect, data: unknown): unknown {
  return dialect.wrap.reduce<unknown>((inner, key) => (inner as Record<string, unknown>)[key], data)
}

/** Keys in order, since their order has no meaning. */
const print = (data: unknown): string =>
  JSON.stringify(data, (_key, value: unknown) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  )

/** Data as the dialect's readers give it: XML knows texts only. */
function shown(data: unknown, dialect: Dialect): unknown {
  if (dialect.format !== 'xml') return data
  if (Array.isArray(data)) return data.map((item) => shown(item, dialect))
  return typeof data === 'object' && data !== null
    ? Object.fromEntries(Object.entries(data).map(([key, value]) => [key, shown(value, dialect)]))
    : String(data)
}

interface Job {
  readonly lineage: Lineage
  readonly result: CarryResult
  readonly dialect: Dialect
  readonly faults: string[]
}

/** Whether a decision that asks names a place of the result, or one of mine or of the factory copy. */
function isAsked(job: Job, pointers: readonly string[]): boolean {
  const covers = (a: string, b: string): boolean => a === b || a.startsWith(b + '/') || b.startsWith(a + '/')
  const wrap = job.dialect.wrap.map((key) => '/' + key).join('')
  return job.result.decisions.some(
    (decision) =>
      decision.attention &&
      pointers.some((pointer) =>
        [decision.path, decision.from, decision.id].some((path) => path !== undefined && covers(path, wrap + pointer)),
      ),
  )
}

function compare(wanted: Part, got: unknown, at: string, job: Job): void {
  if (isFields(wanted)) {
    if (typeof got !== 'object' || got === null || Array.isArray(got)) return void job.faults.push(`${at}: no section`)
    for (const [key, value] of wanted.fields) compare(value, (got as Record<string, unknown>)[key], `${at}/${key}`, job)
    for (const key of Object.keys(got))
      if (!wanted.fields.has(key) && !isAsked(job, [`${at}/${key}`])) job.faults.push(`${at}/${key} came from nowhere`)
  } else if (isItems(wanted)) {
    // a table without fields is a list of no items, too, and one element a list of one
    const items =
      job.dialect.format === 'lua' && print(got) === '{}' ? [] : job.dialect.format === 'xml' && !Array.isArray(got) ? [got] : got
    if (!Array.isArray(items)) return void job.faults.push(`${at}: no list`)
    compareItems(wanted.items, items, at, job)
  } else if (print(shown(wanted, job.dialect)) !== print(got) && !isAsked(job, [at]))
    job.faults.push(`${at} is ${JSON.stringify(got)}, not ${JSON.stringify(wanted)}`)
}

/** Which item of the result is which of those wanted: equal ones first, then in order between them. */
function compareItems(wanted: readonly Item[], got: readonly unknown[], at: string, job: Job): void {
  const { byMe, byUpdate } = job.lineage
  const prints = got.map(print)
  const left = new Map(prints.map((text, i) => [i, text]))
  const placeOf = new Map<number, number>()
  for (const item of wanted) {
    const text = print(shown(toPlain(item.part), job.dialect))
    const place = [...left].find(([, other]) => other === text)?.[0]
    if (place === undefined) continue
    left.delete(place)
    placeOf.set(item.lineage, place)
  }
  const missing = wanted.filter((item) => !placeOf.has(item.lineage))
  // a lone item that is not as wanted is looked at leaf by leaf, and so is one among others that all stand as wanted
  for (const item of missing) {
    const name = nameOf(item.part)
    const inside =
      missing.length === 1 && left.size === 1
        ? [...left.keys()][0]
        : [...left.keys()].find((i) => name !== null && nameOf2(got[i]) === name)
    const mineTouched = isTouched(byMe, item)
    const offered =
      !mineTouched &&
      job.result.decisions.some(
        (decision) => decision.outcome === 'offered' && print(decision.update) === print(shown(toPlain(item.part), job.dialect)),
      )
    if (offered && byMe.deleted.size > 0) continue
    if (inside !== undefined && isFields(item.part)) {
      left.delete(inside)
      compare(item.part, got[inside], `${at}/${inside}`, job)
    } else if (!mineTouched || !isAsked(job, pointersOf(item.lineage, job)))
      job.faults.push(`${at}: ${print(toPlain(item.part))} is missing`)
  }
  for (const [i] of left)
    if (!isAsked(job, [`${at}/${i}`]) && !isStale(got[i], job)) job.faults.push(`${at}/${i} came from nowhere: ${prints[i]}`)
  // the update's order stands but for what one of us moved
  const byBoth = (item: Item): boolean => byMe.inside.has(item.lineage) && byUpdate.inside.has(item.lineage)
  const unmoved = wanted.filter(
    (item) =>
      placeOf.has(item.lineage) &&
      !byBoth(item) &&
      !byMe.moved.has(item.lineage) &&
      !byMe.inserted.has(item.lineage) &&
      !byUpdate.deleted.has(item.lineage) &&
      isUnique(wanted, item),
  )
  unmoved.forEach((item, i) => {
    const before = unmoved[i - 1]
    if (before && placeOf.get(before.lineage)! > placeOf.get(item.lineage)! && byMe.moved.size + byUpdate.moved.size === 0)
      job.faults.push(`${at}: out of the update's order`)
  })
  checkMyOrder(wanted, placeOf, at, job)
}

const isUnique = (items: readonly Item[], item: Item): boolean =>
  items.filter((other) => print(toPlain(other.part)) === print(toPlain(item.part))).length === 1

/** What I put in or elsewhere stands between its neighbours of mine, where the update left their order alone. */
function checkMyOrder(wanted: readonly Item[], placeOf: ReadonlyMap<number, number>, at: string, job: Job): void {
  const { byMe, byUpdate, mine } = job.lineage
  if (byUpdate.moved.size > 0 || byMe.moved.size + byMe.inserted.size === 0) return
  const list = listWith(mine, wanted)
  if (!list) return
  const seen = list.filter((item) => placeOf.has(item.lineage) && isUnique(wanted, item))
  seen.forEach((item, i) => {
    const before = seen[i - 1]
    if (before && placeOf.get(before.lineage)! > placeOf.get(item.lineage)! && !isAsked(job, [at]))
      job.faults.push(`${at}: out of my order`)
  })
}

/** The list of a file that shares a lineage with these items. */
function listWith(part: Part, items: readonly Item[]): readonly Item[] | null {
  if (isItems(part)) {
    if (part.items.some((item) => items.some((other) => other.lineage === item.lineage))) return part.items
    for (const item of part.items) {
      const found = listWith(item.part, items)
      if (found) return found
    }
  } else if (isFields(part)) {
    for (const value of part.fields.values()) {
      const found = listWith(value, items)
      if (found) return found
    }
  }
  return null
}

const isTouched = (touched: Touched, item: Item): boolean =>
  touched.inside.has(item.lineage) ||
  touched.inserted.has(item.lineage) ||
  touched.deleted.has(item.lineage) ||
  (isFields(item.part) &&
    [...item.part.fields.values()].some((value) => isItems(value) && value.items.some((inner) => isTouched(touched, inner))))

/** Where an item stands in mine and in the factory copy. */
function pointersOf(lineage: number, job: Job): string[] {
  const find = (part: Part, at: string): string | null => {
    const inner = isItems(part)
      ? part.items.map((item, i) => (item.lineage === lineage ? `${at}/${i}` : find(item.part, `${at}/${i}`)))
      : isFields(part)
        ? [...part.fields].map(([key, value]) => find(value, `${at}/${key}`))
        : []
    return inner.find((pointer) => pointer !== null) ?? null
  }
  return [job.lineage.mine, job.lineage.factory].map((part) => find(part, '')).filter((pointer) => pointer !== null)
}

/** Whether an item is the update's version of one that I changed, which stands beside mine because nothing tied them together; mine asks. */
function isStale(item: unknown, job: Job): boolean {
  const text = print(item)
  const all = (part: Part): Item[] =>
    isItems(part)
      ? part.items.flatMap((inner) => [inner, ...all(inner.part)])
      : isFields(part)
        ? [...part.fields.values()].flatMap(all)
        : []
  return all(job.lineage.update).some(
    (other) =>
      print(shown(toPlain(other.part), job.dialect)) === text &&
      isTouched(job.lineage.byMe, other) &&
      isTouched(job.lineage.byUpdate, other) &&
      isAsked(job, pointersOf(other.lineage, job)),
  )
}

/** What names an item of the kinds that have names. */
function nameOf(part: Part): string | null {
  if (!isFields(part)) return null
  const name = part.fields.get('code') ?? part.fields.get('id') ?? part.fields.get('name')
  return name === undefined ? (part.fields.size === 1 ? [...part.fields.keys()][0]! : null) : String(name)
}

function nameOf2(data: unknown): string | null {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) return null
  const of = data as Record<string, unknown>
  const name = of['code'] ?? of['id'] ?? of['name']
  return name === undefined ? (Object.keys(of).length === 1 ? Object.keys(of)[0]! : null) : String(name)
}
