import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyEdits,
  isSameNumber,
  parse,
  previewPaste,
  readReckoning,
  readTable,
  tablesIn,
  writeCells,
  type CellChange,
  type FormatId,
  type Reckoning,
} from '../src'
import { addEntry, removeEntry, setValue } from '../src/formats/operations'
import { locate } from '../src/tree/pointer'
import { NumberText } from '../src/tree/values'

const GOODS = `# What the stalls sell
goods:
  # by the quay
  rope_coil: { buy: 18, sell: 8, stock: 48 }
  lamp_oil:
    buy: 12 # dear
    sell: 3
    asks: buy.lamps
  tin_bell:
    buy: 260
    sell: 30
prices: { reed: 1, clay: 2, eel: 3, roe: 4 }
drops:
  - item: reed
    share: { least: 1, most: 3 }
    lines: [one, two]
  - item: clay
    share: { least: 2, most: 5 }
name: The row
`
const read = (text: string, format: FormatId = 'yaml') => parse(text, format)

describe('like things as tables', () => {
  it('are found: sections of a group, lists of sections, and many single numbers', () => {
    expect(tablesIn(read(GOODS)).map(({ pointer, kind, size }) => [pointer, kind, size])).toEqual([
      ['/goods', 'group', 3],
      ['/prices', 'values', 4],
      ['/drops', 'list', 2],
    ])
  })

  it.each<[FormatId, string]>([
    ['json', '{ "goods": { "a": { "buy": 1 }, "b": { "buy": 2 } }, "other": { "x": true } }'],
    ['lua', 'return {\n  goods = {\n    a = { buy = 1 },\n    b = { buy = 2 },\n  },\n  other = { x = true },\n}\n'],
  ])('in %s, too', (format, text) => expect(tablesIn(read(text, format)).map(({ pointer }) => pointer)).toEqual(['/goods']))

  it('are read with a column for each value, in the order the rows bring them', () => {
    const table = readTable(read(GOODS), ['goods'])
    expect(table.columns.map(({ id, kind, count }) => [id, kind, count])).toEqual([
      ['/buy', 'number', 3],
      ['/sell', 'number', 3],
      ['/asks', 'text', 1],
      ['/stock', 'number', 1],
    ])
    expect(table.rows.map(({ id, cells }) => [id, cells.get('/buy')?.text, cells.get('/asks')?.text])).toEqual([
      ['rope_coil', '18', undefined],
      ['lamp_oil', '12', 'buy.lamps'],
      ['tin_bell', '260', undefined],
    ])
  })

  it('of a list are called what tells them apart, and sections in a row are columns of their own', () => {
    const table = readTable(read(GOODS), ['drops'])
    expect(table.idColumn).toBe('/item')
    expect(table.rows.map(({ id, pointer }) => [id, pointer])).toEqual([
      ['reed', '/drops/0'],
      ['clay', '/drops/1'],
    ])
    expect(table.columns.map(({ id, kind }) => [id, kind])).toEqual([
      ['/item', 'text'],
      ['/share/least', 'number'],
      ['/share/most', 'number'],
      ['/lines', 'list'],
    ])
    expect(readTable(read(GOODS), ['prices']).rows[2]!.cells.get('')).toMatchObject({ text: '3', amount: 3, editable: true })
    expect(() => readTable(read(GOODS), ['name'])).toThrow('holds no like things')
  })
})

/** A number in thousandths as a person writes it. */
const written = (thousandths: number, places = 3): string => String(Number((thousandths / 10 ** places).toFixed(places)))
const thousandths = fc.integer({ min: -5_000_000, max: 5_000_000 })
const reckoned = (does: Reckoning['does'], by: string, of: string, more: Partial<Reckoning> = {}): string | null =>
  readReckoning({ does, by, ...more }).of(of)

