import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { DOTS } from '@pasticcio/core'
import LedgerView from '../../app/components/ledger/LedgerView.vue'
import { useLedgerStore } from '../../app/stores/ledger'
import { useServerStore } from '../../app/stores/server'
import { useSheetStore } from '../../app/stores/sheet'
import { withNews } from '../../app/drafts/table-view'
import { fillDown, pasteBlock, rangeOf, reckonCells, cellsIn, sortRows, type Shown } from '../../app/utils/ledger-range'
import { answering, engineOf, overviewOf, viewOf } from './world'

const FACTORY = `goods:
  rope_coil: { buy: 18, sell: 8 }
  lamp_oil: { buy: 12, sell: 3 }
  tin_bell: { buy: 260 }
tax: 5
`
const MINE = FACTORY.replace('buy: 12', 'buy: 14')
const open: VueWrapper[] = []
const settle = async (): Promise<void> => {
  for (let i = 0; i < 8; i++) await new Promise((resolve) => setImmediate(resolve))
}
async function opened(text = MINE, factory: string | null = FACTORY): Promise<ReturnType<typeof useLedgerStore>> {
  answering({ 'GET /file': viewOf(text, { factory }), 'PUT /draft': { draftSha: 's' }, 'GET /tray': [], 'GET /overview': overviewOf() })
  await useSheetStore().open('extras/Purse/settings.yml')
  const ledger = useLedgerStore()
  await ledger.open({ pointer: '/goods', isOverFiles: false })
  return ledger
}
const text = (): string => useSheetStore().text

beforeEach(() => localStorage.clear())
beforeEach(() => useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() }))
afterEach(async () => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  // what waits to be kept is kept, and no draft of the next test
  await useSheetStore().draft?.flush()
  vi.unstubAllGlobals()
})

