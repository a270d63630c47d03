import { mount, type VueWrapper } from '@vue/test-utils'
import fc from 'fast-check'
import { createPinia, setActivePinia } from 'pinia'
import { parse } from 'yaml'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { parse as core, writeCells } from '@pasticcio/core'
import LedgerView from '../../app/components/ledger/LedgerView.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useLedgerStore } from '../../app/stores/ledger'
import { useLedgerTablesStore } from '../../app/stores/ledger-tables'
import { useServerStore } from '../../app/stores/server'
import { useSheetStore } from '../../app/stores/sheet'
import type { FileView, Overview } from '../../app/utils/types'
import { csvOf, rowsOf } from '../../app/utils/ledger-csv'
import { filesBeside, placesOf, setsOf } from '../../app/utils/ledger-files'
import { answering, draftView, overviewOf, until, viewOf } from './world'

const stall = (goods: string): string => `title: A stall\ngoods:\n${goods}`
const QUAY = stall(
  '  rope: { category: tools, buy: 18, sell: 8 }\n  oil: { category: light, sell: 12 }\n  lantern: { category: light, buy: 45 }\n',
)
const KILN = stall(
  '  pick: { category: tools, sell: 9 }\n  rope: { category: tools, buy: 26, asks: kiln }\n  tongs: { category: tools, buy: -1 }\n',
)
const CATEGORIES = 'categories:\n  light: { buy: 12, sell: 5 }\n  tools: { buy: 20, sell: 8 }\n'
const folder = 'extras/Wharf/stalls'
const [quay, kiln, settings] = [`${folder}/quay.yml`, `${folder}/kiln.yml`, 'extras/Wharf/settings.yml']
const said = [{ path: '/goods/*/buy', said: [{ value: '-1', says: 'as the game has it' }] }]
const NOTHING_KNOWN = {
  registries: {},
  nodes: [],
  ports: [],
  placeholders: [],
  texts: { placeholder: [], lineBreak: null, codes: null, marks: [] },
}
let known: object = NOTHING_KNOWN
const KEPT = { draftSha: 'd', baseSha: 'base', merged: null }
let keep: unknown = KEPT
let files: Record<string, FileView> = {}
const open: VueWrapper[] = []
const goods = (text: string): Record<string, { buy?: number; sell?: number }> =>
  (parse(text) as { goods: Record<string, { buy?: number }> }).goods

function overview(): Overview {
  const base = overviewOf()
  const [plugin] = base.plugins
  const file = plugin!.files[0]!
  return { ...base, plugins: [{ ...plugin!, name: 'Wharf', files: Object.keys(files).map((path) => ({ ...file, path })) }] }
}
async function opened(view = { pointer: '/goods', isOverFiles: true }, path = quay): Promise<ReturnType<typeof useLedgerStore>> {
  answering({
    'GET /file': (_body: unknown, url: string) => {
      const file = files[new URL(url, 'http://here').searchParams.get('path')!]!
      if (file.text === 'broken') throw { status: 422, code: 'not-utf8', title: 'It is no text.' }
      return file
    },
    'GET /known': known,
    'GET /tray': [],
    'GET /overview': overview(),
    'PUT /draft': keep,
  })
  useServerStore().$patch({ slug: 'lantern-row', overview: overview() })
  await useSheetStore().open(path)
  const tables = useLedgerTablesStore()
  await tables.look()
  await useLedgerStore().open(view)
  return useLedgerStore()
}
const textOf = async (path: string): Promise<string> => (await useDraftsStore().openBeside(path)).draft.text.value
const ids = (ledger: ReturnType<typeof useLedgerStore>): string[] =>
  ledger.shown.rows.map(({ id, place, isDefault }) => `${isDefault ? 'all' : place} ${id}`)

beforeEach(() => {
  localStorage.clear()
  known = NOTHING_KNOWN
  keep = KEPT
  const file = (path: string, text: string): FileView => ({ ...viewOf(text), path, plugin: 'Wharf', rules: said })
  files = { [quay]: file(quay, QUAY), [kiln]: file(kiln, KILN), [settings]: file(settings, CATEGORIES) }
})
afterEach(async () => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  await useSheetStore().draft?.flush()
  await useDraftsStore().leaveBeside()
  vi.unstubAllGlobals()
})

