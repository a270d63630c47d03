import { amountOf, kindOf } from '../tree/compare'
import type { Container, Entry, Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { fromJson } from '../tree/values'
import { commentedOut, type OffSetting } from '../formats/commented'
import { myComments, placeComments, placeTail, type KnownComments } from './comments'
import type { Facts, Found, Verdict } from './decide'
import { hasParts } from './groups'
import type { TreeIndex } from './index-tree'
import type { Link } from './pairing/pair-items'
import type { Notes } from './notes'
import { Patch, type Spot } from './patch'
import { carryEntry, placeData, placeTurnedOn, placeValue } from './place'
import type { Reason } from './reasons'
import { convert, scaleChange, type Scale } from './scale'
import type { Sides } from './sides'
import { isStamp } from './stamp'
import type { Option } from './types'

/** One setting in the versions that have it. */
export interface Setting {
  readonly f: Entry | null
  readonly m: Entry | null
  readonly u: Entry | null
}

/** A place in the update's files: in a section or list, behind the entry at a position. */
export interface Beside {
  readonly container: Container
  readonly owner: Entry | null
  readonly after: number
}

/** A setting that all of mine and the update have. */
export interface Both {
  readonly f: Entry | null
  readonly m: Entry
  readonly u: Entry
}

/** Writes what `decide` says as edits of the update's text, and notes it as a decision; a choice somebody made goes first. */
export class Renderer {
  readonly patch: Patch
  private readonly mine: TreeIndex
  private readonly update: TreeIndex
  /** Where entries of mine went that the update did not have. */
  readonly insertedAs = new Map<Entry, Spot>()

  constructor(
    private readonly sides: Sides,
    private readonly notes: Notes,
    private readonly known: KnownComments,
  ) {
    this.mine = sides.mine
    this.update = sides.update
    this.patch = new Patch(sides.update)
  }

  /** The update's value, as data; likewise of mine and of the factory copy. */
  private u(entry: Entry): unknown {
    return this.sides.json(this.update, entry)
  }
  private m(entry: Entry): unknown {
    return this.sides.json(this.mine, entry)
  }

  // ---- one setting in both ------------------------------------------------------------------------------------

  /** What is known of a setting that mine and the update have. */
  facts(f: Entry | null, m: Entry, u: Entry, found: Found | null, doubt: Link | null): Facts {
    const { sides, mine, update } = this
    const factory = sides.factory
    const baseline = factory !== null
    const mineIsFactory = f !== null && sides.same(factory!, f, mine, m)
    const updateIsFactory = f !== null && sides.same(factory!, f, update, u)
    const mineIsUpdate = sides.same(mine, m, update, u)
    const stamp = isStamp(u.key, u.value)
    const sameKind = kindOf(m.value) === kindOf(u.value)
    const kindMoved = f !== null && !updateIsFactory && kindOf(f.value) !== kindOf(u.value)
    const kinds = kindMoved ? { kinds: { from: kindWord(f.value), to: kindWord(u.value) } } : {}
    const scale = f && sameKind && !mineIsFactory && !mineIsUpdate ? (this.scale(f, m, u)?.reason ?? null) : null
    return {
      baseline,
      inFactory: f !== null,
      inMine: true,
      inUpdate: true,
      mineIsFactory,
      updateIsFactory,
      mineIsUpdate,
      stamp,
      sameKind,
      kindMoved,
      ...kinds,
      scale,
      found,
      doubt,
    }
  }

  /** Writes one setting; gives the entry mine went into when the update's became a section. */
  leaf(f: Entry | null, m: Entry, u: Entry, verdict: Verdict, facts: Facts): Entry | null {
    const { notes } = this
    const both = { f, m, u }
    const base = { ...both, id: this.sides.idOf(f, m, u), spot: { type: 'entry', entry: u } as Spot, confidence: facts.found?.confidence }
    const chosen = notes.choice(base.id)
    if (verdict.outcome === 'unchanged' && !chosen) return null
    if (verdict.outcome === 'took-update' && !chosen) notes.add({ ...base, result: this.u(u), options: this.options(both) }, verdict)
    else if (verdict.take === 'update' && !(chosen && verdict.outcome !== 'stamp')) notes.add({ ...base, result: this.u(u) }, verdict)
    else if (verdict.take === 'fitting') return this.fitting(both, base, verdict)
    else {
      const said =
        verdict.outcome === 'unchanged' || verdict.take === 'update'
          ? { ...verdict, outcome: 'kept-mine' as const, because: [{ code: 'update-left-it' } as const] }
          : verdict
      const scale = f ? this.scale(f, m, u) : null
      const options = this.options(both, facts.scale ? scale?.converted : undefined)
      notes.add({ ...base, options, result: this.settle(both, base.id, options, 'mine') }, said)
    }
    return null
  }

  /** What somebody may choose for a setting in both. */
  options({ f, m, u }: Both, converted?: number): Option[] {
    const factory =
      f && !this.sides.same(this.sides.factory!, f, this.update, u)
        ? [{ id: 'factory' as const, value: this.sides.json(this.sides.factory!, f) }]
        : []
    return [
      { id: 'mine', value: this.m(m) },
      ...(converted !== undefined ? [{ id: 'converted' as const, value: converted }] : []),
      { id: 'update', value: this.u(u) },
      ...factory,
    ]
  }

  private scale(f: Entry, m: Entry, u: Entry): (Scale & { converted: number }) | null {
    const factory = this.sides.factory!
    const before = amountOf(factory.documentOf(f), f.value)
    const amount = amountOf(this.mine.documentOf(m), m.value)
    const after = amountOf(this.update.documentOf(u), u.value)
    if (before === null || amount === null || after === null) return null
    const [said, says] = [factory.comment(f), this.update.comment(u)]
    if (before === after && said === says && f.key === u.key) return null
    const scale = scaleChange({ key: f.key, comment: said, value: before }, { key: u.key, comment: says, value: after })
    return scale && { ...scale, converted: convert(amount, scale) }
  }

  /** Takes the choice made, or the default, and writes the value; gives what the setting holds then. */
  private settle({ f, m, u }: Both, id: string, options: readonly Option[], byDefault: 'mine' | 'update'): unknown {
    const taken = this.notes.choice(id) ?? byDefault
    if (taken === 'mine' || taken === 'keep') {
      this.patch.edit(u, placeValue(this.update, u, this.mine, m))
      return this.m(m)
    }
    if (taken === 'factory' && f) {
      this.patch.edit(u, placeValue(this.update, u, this.sides.factory!, f))
      return this.sides.json(this.sides.factory!, f)
    }
    if (taken !== 'value' && taken !== 'converted') return this.u(u)
    const value = taken === 'value' ? this.notes.chosenValue(id) : options.find((option) => option.id === 'converted')?.value
    this.patch.edit(u, placeData(this.update, u, fromJson(value)))
    return value
  }

  /** The update made another kind of it: mine goes where its kind fits. */
  private fitting(both: Both & { f: Entry | null }, base: Omit<Parameters<Notes['add']>[0], 'result'>, verdict: Verdict): Entry | null {
    const { m, u } = both
    const f = both.f!
    const options = this.options(both)
    const note = (result: unknown, more: readonly Reason[] = [], spot: Spot = base.spot): void =>
      this.notes.add(
        { ...base, spot, options, result },
        { ...verdict, because: [...verdict.because.slice(0, 1), ...more, ...verdict.because.slice(1)] },
      )
    const choice = this.notes.choice(base.id)
    const byDefault = !choice || choice === 'mine'
    const fits = m.value.type === 'scalar' && u.value.type === 'scalar' && (u.value.kind === 'text' || u.value.kind === 'null')
    if (fits) note(this.settle(both, base.id, options, 'mine'))
    else if (byDefault && m.value.type === 'scalar' && u.value.type === 'list' && !hasParts([u.value])) {
      const value = [this.m(m)]
      this.patch.edit(u, placeData(this.update, u, fromJson(value)))
      note(value, [{ code: 'kind-wrapped' }])
    } else {
      const inner = byDefault ? this.innerHome(f, u) : null
      if (inner) {
        this.patch.edit(inner, placeValue(this.update, inner, this.mine, m))
        note(this.m(m), [{ code: 'kind-inner', key: inner.key }], { type: 'entry', entry: inner })
        return inner
      }
      if (choice) note(this.settle(both, base.id, options, 'update'))
      else note(this.u(u), [{ code: 'kind-fits-nowhere' }])
    }
    return null
  }

  /** When a value became a section, the one entry of it that holds the old default. */
  private innerHome(f: Entry, u: Entry): Entry | null {
    if (u.value.type !== 'map' || f.value.type !== 'scalar') return null
    const homes = u.value.entries.filter((entry) => this.sides.same(this.sides.factory!, f, this.update, entry))
    return homes.length === 1 ? homes[0]! : null
  }

  // ---- what only one side has ---------------------------------------------------------------------------------

  removed(ef: Entry, eu: Entry, verdict: Verdict, found: Found | null): void {
    const id = this.sides.idOf(ef, null, null)
    const choice = this.notes.choice(id)
    const stays = verdict.take === 'update' ? choice !== 'drop' : choice === 'update' || choice === 'keep'
    if (!stays) this.patch.remove(eu)
    const spot: Spot = stays ? { type: 'entry', entry: eu } : this.sides.nowhere(ef, null, null)
    const result = stays && verdict.take !== 'update' ? { result: this.u(eu) } : {}
    const options: Option[] = [{ id: 'drop' }, { id: 'update', value: this.u(eu) }]
    const outcome = verdict.take === 'update' && choice === 'drop' ? ('stays-removed' as const) : verdict.outcome
    this.notes.add({ id, f: ef, u: eu, spot, options, confidence: found?.confidence, ...result }, { ...verdict, outcome })
  }

  /** What the update has no more: it goes, stays beside its neighbours, or is kept aside. */
  gone(ef: Entry, em: Entry, verdict: Verdict, beside: Beside | null): void {
    const id = this.sides.idOf(ef, em, null)
    if (verdict.take === 'aside') return this.aside(ef, em, verdict)
    if (verdict.take === 'nothing' || !beside) {
      this.notes.add({ id, spot: this.sides.nowhere(ef, em, null), f: ef, m: em }, verdict)
      return this.lostComments(em)
    }
    const keep = this.notes.choice(id) !== 'drop'
    const spot = keep ? this.insert(em, beside) : this.sides.nowhere(ef, em, null)
    const options: Option[] = [{ id: 'keep', value: this.m(em) }, { id: 'drop' }]
    this.notes.add(
      { id, spot, f: ef, m: em, options, ...(keep ? { result: this.m(em) } : {}) },
      keep ? verdict : { ...verdict, outcome: 'kept-aside' },
    )
  }

  added(
    em: Entry,
    verdict: Verdict,
    beside: Beside | null,
    level: { f: Container | null; u: Container | null; owner: Entry | null },
  ): void {
    if (verdict.take === 'aside' || !beside) return this.aside(null, em, verdict)
    const id = this.sides.idOf(null, em, null)
    const drop = this.notes.choice(id) === 'drop'
    const off = drop || !level.u ? null : this.turnedOn(level.f, em, level.u)
    const spot = drop ? this.sides.nowhere(null, em, null) : off ? this.turnOn(em, off, level.u!, level.owner) : this.insert(em, beside)
    const because: readonly Reason[] = off ? [{ code: 'switched-on' }, ...verdict.because.slice(1)] : verdict.because
    const options: Option[] = [{ id: 'keep', value: this.m(em) }, { id: 'drop' }]
    this.notes.add(
      { id, spot, m: em, options, ...(drop ? {} : { result: this.m(em) }) },
      { ...verdict, because, outcome: drop ? 'dropped' : verdict.outcome },
    )
  }

  private insert(em: Entry, { container, owner, after }: Beside): Spot {
    const spot = this.patch.insert(container, owner, after, carryEntry(this.mine, em, this.update, container, owner), em.key)
    this.insertedAs.set(em, spot)
    return spot
  }

  /** Mine cannot stand in the new file; it is named, and can be put back by a choice. */
  private aside(ef: Entry | null, em: Entry, verdict: Verdict): void {
    const id = this.sides.idOf(ef, em, null)
    const root = this.sides.peers({ index: this.mine, entry: em })?.update?.root ?? this.update.document.root
    const keep = this.notes.choice(id) === 'keep' && root.type === 'map' && !this.update.find(root, em.key)
    const spot = keep ? this.insert(em, { container: root, owner: null, after: root.entries.length - 1 }) : this.sides.nowhere(ef, em, null)
    const options: Option[] = [{ id: 'drop' }, { id: 'keep', value: this.m(em) }]
    this.notes.add(
      { id, spot, f: ef, m: em, options, ...(keep ? { result: this.m(em) } : {}) },
      { ...verdict, outcome: keep ? 'kept-mine' : 'kept-aside' },
    )
    if (!keep) this.lostComments(em)
  }

  cannotHold({ f, m, u }: Setting, message: string): void {
    const spot: Spot = u ? { type: 'entry', entry: u } : this.sides.nowhere(f, m, u)
    this.notes.add(
      { id: this.sides.idOf(f, m, u), spot, f, m, u, ...(u ? { result: this.u(u) } : {}) },
      { outcome: 'kept-aside', weight: 'decide', because: [{ code: 'cannot-hold', message }] },
    )
  }

  nameTaken(em: Entry, eu: Entry, ef: Entry): void {
    const path = formatPointer(this.sides.factory!.keys(ef))
    this.notes.add(
      { id: this.sides.idOf(null, em, null), spot: this.sides.nowhere(null, em, null), m: em, u: eu },
      { outcome: 'kept-aside', weight: 'decide', because: [{ code: 'name-taken', path }] },
    )
  }

  newInGroup(eu: Entry, verdict: Verdict): void {
    const id = this.sides.idOf(null, null, eu)
    const choice = this.notes.choice(id)
    const keep = verdict.outcome === 'offered' ? choice === 'keep' || choice === 'update' : choice !== 'drop'
    if (!keep) this.patch.remove(eu)
    const spot: Spot = keep ? { type: 'entry', entry: eu } : this.sides.nowhere(null, null, eu)
    const options: Option[] = [{ id: 'drop' }, { id: 'keep', value: this.u(eu) }]
    this.notes.add({ id, u: eu, spot, options, ...(keep ? { result: this.u(eu) } : {}) }, verdict)
  }

  newSetting(eu: Entry, verdict: Verdict): void {
    const id = this.sides.idOf(null, null, eu)
    const own = this.notes.choice(id) === 'value'
    if (own) this.patch.edit(eu, placeData(this.update, eu, fromJson(this.notes.chosenValue(id))))
    const result = own ? this.notes.chosenValue(id) : this.u(eu)
    this.notes.add({ id, spot: { type: 'entry', entry: eu }, u: eu, result, options: [{ id: 'update', value: this.u(eu) }] }, verdict)
  }

  // ---- switched-on comments -----------------------------------------------------------------------------------

  private turnOn(em: Entry, off: OffSetting, u: Container, owner: Entry | null): Spot {
    const comments = myComments(this.mine, em, this.known).attached
    return this.patch.becomes(u, owner, placeTurnedOn(this.mine, em, this.update, u, owner, off, comments), em.key)
  }

  /** The comment that holds this setting switched off in the update, if the factory copy had one, which mine made a setting of. */
  private turnedOn(f: Container | null, em: Entry, u: Container): OffSetting | null {
    const { factory } = this.sides
    if (!f || !factory || this.mine.seat(em).parent.type !== 'map') return null
    const offIn = (index: TreeIndex, container: Container): OffSetting | null =>
      this.off(index, container).find((item) => item.key === em.key) ?? null
    return offIn(factory, f) && !offIn(this.mine, this.mine.seat(em).parent) ? offIn(this.update, u) : null
  }

  private readonly offSettings = new Map<Container, readonly OffSetting[]>()

  private off(index: TreeIndex, container: Container): readonly OffSetting[] {
    let known = this.offSettings.get(container)
    if (!known) this.offSettings.set(container, (known = commentedOut(index.documentAround(container), container)))
    return known
  }

  // ---- comments -----------------------------------------------------------------------------------------------

  /** Puts my comments at a setting of the update. */
  comments(m: Entry, u: Entry): void {
    this.lose(m, placeComments(myComments(this.mine, m, this.known), this.update, u, this.patch))
  }

  tail(m: Container, u: Container | null, owner: Entry | null): void {
    if (!u) return
    const lost = placeTail(this.mine, m, this.update, u, owner, this.known, this.patch)
    const document = this.update.documentAround(u)
    const pointer = owner ? formatPointer(this.update.keys(owner)) : ''
    this.notes.lostComment({ type: 'elsewhere', pointer, document }, `${document.file ?? ''}${pointer}`, lost, { code: 'comment-homeless' })
  }

  lostComments(em: Entry): void {
    const own = myComments(this.mine, em, this.known)
    this.lose(em, [...own.loose, ...own.attached, ...(own.trail ? [own.trail] : [])])
  }

  private lose(em: Entry, lines: readonly string[]): void {
    this.notes.lostComment(this.sides.nowhere(null, em, null), this.sides.name({ index: this.mine, entry: em }), lines, {
      code: 'comment-gone',
    })
  }
}

function kindWord(node: Node): string {
  const words: Record<string, string> = {
    map: 'a section',
    list: 'a list',
    text: 'text',
    number: 'a number',
    bool: 'a switch',
    null: 'empty',
    alias: 'a reference',
  }
  return words[kindOf(node)] ?? kindOf(node)
}
