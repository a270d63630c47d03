import { describe, expect, it } from 'vitest'
import { applyEdits } from '@pasticcio/core'
import type { Operation, SheetEngine } from '../../app/drafts/engine'
import { fromWire, toWire } from '../../app/drafts/wire'
import { CodeText, NumberText, type Value } from '@pasticcio/core'
import { engineOf } from './world'

const FACTORY = `# Marks a newcomer has. At least 0.
start: 250
bank:
  # From 0 to 1.
  interest: 0.01
  fees: [1, 2]
stalls:
  reed:
    price: 5
    title: "Reeds"
  clay:
    price: 9
    title: "Clay"
  tin:
    price: 12
    title: "Tin"
gone: true
`
const MINE = FACTORY.replace('start: 250', 'start: 300').replace('gone: true\n', '').replace('price: 9', 'price: 10')
const all = { from: 0, to: 999, onlyMine: false, focus: '' }
const mine = (): SheetEngine =>
  engineOf(MINE, { factory: FACTORY, base: FACTORY, update: FACTORY.replace('interest: 0.01', 'interest: 0.02') })

describe('the engine of a sheet', () => {
  it('has a row for every setting, head and missing setting', () => {
    const { rows, settings, updates, count } = mine().sheet(all)
    expect(rows.map((row) => `${row.type} ${row.pointer}${row.mine ? ' mine' : ''}`)).toEqual([
      'setting /start mine',
      'section /bank',
      'setting /bank/interest',
      'setting /bank/fees',
      'section /stalls mine',
      'entry /stalls/reed',
      'setting /stalls/reed/price',
      'setting /stalls/reed/title',
      'entry /stalls/clay mine',
      'setting /stalls/clay/price mine',
      'setting /stalls/clay/title',
      'entry /stalls/tin',
      'setting /stalls/tin/price',
      'setting /stalls/tin/title',
      'removed /gone mine',
    ])
    expect([settings, updates, count]).toEqual([9, 1, 15])
    expect(rows[4]).toMatchObject({ settings: 6, mineCount: 1 })
    expect(rows[2]).toMatchObject({ update: '0.02', factory: '0.01', line: 5, comment: 'From 0 to 1.' })
  })

  it('gives the part that is looked at, and only mine where that is asked for', () => {
    const engine = mine()
    expect(engine.sheet({ ...all, from: 5, to: 7 }).rows.map((row) => row.pointer)).toEqual(['/stalls/reed', '/stalls/reed/price'])
    const { rows, count } = engine.sheet({ ...all, onlyMine: true })
    expect(rows.map((row) => row.pointer)).toEqual(['/start', '/stalls', '/stalls/clay', '/stalls/clay/price', '/gone'])
    expect(count).toBe(5)
  })

  it('knows the entry around the line in focus, wherever that is', () => {
    const { focus, rows } = mine().sheet({ ...all, to: 0, focus: '/stalls/clay/title' })
    expect(rows).toEqual([])
    expect(focus).toMatchObject({ index: 10, row: { pointer: '/stalls/clay/title' }, entry: { pointer: '/stalls/clay' } })
    expect(mine().sheet({ ...all, focus: '/none' }).focus).toBeNull()
  })

  it('tells what has not changed only once', () => {
    const engine = mine()
    const first = engine.sheet(all)
    expect([first.shapes?.length, first.findings, first.mineLines, first.updateLines]).toEqual([
      15,
      [],
      new Uint32Array([2, 12]),
      new Uint32Array([5]),
    ])
    const again = engine.sheet(all)
    expect([again.shapes, again.findings, again.mineLines, again.updateLines]).toEqual([null, null, null, null])
  })

  const operations: readonly (readonly [Operation, string | RegExp])[] = [
    [{ kind: 'set', pointer: '/start', value: { number: '1.50' } }, MINE.replace('start: 300', 'start: 1.50')],
    [{ kind: 'set', pointer: '/start', value: 'soon' }, MINE.replace('start: 300', 'start: soon')],
    [{ kind: 'set', pointer: '/bank/fees', value: [{ number: '1' }] }, MINE.replace('[1, 2]', '[1]')],
    [{ kind: 'to-factory', pointer: '/start' }, MINE.replace('start: 300', 'start: 250')],
    [{ kind: 'to-factory', pointer: '/gone' }, MINE + 'gone: true\n'],
    [{ kind: 'remove', pointer: '/stalls/reed' }, MINE.replace('  reed:\n    price: 5\n    title: "Reeds"\n', '')],
    [{ kind: 'duplicate', pointer: '/stalls/tin', name: 'lead' }, MINE + '  lead:\n    price: 12\n    title: "Lead"\n'],
    [{ kind: 'set', pointer: '/none', value: 1 }, /there is no setting \/none/],
    [{ kind: 'duplicate', pointer: '/stalls/tin', name: 'clay' }, /is there already/],
  ]
  it.each(operations)('%j', (operation, expected) => {
    const result = mine().operate(operation)
    if (expected instanceof RegExp) expect('problem' in result && result.problem).toMatch(expected)
    else expect('edits' in result && applyEdits(MINE, result.edits)).toBe(expected)
  })

  it('after edits shows what a fresh look at the new text shows', () => {
    const engine = mine()
    let text = MINE
    engine.sheet(all)
    const steps: Operation[] = [
      { kind: 'set', pointer: '/bank/interest', value: { number: '7' } },
      { kind: 'duplicate', pointer: '/stalls/clay', name: 'lime' },
      { kind: 'set', pointer: '/start', value: 'soon' },
      { kind: 'remove', pointer: '/stalls/reed' },
    ]
    for (const step of steps) {
      const result = engine.operate(step)
      if (!('edits' in result)) throw new Error(result.problem)
      text = applyEdits(text, result.edits)
      engine.edit(result.edits)
      const fresh = engineOf(text, { factory: FACTORY, base: FACTORY, update: FACTORY.replace('interest: 0.01', 'interest: 0.02') })
      const [now, wanted] = [engine.sheet(all), fresh.sheet(all)]
      expect(now.rows).toEqual(wanted.rows)
      expect(now.findingCount).toBe(wanted.findingCount)
      expect(engine.customisations()).toBe(fresh.customisations())
    }
    expect(mine().sheet(all).findingCount).toBe(0)
    expect(engine.sheet(all).findingCount).toBe(2)
  })

  it('places findings at their rows, and finds rows by line', () => {
    const engine = engineOf(FACTORY.replace('0.01', '7').replace('price: 12', 'price: many'), { factory: FACTORY })
    expect(engine.sheet(all).findings?.map(({ line, code, pointer }) => `${line} ${code} ${pointer}`)).toEqual([
      '5 out-of-range /bank/interest',
      '15 number-expected /stalls/tin/price',
    ])
    expect([1, 2, 4, 9, 99].map((line) => engine.pointerAtLine(line))).toEqual(['', '/start', '/bank', '/stalls/reed/price', '/gone'])
  })

  it('finds the next row, of all or of mine', () => {
    const engine = mine()
    expect(engine.seek('/start', 1, 'any', false)).toBe('/bank')
    expect(engine.seek('/start', 1, 'mine', false)).toBe('/stalls/clay')
    expect(engine.seek('/bank', 1, 'setting', false)).toBe('/bank/interest')
    expect(engine.seek('/gone', 1, 'any', false)).toBe('/gone')
    expect(engine.seek('/gone', -1, 'mine', true)).toBe('/stalls/clay/price')
  })

  it('a file that is as it was shipped has one of mine after one edit, wherever that is', () => {
    for (const [from, to] of [
      ['250', '30000'],
      ['"Reeds"', '"The reeds of the row"'],
      ['12', '1'],
    ] as const) {
      const engine = engineOf(FACTORY, { factory: FACTORY })
      expect(engine.customisations()).toBe(0)
      const at = FACTORY.indexOf(from)
      engine.edit([{ from: at, to: at + from.length, insert: to }])
      expect(engine.customisations()).toBe(1)
    }
  })

  it('shows a file of no known format, and one that the server writes, without complaint', () => {
    const unknown = engineOf('x', { path: 'a.bin', factory: null })
    expect(unknown.sheet(all)).toMatchObject({ count: 0, settings: 0, findingCount: 0 })
    expect(unknown.operate({ kind: 'remove', pointer: '/a' })).toHaveProperty('problem')
    unknown.edit([{ from: 0, to: 1, insert: 'y' }])
    expect(engineOf('a: "x\n', { checked: false, factory: null }).sheet(all).findingCount).toBe(0)
  })
})