describe('a ledger over several files', () => {
  it('has the rows of all, what stands in several once each, and what all have unless they say otherwise above them', async () => {
    const ledger = await opened()
    expect(ids(ledger)).toEqual(['all light', 'all tools', 'kiln pick', 'kiln rope', 'kiln tongs', 'quay rope', 'quay oil', 'quay lantern'])
    expect(ledger.columns.map(({ id }) => id)).toEqual(['/category', '/buy', '/asks', '/sell'])
    expect(ledger.places).toEqual(['kiln', 'quay'])
    ledger.place = 'quay'
    await until(() => expect(ids(ledger)).toEqual(['all light', 'all tools', 'quay rope', 'quay oil', 'quay lantern']))
  })

  it('writes to all of them at once, and one undo takes back all', async () => {
    const ledger = await opened()
    ledger.select({ row: 3, column: 1 })
    ledger.select({ row: 5, column: 1 }, true)
    ledger.reckoning = { does: 'times', by: '2' }
    expect(ledger.reckoned).toMatchObject({
      changes: [
        { from: '26', to: '52' },
        { from: '18', to: '36' },
      ],
      said: 1,
    })
    await ledger.takeReckoning()
    expect([goods(await textOf(quay))['rope']!.buy, goods(await textOf(kiln))['rope']!.buy]).toEqual([36, 52])
    ledger.undo()
    expect([await textOf(quay), await textOf(kiln)]).toEqual([QUAY, KILN])
    ledger.redo()
    expect(goods(await textOf(kiln))['rope']!.buy).toBe(52)
  })

  it('shows what the files have, however quickly one change follows another', async () => {
    const ledger = await opened()
    const texts = (): (string | undefined)[] => ledger.shown.rows.filter(({ isDefault }) => !isDefault).map(({ cells }) => cells[1]?.text)
    const before = texts()
    await ledger.paste([
      ['id', 'file', 'buy'],
      ['rope', 'kiln', '1'],
      ['tongs', 'kiln', '2'],
      ['rope', 'quay', '3'],
      ['lantern', 'quay', '4'],
    ])
    await ledger.takePaste()
    ledger.undo()
    await until(() => expect(texts()).toEqual(before))
    ledger.redo()
    ledger.undo()
    ledger.redo()
    await until(() => expect(texts()).toEqual([undefined, '1', '2', '3', undefined, '4']))
  })

  it('changes none where one cannot be written', async () => {
    const ledger = await opened()
    const tables = useLedgerTablesStore()
    const [first] = tables.table!.rows
    const done = await tables.write([
      { row: tables.table!.rows.at(-1)!.at, column: '/buy', value: '7' },
      { row: first!.at, column: '/buy/deep', value: '7' },
    ])
    expect(done).toBe(false)
    expect(ledger.problem).toContain(`${kiln}: This cannot be done`)
    expect([await textOf(quay), await textOf(kiln)]).toEqual([QUAY, KILN])
  })

  it('rows follow their category where they say nothing, and are reckoned with only when asked', async () => {
    const ledger = await opened()
    // what the quay’s oil costs is left out, and light costs 12
    ledger.select({ row: 6, column: 1 })
    expect(ledger.inFocus).toMatchObject({ row: { id: 'oil' }, cell: null })
    ledger.reckoning = { does: 'add', by: '1' }
    expect(ledger.reckoned).toMatchObject({ changes: [], following: 1, left: 0 })
    ledger.isForAll = true
    expect(ledger.reckoned.changes).toMatchObject([{ from: '12', to: '13' }])
    await ledger.takeReckoning()
    expect(goods(await textOf(quay))['oil']!.buy).toBe(13)
    await ledger.clear()
    expect(await textOf(quay)).toBe(QUAY)
  })

  it('the category is changed in its own file, and all that follow it with it', async () => {
    const ledger = await opened()
    const wrapper = mount(LedgerView, { props: { margin: true, locked: false, table: '/goods', over: true }, attachTo: document.body })
    open.push(wrapper as VueWrapper)
    await until(() => expect(wrapper.text()).toContain('as light: 12'))
    expect(wrapper.text()).toContain('as the game has it')
    expect(wrapper.text()).toContain('light for 2 rows')
    ledger.select({ row: 0, column: 1 })
    await ledger.type('14')
    expect(await textOf(settings)).toBe(CATEGORIES.replace('buy: 12', 'buy: 14'))
    await until(() => expect(wrapper.text()).toContain('as light: 14'))
  })

  it('a file that somebody else changed meanwhile is named, with the way to both sides', async () => {
    keep = ({ path }: { readonly path: string }) => {
      if (path === kiln) throw { status: 409, code: 'draft-changed', title: 'tobiah changed the same.', draft: draftView(KILN) }
      return KEPT
    }
    const ledger = await opened()
    const wrapper = mount(LedgerView, { props: { margin: false, locked: false, table: '/goods', over: true }, attachTo: document.body })
    open.push(wrapper as VueWrapper)
    ledger.select({ row: 3, column: 1 })
    await ledger.type('99')
    await until(() => expect(wrapper.text()).toContain('kiln.yml is changed only here: tobiah changed the same.'))
    expect(wrapper.get('[role="alert"] a').attributes('href')).toBe(`/s/lantern-row/settings/${kiln}`)
    expect(goods(await textOf(kiln))['rope']!.buy).toBe(99)
  })

  it('a file that cannot be read is named, and the others are there', async () => {
    files[`${folder}/salt.yml`] = { ...files[quay]!, path: `${folder}/salt.yml`, text: 'broken' }
    const ledger = await opened()
    expect(useLedgerTablesStore().unread).toEqual([{ path: `${folder}/salt.yml`, problem: 'It is no text.' }])
    expect(ledger.places).toEqual(['kiln', 'quay'])
  })

  it('rows pasted with their file go there, and those that do not say it wait', async () => {
    const ledger = await opened()
    await ledger.paste([
      ['id', 'file', 'buy'],
      ['rope', 'kiln', '27'],
      ['pick', 'kiln', '5'],
    ])
    expect(ledger.pasted?.preview).toMatchObject({ matched: 2, several: [], unknown: [] })
    await ledger.takePaste()
    expect(goods(await textOf(kiln))).toMatchObject({ rope: { buy: 27 }, pick: { buy: 5 } })
    await ledger.paste([
      ['id', 'buy'],
      ['rope', '1'],
      ['oil', '2'],
    ])
    expect(ledger.pasted?.preview).toMatchObject({ matched: 1, several: [{ id: 'rope', places: ['kiln', 'quay'] }] })
    ledger.putIntoAll()
    expect(ledger.pasted?.preview.changes).toHaveLength(3)
  })

  it('a CSV file of what is shown changes nothing when it is read again', async () => {
    const ledger = await opened()
    const text = csvOf(ledger.shown, true)
    expect(text.split('\n')[0]).toBe('id,file,category,buy,asks,sell')
    ledger.match(rowsOf(text))
    expect(ledger.pasted?.preview).toMatchObject({ changes: [], matched: 6, unknown: [], several: [] })
    ledger.match(rowsOf('\uFEFF' + text.replace('quay,tools,18', 'quay,tools,19').replaceAll(',', ';')))
    expect(ledger.pasted?.preview.changes).toMatchObject([{ column: '/buy', value: '19' }])
  })

  it('a row is copied in the file it is in, under a name of its own', async () => {
    const ledger = await opened()
    ledger.select({ row: 3, column: 1 })
    expect(await ledger.duplicate()).toBe('rope-2')
    expect(goods(await textOf(kiln))['rope-2']).toEqual({ category: 'tools', buy: 26, asks: 'kiln' })
    await until(() => expect(ids(ledger)).toContain('kiln rope-2'))
  })
})