describe('reckoning', () => {
  it('adds and multiplies to the last digit', () => {
    fc.assert(
      fc.property(thousandths, thousandths, (a, b) => {
        expect(Number(reckoned('add', written(b), written(a)))).toBe(Number(written(a + b)))
        // the product of two whole numbers of thousandths is one of millionths, which has less than 15 digits here
        const [x, y] = [Math.trunc(a / 10), Math.trunc(b / 10)]
        expect(Number(reckoned('times', written(y), written(x)))).toBe(Number(written(x * y, 6)))
      }),
    )
  })

  it('rounds to the nearest step, keeps bounds, and makes nothing of something never', () => {
    const steps = fc.integer({ min: 1, max: 20_000 })
    fc.assert(
      fc.property(thousandths, steps, (a, step) => {
        const result = Math.round(Number(reckoned('times', '1', written(a), { step: written(step) })) * 1000)
        expect(result % step === 0).toBe(true)
        if (result === Math.sign(a) * step && Math.abs(a) * 2 < step) return
        expect(Math.abs(result - a) * 2).toBeLessThanOrEqual(step)
        expect(result === 0).toBe(a === 0)
      }),
    )
  })

  it.each<[Partial<Reckoning> & Pick<Reckoning, 'does' | 'by'>, string, string | null]>([
    [{ does: 'times', by: '1.2', step: '5' }, '18', '20'],
    [{ does: 'times', by: '1.2', step: '5' }, '24', '30'],
    [{ does: 'times', by: '0.1', step: '5' }, '3', '5'],
    [{ does: 'times', by: '3' }, '0.1', '0.3'],
    [{ does: 'add', by: '0.2' }, '0.1', '0.3'],
    [{ does: 'add', by: '-20', least: '1' }, '18', '1'],
    [{ does: 'add', by: '20', most: '30' }, '18', '30'],
    [{ does: 'set', by: '007' }, '18', '7'],
    [{ does: 'times', by: '2' }, '1e3', '2000'],
    [{ does: 'times', by: '2' }, '9007199254740993', '18014398509481986'],
    [{ does: 'times', by: '2' }, '15 * 60', null],
    [{ does: 'times', by: '2' }, 'free', null],
    [{ does: 'times', by: '-1' }, '0', '0'],
  ])('%j of %s is %s', (reckoning, of, is) => expect(readReckoning(reckoning).of(of)).toBe(is))

  it.each<[Partial<Reckoning>, string]>([
    [{ by: 'much' }, '“much” is none'],
    [{ by: '2', step: '0' }, 'must be above 0'],
    [{ by: '2', least: '5', most: '1' }, 'is more than the most'],
  ])('%j is refused in words', (reckoning, words) => expect(() => readReckoning({ does: 'add', by: '1', ...reckoning })).toThrow(words))

  it('knows the same number however it is written', () => {
    expect([isSameNumber('1.50', '1.5'), isSameNumber('1e2', '100'), isSameNumber('1', '2'), isSameNumber('x', 'x')]).toEqual([
      true,
      true,
      false,
      false,
    ])
  })
})

/** Rows with some of four numbers, written in each format; what is not there can be added. */
const tables = fc.array(fc.record({ a: fc.nat(99), b: fc.nat(99), c: fc.option(fc.nat(99)), d: fc.option(fc.nat(99)) }), {
  minLength: 2,
  maxLength: 6,
})
type Rows = readonly Readonly<Record<'a' | 'b' | 'c' | 'd', number | null>>[]
const pairs = (row: Rows[number], form: (key: string, value: number) => string): string[] =>
  Object.entries(row).flatMap(([key, value]) => (value === null ? [] : [form(key, value)]))
const WRITERS: readonly (readonly [string, FormatId, (rows: Rows) => string])[] = [
  [
    'YAML in lines',
    'yaml',
    (rows) =>
      `# goods\ngoods:\n${rows.map((row, i) => `  # row ${i}\n  r${i}:\n${pairs(row, (k, v) => `    ${k}: ${v} # ${k}\n`).join('')}`).join('')}end: 1\n`,
  ],
  [
    'YAML in brackets',
    'yaml',
    (rows) => `goods:\n${rows.map((row, i) => `  r${i}: { ${pairs(row, (k, v) => `${k}: ${v}`).join(', ')} }\n`).join('')}end: 1\n`,
  ],
  [
    'JSON',
    'json',
    (rows) =>
      `{\n  "goods": {\n${rows.map((row, i) => `    "r${i}": { ${pairs(row, (k, v) => `"${k}": ${v}`).join(', ')} }`).join(',\n')}\n  },\n  "end": 1\n}\n`,
  ],
  [
    'Lua',
    'lua',
    (rows) =>
      `return {\n  goods = {\n${rows.map((row, i) => `    r${i} = {\n${pairs(row, (k, v) => `      ${k} = ${v}, -- ${k}\n`).join('')}    },\n`).join('')}  },\n  last = 1,\n}\n`,
  ],
]
const changesFor = fc.array(
  fc.record({ row: fc.nat(5), column: fc.constantFrom('/a', '/b', '/c', '/d'), value: fc.option(fc.nat(999).map(String), { freq: 4 }) }),
  { maxLength: 16 },
)