describe('a text that is typed letter by letter', () => {
  it.each([
    ['host: 127.0.0.1\n', '0.0.0.0', 'host: 0.0.0.0\n'],
    ['host: old.example\n', 'https://x.example', 'host: https://x.example\n'],
    ["host: 'a'\n", 'plain', "host: 'plain'\n"],
    ['host: a\n', 'in: need', "host: 'in: need'\n"],
  ])('%j ends in the quotes it began with, or those it needs: %s', (text, typed, expected) => {
    const engine = engineOf(text, { factory: text })
    let now = text
    for (let i = 1; i <= typed.length; i++) {
      const result = engine.operate({ kind: 'set', pointer: '/host', value: typed.slice(0, i) })
      if (!('edits' in result)) throw new Error(result.problem)
      now = applyEdits(now, result.edits)
      engine.edit(result.edits)
    }
    expect(now).toBe(expected)
  })
})

describe('values on their way to the worker', () => {
  it.each([[null], [true], ['1.50'], [5], [['a', 'b']]])('%j stays what it is', (value) => {
    expect(fromWire(toWire(value as never))).toEqual(value)
  })

  it('numbers keep their spelling, also in lists', () => {
    expect(fromWire(structuredClone(toWire([new NumberText('1.50'), 'x'])))).toEqual([new NumberText('1.50'), 'x'])
    const place = new Map<string, Value>([
      ['x', new NumberText('1.50')],
      ['world', 'delta'],
    ])
    expect(fromWire(structuredClone(toWire(place)))).toEqual(place)
    expect(() => toWire(new CodeText('x()', 'lua'))).toThrow(TypeError)
  })

  it('looks for everything at each key of a small file, and of a large one when nobody types', () => {
    const known = { items: new Set(['clay', 'reed']) }
    const large = Array.from({ length: 3000 }, (_, i) => `n${i}: text ${i}\n`).join('')
    for (const [more, isLarge] of [
      ['', false],
      [large, true],
    ] as const) {
      const factory = `# Any item of the game.\nicon: clay\n${more}`
      const engine = engineOf(factory, { factory, base: factory, known })
      expect(engine.rest()).toBe(false)
      const result = engine.operate({ kind: 'set', pointer: '/icon', value: 'raed' })
      if (!('edits' in result)) throw new Error(result.problem)
      engine.edit(result.edits)
      expect(engine.sheet(all).findingCount).toBe(isLarge ? 0 : 1)
      expect(engine.rest()).toBe(isLarge)
      expect(engine.sheet({ ...all, fresh: true }).findings?.map(({ code, fix }) => [code, fix?.label])).toEqual([['unknown-id', 'reed']])
    }
  })

  it('hears what only the server can find, which moves along with what is typed and goes where it is mended', () => {
    const engine = engineOf(MINE, { factory: FACTORY, base: FACTORY })
    const own = engine.sheet(all).findings ?? []
    const at = MINE.indexOf('price: 10')
    const heard = {
      code: 'node-of-no-group',
      severity: 'warning',
      from: at,
      to: at + 9,
      message: 'No group.',
      file: 'a.yml',
      check: 'x',
      aside: false,
    } as const
    engine.hear([heard, { ...heard, from: MINE.length + 5, to: MINE.length + 6 }])
    const told = () => (engine.sheet({ ...all, fresh: true }).findings ?? []).map(({ message, pointer }) => [message, pointer])
    expect(told()).toHaveLength(own.length + 1)
    expect(told()).toContainEqual(['No group.', '/stalls/clay/price'])
    engine.edit([{ from: 0, to: 0, insert: '# More.\n' }])
    expect(told()).toContainEqual(['No group.', '/stalls/clay/price'])
    engine.edit([{ from: at + 15, to: at + 17, insert: '11' }])
    expect(told()).toHaveLength(own.length)
    // one that is found here too is told once, and one that somebody set aside not at all
    const wrong = engineOf(MINE.replace('price: 10', 'price: ten'), { factory: FACTORY, base: FACTORY })
    const [first] = wrong.sheet(all).findings!.filter(({ code }) => code === 'number-expected')
    wrong.hear([{ ...first!, aside: false }])
    const codes = () => (wrong.sheet({ ...all, fresh: true }).findings ?? []).map(({ code }) => code)
    expect(codes().filter((code) => code === 'number-expected')).toHaveLength(1)
    wrong.hear([{ ...first!, aside: true }])
    expect(codes()).not.toContain('number-expected')
  })

  it('writes what a finding says is meant', () => {
    const edits = [{ from: 0, to: 0, insert: '# mended\n' }]
    expect(mine().operate({ kind: 'mend', pointer: '', edits })).toEqual({ edits })
  })
})