describe('what can be seen as one', () => {
  it('are sections of one file that differ in one key', () => {
    const option = (pointer: string, columns = ['']) => ({ pointer, kind: 'values' as const, size: 4, columns })
    expect(setsOf([option('/clay'), option('/reed'), { ...option('/stalls'), kind: 'group' }])).toEqual([
      { pattern: '/*', pointers: ['/clay', '/reed'], size: 8 },
    ])
    expect(setsOf([option('/stalls/quay/goods'), option('/stalls/kiln/goods')])[0]).toMatchObject({ pattern: '/stalls/*/goods' })
    expect(placesOf(['/stalls/quay/goods', '/stalls/kiln/goods'].map((pointer) => ({ path: 'a.yml', pointer })))).toEqual(['quay', 'kiln'])
  })
  it('are files of one folder with the same ending', () => {
    const all = ['a/b/x.yml', 'a/b/y.yml', 'a/b/z.json', 'a/b/c/w.yml', 'a/v.yml']
    expect(filesBeside('a/b/x.yml', all)).toEqual(['a/b/x.yml', 'a/b/y.yml'])
  })
  it('in one file they are told from each other by their sections', async () => {
    files[quay] = { ...files[quay]!, text: 'clay: { a: 1, b: 2, c: 3, d: 4 }\nreed: { e: 1, f: 2, g: 3, h: 4 }\n' }
    const ledger = await opened({ pointer: '/*', isOverFiles: false })
    expect(ids(ledger)).toEqual([...'abcd'].map((id) => `clay ${id}`).concat([...'efgh'].map((id) => `reed ${id}`)))
    ledger.select({ row: 5, column: 0 })
    await ledger.type('7')
    expect(await textOf(quay)).toContain('f: 7')
  })
})