/** The same by the operations of the sheet, one after the other, reading the file again each time. */
function oneByOne(text: string, format: FormatId, changes: readonly CellChange[]): string {
  for (const { row, column, value } of changes) {
    const document = parse(text, format)
    const keys = [...row.slice(1).split('/'), column.slice(1)]
    const isThere = locate(document, keys) !== null
    if (value === null) text = isThere ? applyEdits(text, removeEntry(document, keys)) : text
    else if (isThere) text = applyEdits(text, setValue(document, keys, new NumberText(value)))
    else text = applyEdits(text, addEntry(document, keys.slice(0, -1), keys.at(-1)!, new NumberText(value)))
  }
  return text
}

describe('writing cells', () => {
  it.each(WRITERS)('of %s comes to the same as setting one after the other', (_name, format, write) => {
    fc.assert(
      fc.property(tables, changesFor, (rows, wanted) => {
        const text = write(rows)
        // the last of several for one cell counts; where it is taken out and put back its place is another
        const last = new Map(
          wanted.map(
            ({ row, column, value }) => [`${row % rows.length}${column}`, { row: `/goods/r${row % rows.length}`, column, value }] as const,
          ),
        )
        const changes = [...last.values()]
        const written = writeCells(parse(text, format), changes)
        const standing = changes.filter(
          ({ row, column, value }) => value !== null && rows[Number(row.at(-1))]![column.slice(1) as 'a'] !== null,
        )
        const others = changes.filter((change) => !standing.includes(change))
        expect(written).toBe(oneByOne(text, format, [...standing, ...others]))
        if (format === 'json') {
          const expected = JSON.parse(text) as { goods: Record<string, Record<string, number>> }
          for (const { row, column, value } of changes) {
            const cells = expected.goods[row.slice('/goods/'.length)]!
            if (value === null) delete cells[column.slice(1)]
            else cells[column.slice(1)] = Number(value)
          }
          expect(JSON.parse(written)).toEqual(expected)
        }
      }),
    )
  })

  it('touches nothing but the cells, and keeps how a text is quoted', () => {
    const text = 'goods:\n  a: { n: 01.50, t: "x" } # one\n  b: { n: 2, t: plain }\n'
    const change = (row: string, column: string, value: string): CellChange => ({ row: `/goods/${row}`, column, value })
    expect(writeCells(read(text), [change('a', '/t', 'y z'), change('b', '/n', '3'), change('a', '/n', '2.50')])).toBe(
      'goods:\n  a: { n: 2.50, t: "y z" } # one\n  b: { n: 3, t: plain }\n',
    )
  })

  it('says what cannot be written', () => {
    expect(() => writeCells(read(GOODS), [{ row: '/goods/nobody', column: '/buy', value: '1' }])).toThrow('no /goods/nobody')
    expect(() => writeCells(read(GOODS), [{ row: '/drops/0', column: '/lines', value: '1' }])).toThrow('parts of its own')
  })
})