describe('a table of the file at hand', () => {
  it('tells of each cell whose it is, and what was there before', () => {
    const engine = engineOf(MINE.replace('260', '300'), { base: MINE, factory: FACTORY })
    const table = withNews(null, engine.table('/goods')!)
    expect(table.columns.map(({ id, label, key }) => [id, label, key])).toEqual([
      ['/buy', 'Buy', 'buy'],
      ['/sell', 'Sell', 'sell'],
    ])
    expect(table.rows.map(({ id, mine, staged }) => [id, mine, staged])).toEqual([
      ['rope_coil', false, false],
      ['lamp_oil', true, false],
      ['tin_bell', true, true],
    ])
    expect(table.rows[1]!.cells[0]).toMatchObject({ text: '14', mine: true, staged: false, ships: '12' })
    expect(table.rows[2]!.cells).toMatchObject([{ text: '300', mine: true, staged: true, ships: '260', was: '260' }, null])
    expect(engine.table('/tax')).toBeNull()
    expect(engine.tables().map(({ pointer }) => pointer)).toEqual(['/goods'])
  })

  it('has dots for secrets in every layer, and changes none', async () => {
    const file = (a: string): string => `bridges:\n  a: { port: 1, password: ${a} }\n  b: { port: 2, password: clay-word }\n`
    const table = withNews(null, engineOf(file('new-word'), { base: file('was-word'), factory: file('reed-word') }).table('/bridges')!)
    expect(JSON.stringify(table)).not.toContain('-word')
    expect(table.rows[0]!.cells[1]).toMatchObject({ text: DOTS, mine: true, staged: true, editable: false, ships: DOTS, was: DOTS })
    expect(table.rows[0]!.cells[0]).toMatchObject({ text: '1', editable: true })
  })

  it('is told whole once, then only by the rows that changed', () => {
    const engine = engineOf(MINE, { base: MINE, factory: FACTORY })
    const first = withNews(null, engine.table('/goods')!)
    const change = (row: string, value: string | null): void => {
      const result = engine.operate({ kind: 'cells', pointer: '/goods', changes: [{ row: `/goods/${row}`, column: '/buy', value }] })
      if ('edits' in result) engine.edit(result.edits)
    }
    change('lamp_oil', '99')
    const news = engine.table('/goods', false)!
    expect([news.all, news.rows.map(({ at }) => at)]).toEqual([false, [1]])
    const second = withNews(first, news)
    expect(second.rows[0]).toBe(first.rows[0])
    expect(second).toEqual(withNews(null, engineOf(MINE.replace('14', '99'), { base: MINE, factory: FACTORY }).table('/goods')!))
    expect(engine.table('/goods', false)!.rows).toEqual([])
    expect(engine.table('/goods')!.all).toBe(true)
  })

  it('writes many cells in one step, which one undo takes back', async () => {
    const ledger = await opened()
    ledger.select({ row: 0, column: 0 })
    ledger.select({ row: 2, column: 1 }, true)
    ledger.reckoning = { does: 'times', by: '1.2', step: '5' }
    expect(ledger.reckoned.changes.map(({ row, column, from, to }) => [row.slice(2) + column, from, to])).toEqual([
      ['/goods/rope_coil/buy', '18', '20'],
      ['/goods/rope_coil/sell', '8', '10'],
      ['/goods/lamp_oil/buy', '14', '15'],
      ['/goods/lamp_oil/sell', '3', '5'],
      ['/goods/tin_bell/buy', '260', '310'],
    ])
    expect(ledger.reckoned.left).toBe(1)
    expect(text()).toBe(MINE)
    await ledger.takeReckoning()
    expect(text()).toBe(MINE.replace('18', '20').replace('8 }', '10 }').replace('14', '15').replace('3 }', '5 }').replace('260', '310'))
    expect(ledger.reckoning).toBeNull()
    useSheetStore().undo()
    expect(text()).toBe(MINE)
  })

  it('a reckoning that is none says why, and changes nothing', async () => {
    const ledger = await opened()
    ledger.reckoning = { does: 'add', by: 'much' }
    expect(ledger.reckoned).toMatchObject({ changes: [], problem: expect.stringContaining('“much” is none') as unknown })
  })

  it('what is typed goes into the cell, adds what is not there, and nothing takes it out', async () => {
    const ledger = await opened()
    ledger.select({ row: 2, column: 1 })
    await ledger.type('30')
    expect(text()).toContain('tin_bell: { buy: 260, sell: 30 }')
    await ledger.type('')
    expect(text()).toBe(MINE)
    ledger.select({ row: 0, column: 0 })
    ledger.select({ row: 0, column: 1 }, true)
    await ledger.clear()
    expect(text()).toContain('rope_coil: {')
    expect(text()).not.toContain('18')
  })

  it('what cannot be written is said, and the cell shows what it holds', async () => {
    const ledger = await opened('goods:\n  a: { buy: 1, note: "x" }\n  b: { buy: 2, note: "y" }\n', null)
    const before = text()
    useSheetStore().draft!.operate = () => Promise.resolve(false)
    ledger.select({ row: 0, column: 0 })
    expect(await ledger.type('7')).toBe(false)
    expect(ledger.inFocus?.cell?.text).toBe('1')
    expect(text()).toBe(before)
  })

  it('rows stay in place while somebody edits, and are put in order again when asked', async () => {
    const ledger = await opened()
    ledger.sort = [{ column: '/buy', down: true }]
    await settle()
    const ids = (): string[] => ledger.shown.rows.map(({ id }) => id)
    expect(ids()).toEqual(['tin_bell', 'rope_coil', 'lamp_oil'])
    ledger.select({ row: 2, column: 0 })
    await ledger.type('999')
    await settle()
    expect(ids()).toEqual(['tin_bell', 'rope_coil', 'lamp_oil'])
    ledger.arrange()
    expect(ids()).toEqual(['lamp_oil', 'tin_bell', 'rope_coil'])
    ledger.filter = 'bell'
    await settle()
    expect(ids()).toEqual(['tin_bell'])
    ledger.filter = ''
    ledger.onlyMine = true
    await settle()
    expect(ids()).toEqual(['lamp_oil'])
  })

  it('rows with ids are matched and wait; unknown ones are used for what is like them', async () => {
    const ledger = await opened()
    await ledger.paste([
      ['rope_coil', '20'],
      ['lampoil', '15'],
      ['tin_bell', '260'],
    ])
    expect(ledger.pasted?.preview).toMatchObject({ matched: 2, same: 1, unknown: [{ id: 'lampoil', nearest: 'lamp_oil' }] })
    expect(text()).toBe(MINE)
    ledger.useInstead({ lampoil: 'lamp_oil' })
    await ledger.takePaste()
    expect(text()).toBe(MINE.replace('18', '20').replace('14', '15'))
    expect(ledger.pasted).toBeNull()
  })

  it('a block without ids goes where the cursor is', async () => {
    const ledger = await opened()
    ledger.select({ row: 0, column: 0 })
    await ledger.paste([
      ['1', '2'],
      ['3', '4'],
    ])
    expect(text()).toContain('rope_coil: { buy: 1, sell: 2 }\n  lamp_oil: { buy: 3, sell: 4 }')
    ledger.select({ row: 0, column: 0 })
    ledger.select({ row: 2, column: 0 }, true)
    await ledger.paste([['7']])
    expect(text().match(/buy: 7/g)).toHaveLength(3)
  })

  it('the first of a selection fills the others', async () => {
    const ledger = await opened()
    ledger.select({ row: 0, column: 0 })
    ledger.select({ row: 2, column: 1 }, true)
    await ledger.fill()
    expect(text()).toContain('lamp_oil: { buy: 18, sell: 8 }\n  tin_bell: { buy: 18, sell: 8 }')
  })

  it('another file begins anew', async () => {
    const ledger = await opened()
    ledger.select({ row: 2, column: 1 })
    await ledger.open({ pointer: '/nothing', isOverFiles: false })
    expect([ledger.table, ledger.shown.rows, ledger.inFocus]).toEqual([null, [], null])
  })
})