describe('single values by item', () => {
  const items = ['reed', 'eel', 'clay', 'old_clay', 'roof', 'map'].map((id) => ({
    id,
    name: null,
    group: id === 'map' ? 'papers' : id === 'eel' ? 'water' : 'clay',
  }))
  const [record, shelf] = ['records/Wharf.json', 'settings/Wharf.json']
  async function shown(): Promise<ReturnType<typeof useLedgerStore>> {
    const file = (path: string, text: string): FileView => ({ ...viewOf(text, { factory: null }), path, plugin: 'Wharf' })
    files = {
      [record]: file(record, '{ "reed": 48, "eel": 12, "clay": 3, "map": 1 }\n'),
      [shelf]: file(shelf, '{ "by-category": { "clay": 32, "water": 16, "papers": -1, "bees": 4 } }\n'),
    }
    files[shelf] = { ...files[shelf]!, rules: [{ path: '/by-category/papers', said: [{ value: '-1', says: 'as the game has it' }] }] }
    await opened({ pointer: '', isOverFiles: false }, record)
    return useLedgerStore()
  }

  it('stand beside all other items of the game, which follow their category, and can be given one', async () => {
    known = { ...NOTHING_KNOWN, registries: { items } }
    const ledger = await shown()
    expect(ids(ledger)).toEqual(['all clay', 'all water', 'all papers', ' reed', ' eel', ' clay', ' map', ' old_clay', ' roof'])
    ledger.select({ row: 7, column: 0 })
    ledger.reckoning = { does: 'times', by: '2' }
    ledger.isForAll = true
    expect(ledger.reckoned.changes).toMatchObject([{ from: '32', to: '64' }])
    await ledger.takeReckoning()
    expect(JSON.parse(await textOf(record))).toEqual({ reed: 48, eel: 12, clay: 3, map: 1, old_clay: 64 })
    ledger.undo()
    await until(() => expect(ids(ledger)).toContain(' old_clay'))
    await ledger.paste([
      ['roof', '7'],
      ['old_clay', '8'],
      ['nobody', '9'],
    ])
    expect(ledger.pasted?.preview).toMatchObject({ matched: 2, unknown: [{ id: 'nobody' }] })
    await ledger.takePaste()
    expect(JSON.parse(await textOf(record))).toMatchObject({ roof: 7, old_clay: 8 })
    useLedgerTablesStore().isWhole = false
    await until(() => expect(ids(ledger)).not.toContain(' nobody'))
  })
})

