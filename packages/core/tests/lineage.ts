import type { ModelValue, Scalar, Section } from './arbitraries'

/**
 * Lists whose items have a hidden lineage: what an item came from is known here and nowhere in the file. Both sides
 * change copies of one list; what must come of it is worked out from the lineages, never from what the core says.
 */
export type Part = Scalar | Fields | Items
export interface Fields {
  readonly fields: ReadonlyMap<string, Part>
}
export interface Items {
  readonly items: readonly Item[]
}
export interface Item {
  readonly lineage: number
  readonly part: Part
}

export const isFields = (part: Part): part is Fields => typeof part === 'object' && part !== null && 'fields' in part
export const isItems = (part: Part): part is Items => typeof part === 'object' && part !== null && 'items' in part

export type Kind = 'codes' | 'ids' | 'sections' | 'steps' | 'nested' | 'mixed' | 'deep'

/** A seeded source of numbers. */
export type Next = () => number
export function seeded(seed: number): Next {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const SYLLABLES = ['ba', 'ke', 'li', 'mo', 'nu', 'ra', 'se', 'ti', 'vo', 'zu', 'da', 'pe']
const WORDS = ['reed', 'clay', 'eel', 'heron', 'barge', 'lantern', 'weir', 'quay', 'kiln', 'otter', 'saltfish', 'amber']

/** Makes files of one kind, and strangers for them; each item gets a lineage of its own. */
export class Maker {
  private lineages = 0
  private names = 0

  constructor(
    readonly kind: Kind,
    readonly next: Next,
  ) {}

  int(below: number): number {
    return Math.floor(this.next() * below)
  }
  pick<T>(list: readonly T[]): T {
    return list[this.int(list.length)]!
  }

  /** A name nobody else has. */
  name(): string {
    const at = ++this.names
    return [at % 12, Math.floor(at / 12) % 12, Math.floor(at / 144) % 12].map((i) => SYLLABLES[i]!).join('') + this.pick(['', 'n', 'r'])
  }

  item(part: Part): Item {
    return { lineage: ++this.lineages, part }
  }

  private readonly bodies = new Set<string>()

  /** Items that only their name tells apart cannot be told apart when it changes. */
  private distinct(make: () => Item): Item {
    for (let tries = 0; ; tries++) {
      const item = make()
      const body = JSON.stringify(Object.entries(toPlain(item.part) as object).filter(([key]) => key !== 'id'))
      // of very many there are not enough that differ
      if (this.bodies.has(body) && tries < 50) continue
      this.bodies.add(body)
      return item
    }
  }

  file(): Fields {
    const count = this.kind === 'deep' ? 2 + this.int(2) : 2 + this.int(5)
    return this.fields({
      title: this.pick(WORDS),
      goods: { items: Array.from({ length: count }, () => this.fresh()) },
      pause: this.int(900),
    })
  }

  private fields(of: Readonly<Record<string, Part>>): Fields {
    return { fields: new Map(Object.entries(of)) }
  }

  /** A new item of the kind, with nothing of another. */
  fresh(): Item {
    const number = (): number => 100 + this.int(100_000)
    const small = (): number => this.int(6)
    switch (this.kind) {
      case 'codes':
        return this.item(
          this.fields({ name: this.name(), code: this.name().toUpperCase(), number: number(), kind: this.pick(WORDS), price: small() }),
        )
      case 'ids':
        return this.distinct(() =>
          this.item(this.fields({ id: this.name(), weight: small(), slots: this.pick([9, 18, 27, 36, 45]), open: this.next() < 0.5 })),
        )
      case 'sections':
        return this.item(
          this.fields({ [this.name()]: this.fields({ shown: this.next() < 0.5, every: small(), colour: this.pick(WORDS) }) }),
        )
      case 'steps':
        return this.item(
          this.next() < 0.4 ? this.fields({ wait: this.pick([10, 20]) }) : this.fields({ say: `${this.pick(WORDS)} ${this.name()}` }),
        )
      case 'nested':
        return this.item(
          this.fields({
            when: this.fields({ tide: this.pick(['high', 'low']), hour: number() }),
            give: { items: [this.item(this.pick(WORDS)), this.item(this.name())] },
            laps: small(),
          }),
        )
      case 'mixed':
        return this.item(this.next() < 0.5 ? this.name() : this.fields({ [this.name()]: this.fields({ most: number(), warn: small() }) }))
      case 'deep': {
        const bits = (): Items => ({
          items: Array.from({ length: 2 + this.int(2) }, () =>
            this.item(this.fields({ id: this.name(), count: small(), of: this.pick(WORDS) })),
          ),
        })
        const parts: Items = {
          items: Array.from({ length: 2 + this.int(2) }, () => this.item(this.fields({ name: this.name(), size: small(), bits: bits() }))),
        }
        return this.item(this.fields({ id: this.name(), weight: small(), parts }))
      }
    }
  }

  /** Another value for a leaf, unlike all others. */
  other(value: Scalar): Scalar {
    if (typeof value === 'boolean') return !value
    if (typeof value === 'number') return 200_000 + this.int(1_000_000)
    return `${this.name()} ${this.name()}`
  }
}

/** What a file of the lineages says, for the writers of the tests. */
export function toModel(part: Part): ModelValue {
  if (isItems(part)) return part.items.map((item) => toModel(item.part))
  if (!isFields(part)) return part
  const entries: Section['entries'] = [...part.fields].map(([key, value]) => ({ key, comment: null, value: toModel(value) }))
  return { entries }
}

export function toPlain(part: Part): unknown {
  if (isItems(part)) return part.items.map((item) => toPlain(item.part))
  return isFields(part) ? Object.fromEntries([...part.fields].map(([key, value]) => [key, toPlain(value)])) : part
}

// ---- changes --------------------------------------------------------------------------------------------------------

export type Op = 'set' | 'name' | 'add' | 'addAll' | 'insert' | 'delete' | 'move' | 'stranger' | 'restructure'

/** What one side did to which lineages. */
export interface Touched {
  /** Leaves set or added, by lineage of the innermost item. */
  readonly inside: Set<number>
  readonly moved: Set<number>
  readonly deleted: Set<number>
  readonly inserted: Set<number>
  readonly ops: Op[]
}

/** One side's changes to a file, a few in a list, each in an item of its own where `apart`. */
export function change(file: Fields, maker: Maker, ops: readonly Op[], side: 'mine' | 'update'): { file: Fields; touched: Touched } {
  const touched: Touched = { inside: new Set(), moved: new Set(), deleted: new Set(), inserted: new Set(), ops: [] }
  const result = ops.reduce((current, op) => onList(current, maker, (items) => apply(items, op, maker, touched, side)), file)
  return { file: result, touched }
}

/** Changes one list of the file: the outer one, or one inside an item. */
function onList(fields: Fields, maker: Maker, change: (items: readonly Item[]) => readonly Item[] | null): Fields {
  const goods = fields.fields.get('goods') ?? fields.fields.get('parts') ?? fields.fields.get('bits')
  if (!goods || !isItems(goods)) return fields
  const key = [...fields.fields].find(([, value]) => value === goods)![0]
  const inner = goods.items.filter((item) => isFields(item.part) && (item.part.fields.has('parts') || item.part.fields.has('bits')))
  if (inner.length > 0 && maker.next() < 0.6) {
    const at = maker.pick(inner)
    const part = onList(at.part as Fields, maker, change)
    return with_(fields, key, { items: goods.items.map((item) => (item === at ? { ...item, part } : item)) })
  }
  const items = change(goods.items)
  return items ? with_(fields, key, { items }) : fields
}

const with_ = (fields: Fields, key: string, value: Part): Fields => ({
  fields: new Map([...fields.fields].map(([k, v]) => [k, k === key ? value : v])),
})

function apply(items: readonly Item[], op: Op, maker: Maker, touched: Touched, side: 'mine' | 'update'): readonly Item[] | null {
  const free = items.filter((item) => ![touched.inside, touched.moved, touched.inserted].some((set) => set.has(item.lineage)))
  if (free.length === 0) return null
  const at = maker.pick(free)
  const index = items.indexOf(at)
  const replaced = (part: Part, lineage = at.lineage): Item[] => items.map((item, i) => (i === index ? { lineage, part } : item))
  // two changes side by side that could as well be one edit in place are left to the tables of cases
  const besides = [items[index - 1], items[index + 1]].some(
    (item) => item && (touched.inserted.has(item.lineage) || touched.inside.has(item.lineage)),
  )
  const short = maker.kind === 'steps' || maker.kind === 'mixed'
  const says = (item: Item): string => JSON.stringify(toPlain(item.part))
  const done = (result: readonly Item[]): readonly Item[] => {
    touched.ops.push(op)
    return result
  }
  switch (op) {
    case 'set':
    case 'name': {
      // a short item that changed wholly is known by its place alone, so it must have one
      if (
        short &&
        (touched.deleted.size + touched.moved.size + touched.inserted.size > 0 ||
          items.some((item) => item !== at && says(item) === says(at)))
      )
        return null
      // one that got another name and lost parts at once is a stranger
      if (op === 'name' && isFields(at.part) && [...at.part.fields.values()].some((value) => isItems(value)) && touched.ops.length > 0)
        return null
      const changed = setLeaf(at.part, maker, op === 'name')
      if (changed === null) return null
      touched.inside.add(at.lineage)
      return done(replaced(changed))
    }
    case 'add': {
      if (!isFields(at.part) || maker.kind === 'steps' || maker.kind === 'sections' || maker.kind === 'mixed') return null
      touched.inside.add(at.lineage)
      return done(replaced({ fields: new Map([...at.part.fields, [`${side}-${maker.name()}`, maker.int(9)]]) }))
    }
    case 'addAll': {
      if (maker.kind === 'steps' || maker.kind === 'sections' || maker.kind === 'mixed') return null
      const key = `${side}-all`
      if (items.some((item) => !isFields(item.part) || item.part.fields.has(key))) return null
      for (const item of items) touched.inside.add(item.lineage)
      return done(items.map((item) => ({ ...item, part: { fields: new Map([...(item.part as Fields).fields, [key, maker.int(9)]]) } })))
    }
    case 'insert': {
      if (besides || touched.deleted.size > 0 || (short && touched.inside.size > 0)) return null
      const fresh = sibling(at, maker)
      if (short && items.some((item) => says(item) === says(fresh))) return null
      touched.inserted.add(fresh.lineage)
      return done([...items.slice(0, index), fresh, ...items.slice(index)])
    }
    case 'delete': {
      if (items.length < 2 || besides || touched.inserted.size + touched.moved.size > 0 || (short && touched.inside.size > 0)) return null
      // which of several that say the same went, nobody can tell
      if (items.some((item) => item !== at && says(item) === says(at))) return null
      touched.deleted.add(at.lineage)
      return done(items.filter((item) => item !== at))
    }
    case 'move': {
      const to = maker.int(items.length)
      // an item that says what another says cannot be told to have moved
      if (
        to === index ||
        (short && touched.inside.size > 0) ||
        items.some((item) => item !== at && says(item) === says(at)) ||
        touched.deleted.size > 0
      )
        return null
      touched.moved.add(at.lineage)
      const rest = items.filter((item) => item !== at)
      return done([...rest.slice(0, to), at, ...rest.slice(to)])
    }
    case 'stranger': {
      if (!['codes', 'ids', 'deep'].includes(maker.kind) || besides || touched.inserted.size + touched.deleted.size > 0) return null
      const fresh = sibling(at, maker)
      touched.deleted.add(at.lineage)
      touched.inserted.add(fresh.lineage)
      return done(replaced(apartFrom(at.part, fresh.part, maker), fresh.lineage))
    }
    case 'restructure': {
      if (maker.kind !== 'nested' || !isFields(at.part)) return null
      touched.inside.add(at.lineage)
      return done(replaced(with_(at.part, 'when', { items: [maker.item(`${maker.name()} tide`)] })))
    }
  }
}

/** A new item such as this one is: of the list it stands in. */
function sibling(at: Item, maker: Maker): Item {
  const anew = (part: Part): Part => {
    if (isItems(part)) return { items: part.items.map((item) => maker.item(anew(item.part))) }
    if (isFields(part)) return { fields: new Map([...part.fields].map(([key, value]) => [key, anew(value)])) }
    return typeof part === 'string' ? maker.name() : maker.other(part)
  }
  return maker.kind === 'deep' ? maker.item(anew(at.part)) : maker.fresh()
}

/** A stranger has no value in common with what stood there. */
function apartFrom(old: Part, fresh: Part, maker: Maker): Part {
  if (isItems(old) && isItems(fresh)) return fresh
  if (isFields(old) && isFields(fresh))
    return {
      fields: new Map(
        [...fresh.fields].map(([key, value]) => [key, old.fields.has(key) ? apartFrom(old.fields.get(key)!, value, maker) : value]),
      ),
    }
  return old === fresh && typeof fresh !== 'object' ? maker.other(fresh) : fresh
}

/** Another value for a leaf of an item: for its naming key, or for any other. */
function setLeaf(part: Part, maker: Maker, naming: boolean): Part | null {
  if (isItems(part)) return null
  if (!isFields(part)) return naming ? null : maker.other(part)
  const names = ['name', 'code', 'number', 'id']
  const keys = [...part.fields.keys()].filter((key) => names.includes(key) === naming && !isItems(part.fields.get(key)!))
  if (keys.length === 0) return null
  const key = maker.pick(keys)
  const value = part.fields.get(key)!
  const changed = typeof value === 'object' && value !== null ? setLeaf(value, maker, false) : maker.other(value)
  return changed === null ? null : with_(part, key, changed)
}

// ---- what must come of it -------------------------------------------------------------------------------------------

const same = (a: Part | undefined, b: Part | undefined): boolean =>
  a !== undefined && b !== undefined && JSON.stringify(toPlain(a)) === JSON.stringify(toPlain(b))

/** The merge as the lineages say: the update with what is mine, items in the update's order but for those I put elsewhere. */
export function expected(f: Part, m: Part, u: Part): Part {
  if (same(f, m)) return u
  if (same(f, u)) return m
  if (isFields(f) && isFields(m) && isFields(u)) {
    const fields = new Map<string, Part>()
    for (const [key, value] of u.fields) {
      const [old, mine] = [f.fields.get(key), m.fields.get(key)]
      if (old === undefined) fields.set(key, value)
      else if (mine !== undefined) fields.set(key, expected(old, mine, value))
    }
    for (const [key, value] of m.fields) if (!f.fields.has(key)) fields.set(key, value)
    return { fields }
  }
  if (isItems(f) && isItems(m) && isItems(u)) return { items: mergeItems(f.items, m.items, u.items) }
  // one of the two made another kind of it: the update's where it was the update, mine where it was I
  return isFields(f) !== isFields(u) || isItems(f) !== isItems(u) ? u : m
}

function mergeItems(f: readonly Item[], m: readonly Item[], u: readonly Item[]): Item[] {
  const old = new Map(f.map((item) => [item.lineage, item]))
  const own = new Map(m.map((item) => [item.lineage, item]))
  const next = new Map(u.map((item) => [item.lineage, item]))
  const kept = u.filter((item) => own.has(item.lineage) || !old.has(item.lineage))
  const result = kept.map((item) =>
    own.has(item.lineage) && old.has(item.lineage)
      ? { ...item, part: expected(old.get(item.lineage)!.part, own.get(item.lineage)!.part, item.part) }
      : item,
  )
  // what both put in alike stands once
  const theirs = u.filter((item) => !old.has(item.lineage)).map((item) => JSON.stringify(toPlain(item.part)))
  m.forEach((item, at) => {
    const alike = old.has(item.lineage) ? -1 : theirs.indexOf(JSON.stringify(toPlain(item.part)))
    if (alike >= 0) return void theirs.splice(alike, 1)
    const added = !old.has(item.lineage)
    const keptMine = old.has(item.lineage) && !next.has(item.lineage) && !same(old.get(item.lineage)!.part, item.part)
    if (!added && !keptMine) return
    const before = m
      .slice(0, at)
      .reverse()
      .find((other) => result.some((there) => there.lineage === other.lineage))
    const place = before ? result.findIndex((there) => there.lineage === before.lineage) + 1 : 0
    result.splice(place, 0, item)
  })
  return result
}