describe('pasting rows from elsewhere', () => {
  const table = readTable(read(GOODS), ['goods'])

  it('finds rows by id, leaves what is the same, and tells what is unknown with what is most like it', () => {
    const preview = previewPaste(table, [
      ['rope_coil', '20', '8.0', ''],
      ['lampoil', '14', '4', ''],
      ['tin_bell', '260', '31', ''],
      ['honeycomb', '1', '1', ''],
    ])
    expect(preview.changes).toEqual([
      { row: '/goods/rope_coil', column: '/buy', value: '20' },
      { row: '/goods/tin_bell', column: '/sell', value: '31' },
    ])
    expect([preview.same, preview.matched]).toEqual([2, 2])
    expect(preview.unknown).toEqual([
      { line: 1, id: 'lampoil', nearest: 'lamp_oil' },
      { line: 3, id: 'honeycomb', nearest: null },
    ])
    const chosen = previewPaste(table, [['lampoil', '14']], { instead: { lampoil: 'lamp_oil' }, columns: ['/buy'] })
    expect(chosen.changes).toEqual([{ row: '/goods/lamp_oil', column: '/buy', value: '14' }])
  })

  it('a head says which columns are meant, in any order, and what the table has not is passed over', () => {
    const preview = previewPaste(table, [
      ['item', 'Sell', 'colour', 'buy'],
      ['rope_coil', '9', 'red', '18'],
      ['', '', '', ''],
    ])
    expect(preview.columns).toEqual(['/sell', null, '/buy'])
    expect(preview.changes).toEqual([{ row: '/goods/rope_coil', column: '/sell', value: '9' }])
    expect(preview.same).toBe(1)
  })

  it('swapped letters are one slip', () => {
    expect(previewPaste(table, [['rope_coli', '1']]).unknown[0]).toMatchObject({ nearest: 'rope_coil' })
  })

  it('what is pasted from the table itself changes nothing', () => {
    const cells = table.rows.map(({ id, cells: own }) => [id, ...table.columns.map(({ id: column }) => own.get(column)?.text ?? '')])
    expect(previewPaste(table, cells)).toMatchObject({ changes: [], unknown: [], matched: 3 })
  })
})

describe('values by what a server lists', () => {
  const isListed = (name: string): boolean => ['reed', 'eel'].includes(name)
  it.each([
    ['{}', ['']],
    ['{ "reed": 1 }', ['']],
    ['{ "reed": 1, "tax": 2 }', []],
    ['{ "reed": "1" }', []],
    ['{ "by": { "eel": 1 }, "on": true }', ['/by']],
    ['{ "by": {}, "on": true }', []],
  ])('%s is a table at %j', (text, expected) => {
    const document = read(text, 'json')
    expect(tablesIn(document, isListed).map(({ pointer }) => pointer)).toEqual(expected)
    expect(tablesIn(document)).toEqual([])
  })
  it('that has none yet has the column for them', () => {
    expect(readTable(read('{}', 'json'), [], isListed)).toMatchObject({ kind: 'values', rows: [], columns: [{ id: '', kind: 'number' }] })
  })
})

describe('rows pasted over several files', () => {
  const table = readTable(read('a:\n  one: { buy: 1 }\n  two: { buy: 2 }\n  three: { buy: 3 }\n'), ['a'])
  const rows = [...table.rows, { ...table.rows[0]!, pointer: '/b/one' }]
  const places = new Map(rows.map(({ pointer }) => [pointer, pointer.startsWith('/a') ? 'quay' : 'kiln']))
  const both = { ...table, rows }

  it('are matched by the file too where the id stands in several', () => {
    const lines = [
      ['one', 'kiln', '7'],
      ['two', 'quay', '8'],
    ]
    const expected = [
      { row: '/b/one', column: '/buy', value: '7' },
      { row: '/a/two', column: '/buy', value: '8' },
    ]
    expect(previewPaste(both, lines, { places }).changes).toEqual(expected)
    expect(previewPaste(both, [['id', 'file', 'buy'], ...lines], { places }).changes).toEqual(expected)
    expect(
      previewPaste(
        both,
        [
          ['id', 'buy', 'where'],
          ['one', '7', 'kiln'],
          ['two', '8', 'quay'],
        ],
        { places },
      ).changes,
    ).toEqual(expected)
  })

  it('wait where they do not say which file is meant, until all are', () => {
    const lines = [
      ['one', '7'],
      ['two', '8'],
    ]
    const preview = previewPaste(both, lines, { places })
    expect(preview.several).toEqual([{ line: 0, id: 'one', places: ['quay', 'kiln'] }])
    expect(preview.changes).toEqual([{ row: '/a/two', column: '/buy', value: '8' }])
    expect(previewPaste(both, lines, { places, intoAll: true }).changes.map(({ row }) => row)).toEqual(['/a/one', '/b/one', '/a/two'])
    expect(
      previewPaste(
        both,
        [
          ['one', 'ferry', '7'],
          ['two', 'quay', '8'],
        ],
        { places },
      ).unknown,
    ).toEqual([{ line: 0, id: 'one', nearest: null }])
  })
})