describe('values by item that are few, or none yet', () => {
  it('can be given to all items of the game', async () => {
    const record = 'records/Wharf.json'
    known = { ...NOTHING_KNOWN, registries: { items: ['reed', 'eel'].map((id) => ({ id, name: null, group: `${id}s` })) } }
    for (const [text, expected] of [
      ['{}\n', { reed: 7 }],
      ['{ "eel": 3 }\n', { eel: 3, reed: 7 }],
    ] as const) {
      setActivePinia(createPinia())
      files = { [record]: { ...viewOf(text, { factory: null }), path: record, plugin: 'Wharf', record: true } }
      const ledger = await opened({ pointer: '', isOverFiles: false }, record)
      expect(useSheetStore().snapshot?.hasTables).toBe(true)
      useLedgerTablesStore().isWhole = true
      await until(() => expect(ledger.shown.rows.map(({ id }) => id).sort()).toEqual(['eel', 'reed']))
      ledger.select({ row: ledger.shown.rows.findIndex(({ id }) => id === 'reed'), column: 0 })
      await ledger.type('7')
      expect(JSON.parse(await textOf(record))).toEqual(expected)
      await useSheetStore().draft?.flush()
      await useDraftsStore().leaveBeside()
    }
    // what is no record is settings, however few
    setActivePinia(createPinia())
    files = { [record]: { ...viewOf('{ "eel": 3 }\n', { factory: null }), path: record, plugin: 'Wharf' } }
    await opened({ pointer: '', isOverFiles: false }, record)
    expect(useSheetStore().snapshot?.hasTables).toBe(false)
  })
})

describe('what is pasted', () => {
  it('below a head is matched by id, also where most ids are unknown, and never written over cells', async () => {
    const ledger = await opened()
    ledger.select({ row: 3, column: 1 })
    await ledger.paste([
      ['id', 'buy'],
      ['oil', '31'],
      ['ropee', '32'],
      ['lanternn', '33'],
    ])
    expect(ledger.pasted?.preview).toMatchObject({ matched: 1, unknown: [{ nearest: 'rope' }, { nearest: 'lantern' }] })
    expect([await textOf(quay), await textOf(kiln)]).toEqual([QUAY, KILN])
  })
})

describe('whatever is done in a ledger', () => {
  const ids = ['rope', 'oil', 'lantern', 'pick', 'tongs']
  const deed = fc.oneof(
    fc.record({ does: fc.constantFrom('times', 'add', 'set'), by: fc.integer({ min: 1, max: 9 }).map(String), isForAll: fc.boolean() }),
    fc.record({ fill: fc.constant(true) }),
    fc.record({ clear: fc.constant(true) }),
    fc.record({
      rows: fc.uniqueArray(fc.tuple(fc.constantFrom(...ids), fc.nat(99).map(String)), {
        minLength: 2,
        maxLength: 5,
        selector: ([id]) => id,
      }),
    }),
  )
  const spot = fc.record({ row: fc.integer({ min: 2, max: 7 }), column: fc.constantFrom(1, 3) })

  it('is what setting its cells one by one gives, touches nothing else, and is taken back in one step', async () => {
    await fc.assert(
      fc.asyncProperty(deed, spot, spot, async (what, from, to) => {
        setActivePinia(createPinia())
        const ledger = await opened()
        const tables = useLedgerTablesStore()
        ledger.select(from)
        ledger.select(to, true)
        const written = vi.spyOn(tables, 'write')
        if ('does' in what) {
          ledger.reckoning = { does: what.does as 'times', by: what.by }
          ledger.isForAll = what.isForAll
          await ledger.takeReckoning()
        } else if ('fill' in what) await ledger.fill()
        else if ('clear' in what) await ledger.clear()
        else {
          await ledger.paste([['id', 'buy'], ...what.rows])
          ledger.putIntoAll()
          await ledger.takePaste()
        }
        const changes = written.mock.calls.flatMap(([all]) => all)
        const originals = { [quay]: QUAY, [kiln]: KILN, [settings]: CATEGORIES }
        for (const [path, text] of Object.entries(originals)) {
          const own = changes.filter(({ row }) => tables.byAt.get(row)?.source.path === path)
          const one = own.reduce((now, change) => {
            return writeCells(core(now, 'yaml'), [{ ...change, row: tables.byAt.get(change.row)!.pointer }])
          }, text)
          expect(await textOf(path)).toBe(one)
        }
        if (changes.length > 0) ledger.undo()
        for (const [path, text] of Object.entries(originals)) expect(await textOf(path)).toBe(text)
        await useSheetStore().draft?.flush()
        await useDraftsStore().leaveBeside()
      }),
      { numRuns: 40 },
    )
  })
})