describe('ranges', () => {
  const shown = (rows: Record<string, string>[]): Shown => ({
    columns: ['a', 'b'].map((key, at) => ({ id: `/${key}`, label: key, key, kind: 'number', count: 1, at })),
    rows: rows.map((row, i) => ({
      pointer: `/r${i}`,
      at: `/r${i}`,
      source: { path: 'a.yml', pointer: '' },
      place: '',
      id: `r${i}`,
      inFactory: true,
      mine: false,
      staged: false,
      cells: ['a', 'b'].map((key) =>
        row[key] === undefined ? null : { text: row[key], kind: 'number', editable: row[key] !== 'code', mine: false, staged: false },
      ),
    })),
  })
  const all = rangeOf({ row: 1, column: 1 }, { row: 0, column: 0 })

  it('what cannot be edited here is left alone by all that is done', () => {
    const table = shown([
      { a: '1', b: 'code' },
      { a: 'code', b: '2' },
    ])
    expect(reckonCells(cellsIn(table, all), { does: 'add', by: '1' })).toEqual({
      changes: [
        { row: '/r0', column: '/a', from: '1', to: '2' },
        { row: '/r1', column: '/b', from: '2', to: '3' },
      ],
      left: 2,
      following: 0,
      said: 0,
    })
    expect(fillDown(table, all)).toEqual([])
    expect(
      pasteBlock(table, all, [
        ['9', '9'],
        ['9', '2'],
      ]),
    ).toEqual([{ row: '/r0', column: '/a', value: '9' }])
  })

  it('numbers are in order by what they come to, what is left out is last either way', () => {
    const { rows, columns } = shown([{ a: '10' }, {}, { a: '9' }])
    const order = (down: boolean): string[] => sortRows(rows, columns, [{ column: '/a', down }]).map(({ id }) => id)
    expect(order(false)).toEqual(['r2', 'r0', 'r1'])
    expect(order(true)).toEqual(['r0', 'r2', 'r1'])
    expect(sortRows(rows, columns, []).map(({ id }) => id)).toEqual(['r0', 'r1', 'r2'])
  })
})

describe('the ledger on the screen', () => {
  async function shownLedger(props: { margin?: boolean; locked?: boolean } = {}): Promise<VueWrapper> {
    await opened()
    const wrapper = mount(LedgerView, { props: { margin: true, locked: false, ...props }, attachTo: document.body })
    open.push(wrapper as VueWrapper)
    await settle()
    return wrapper as VueWrapper
  }
  const keys = async (wrapper: VueWrapper, ...pressed: readonly (string | Record<string, unknown>)[]): Promise<void> => {
    for (const key of pressed) await wrapper.get('[role="grid"]').trigger('keydown', typeof key === 'string' ? { key } : key)
    await settle()
  }

  it('is a grid with one place to stop, whose cells are walked with arrows and edited in place', async () => {
    const wrapper = await shownLedger()
    const grid = wrapper.get('[role="grid"]')
    expect(grid.attributes()).toMatchObject({ tabindex: '0', 'aria-rowcount': '4', 'aria-colcount': '3' })
    await keys(wrapper, 'ArrowDown', 'Enter')
    await wrapper.get('.cell-in').setValue('16')
    await wrapper.get('.cell-in').trigger('keydown', { key: 'Enter' })
    await settle()
    expect(text()).toContain('lamp_oil: { buy: 16')
    expect(useLedgerStore().cursor).toEqual({ row: 2, column: 0 })
    await keys(wrapper, '7')
    expect((wrapper.get('.cell-in').element as HTMLInputElement).value).toBe('7')
    await wrapper.get('.cell-in').trigger('keydown', { key: 'Escape' })
    expect(wrapper.find('.cell-in').exists()).toBe(false)
    await keys(wrapper, { key: 'z', ctrlKey: true })
    expect(text()).toBe(MINE)
  })

  it('copies what is selected with its heads, and takes rows from elsewhere', async () => {
    const wrapper = await shownLedger()
    await keys(wrapper, { key: 'ArrowDown', shiftKey: true }, { key: 'ArrowRight', shiftKey: true })
    const clipboard = {
      text: '',
      setData: (_type: string, given: string) => (clipboard.text = given),
      getData: () => 'rope_coil\t20\nlampoil\t15',
    }
    await wrapper.get('[role="grid"]').trigger('copy', { clipboardData: clipboard })
    expect(clipboard.text).toBe('id\tbuy\tsell\nrope_coil\t18\t8\nlamp_oil\t14\t3')
    await wrapper.get('[role="grid"]').trigger('paste', { clipboardData: clipboard })
    await settle()
    expect(wrapper.text()).toContain('1 matched by id, 1 unknown id. 1 new value, 0 the same already.')
    await wrapper
      .findAll('button')
      .find((button) => button.text() === 'Use it')!
      .trigger('click')
    await wrapper
      .findAll('button')
      .find((button) => button.text().startsWith('Put 2 new values'))!
      .trigger('click')
    await settle()
    expect(text()).toBe(MINE.replace('18', '20').replace('14', '15'))
  })

  it('previews a reckoning in the cells before anything is staged', async () => {
    const wrapper = await shownLedger()
    await keys(wrapper, { key: 'a', ctrlKey: true }, '*')
    await wrapper.get('[aria-label="By how much"]').setValue('2')
    expect(wrapper.text()).toContain('18 → 36')
    expect(wrapper.text()).toContain('5 changes; 1 hold no plain number and stay')
    expect(text()).toBe(MINE)
    await wrapper.get('form.reckoning').trigger('submit')
    await vi.waitFor(() => expect(text()).toContain('tin_bell: { buy: 520 }'))
  })

  it('shows those who may not edit everything, and gives them nothing to change it with', async () => {
    const wrapper = await shownLedger({ locked: true })
    await keys(wrapper, 'Enter', 'Delete', '*', '7')
    expect(wrapper.find('.cell-in').exists()).toBe(false)
    expect(wrapper.find('form.reckoning').exists()).toBe(false)
    expect(text()).toBe(MINE)
  })

  it('says when none fits, and hides columns', async () => {
    const wrapper = await shownLedger()
    await wrapper.get('[aria-label="Show rows with"]').setValue('nobody')
    await settle()
    expect(wrapper.text()).toContain('None of 3 fits.')
    useLedgerStore().filter = ''
    await wrapper.get('.columns button').trigger('click')
    await wrapper.findAll('.panel input')[1]!.trigger('change')
    expect(wrapper.findAll('[role="columnheader"]')).toHaveLength(3)
  })
})
