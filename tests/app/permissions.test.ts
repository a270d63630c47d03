import { afterEach, describe, expect, it, vi } from 'vitest'
import { PermissionBook } from '@pasticcio/core'
import { nextTick } from 'vue'
import RightsRow from '../../app/components/permissions/RightsRow.vue'
import RightSign from '../../app/components/permissions/RightSign.vue'
import PermissionsPage from '../../app/pages/s/[server]/permissions.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { usePermissionsStore, type Column } from '../../app/stores/permissions'
import { NO_FILTER, dangersOf, filterNodes, gainsOf, nodeRows, nodeWords, prefixOf, type NodeLine } from '../../app/utils/permission-rows'
import { rightWords, stepWords } from '../../app/utils/right-words'
import { FILE, NODES, SOURCE, node, permissionWorld, read } from './permission-world'
import { button, show, text } from './pages'
import { until } from './world'

describe('nodes in rows', () => {
  it('stand under their plugins, staff last, what is of nobody at the end', () => {
    expect(
      nodeRows(NODES, 'plugin').map((row) => (row.kind === 'head' ? `= ${row.title} ${row.prefix}` : `${row.words}|${row.name}`)),
    ).toEqual([
      '= Hampers hampers.',
      'Angler|claim',
      '= Moorings ferry.',
      'Ride the ferry|ride',
      'Ring the ferry bell|bell',
      'Move the ferry|admin',
      '= Of no plugin that is here gone.',
      'Away|away',
    ])
  })
  it('or under what settings open, or their own names', () => {
    const heads = (order: 'feature' | 'name'): string[] => nodeRows(NODES, order).flatMap((row) => (row.kind === 'head' ? [row.title] : []))
    expect(heads('feature')).toEqual(['Hampers, what settings open', 'Moorings, by itself', 'Of no plugin that is here'])
    expect(heads('name')).toEqual(['ferry', 'gone', 'hampers'])
  })
  it.each([
    [['a.b.c', 'a.b.d'], 'a.b.'],
    [['a.b', 'c.d'], ''],
    [['a'], ''],
    [['a.b', 'a.b.c'], 'a.'],
  ])('%j begin with %s', (names, prefix) => expect(prefixOf(names)).toBe(prefix))
  it('are called after what they open where nobody says it', () => {
    expect(nodeWords(node('a.open-door'))).toBe('Open door')
    expect(nodeWords(node('a'))).toBe('a')
  })
  it('are left out by plugin, words, or where all may the same', () => {
    const book = new PermissionBook(read(SOURCE), NODES)
    const subjects = new Map(['mudlark', 'keeper'].map((group) => [`group ${group}`, { group }]))
    const dangers = dangersOf(NODES, book, ['ferry.bell'])
    const left = (more: object): string[] => filterNodes(NODES, { ...NO_FILTER, ...more }, book, subjects, dangers).map((one) => one.node)
    expect(left({ plugin: 'Hampers' })).toEqual(['hampers.claim'])
    expect(left({ words: 'BELL' })).toEqual(['ferry.bell'])
    expect(left({ onlyDifferences: true })).toEqual(['ferry.admin'])
    expect(left({ held: 'group keeper' })).toEqual(['ferry.ride', 'ferry.admin'])
    expect(left({ held: 'group mudlark' })).toEqual(['ferry.ride'])
    expect(left({ among: 'idle' })).toEqual(['ferry.bell'])
    expect(left({ among: 'wildcard' })).toEqual(['ferry.ride', 'ferry.bell', 'ferry.admin'])
    // nobody is given what is gone, and no staff node is everybody’s
    expect([left({ among: 'gone' }), left({ among: 'staff' })]).toEqual([[], []])
    const worse = read(SOURCE.replace('      - ferry.ride\n', '      - ferry.admin\n      - gone.away\n'))
    const all = dangersOf(NODES, new PermissionBook(worse, NODES), [])
    expect([[...all.gone], [...all.staff]]).toEqual([['gone.away'], ['ferry.admin']])
  })
})

describe('rights in words', () => {
  const book = new PermissionBook(read(SOURCE), [...NODES, node('open.all', { byDefault: 'everyone' })])
  it.each([
    [{ group: 'keeper' }, 'ferry.admin', 'may, granted here with ferry.*'],
    [{ group: 'keeper' }, 'ferry.bell', 'may not, denied here'],
    [{ group: 'warden' }, 'ferry.bell', 'may not, denied by keeper'],
    [{ group: 'warden' }, 'ferry.admin', 'may, from keeper with ferry.*'],
    [{ group: 'mudlark' }, 'open.all', 'may, as everyone'],
    [{ group: 'mudlark' }, 'ferry.bell', 'may not, nothing is said'],
  ])('%j %s: %s', (subject, name, words) => expect(rightWords(book.cell(subject, name))).toBe(words))

  it('go step by step', () => {
    expect(book.trace({ player: 'isolde' }, 'ferry.admin').map((step) => stepWords(step, 'Moorings'))).toEqual([
      'Moorings gives it to nobody by itself',
      'mudlark: nothing said',
      'keeper is granted all of ferry',
      'isolde: nothing said',
    ])
  })
  it('say who may more and who less by the drafts', () => {
    const after = new PermissionBook(read(SOURCE.replace('      - -ferry.bell\n', '').replace('- ferry.ride', '- hampers.claim')), NODES)
    const names = NODES.map((one) => one.node)
    expect(gainsOf(new PermissionBook(read(SOURCE), NODES), after, names)).toMatchObject([
      { name: 'mudlark', kind: 'group', gained: ['hampers.claim'], lost: ['ferry.ride'] },
      { name: 'keeper', gained: ['ferry.bell', 'hampers.claim'], lost: [] },
      { name: 'warden', gained: ['ferry.bell', 'hampers.claim'], lost: [] },
      { name: 'isolde', kind: 'player', gained: ['ferry.bell', 'hampers.claim'], lost: [] },
      { name: 'nessa', gained: ['hampers.claim'], lost: ['ferry.ride'] },
    ])
  })
  it('have a sign each', () => {
    const drawn = (subject: Parameters<typeof book.cell>[0], name: string): string => {
      document.body.innerHTML = ''
      show(RightSign, { cell: book.cell(subject, name), labelled: true })
      return document.querySelector('.right-sign')!.className
    }
    const signs = [
      drawn({ group: 'mudlark' }, 'ferry.ride'),
      drawn({ group: 'keeper' }, 'ferry.admin'),
      drawn({ group: 'keeper' }, 'ferry.bell'),
      drawn({ group: 'warden' }, 'ferry.admin'),
      drawn({ group: 'warden' }, 'ferry.bell'),
      drawn({ group: 'mudlark' }, 'open.all'),
      drawn({ group: 'mudlark' }, 'ferry.bell'),
    ]
    expect(new Set(signs).size).toBe(signs.length)
  })
})

describe('the page of permissions', () => {
  const open = async (): Promise<void> => {
    show(PermissionsPage)
    await until(() => expect(text()).toContain('5 nodes, 3 groups, 2 players'))
  }
  const press = (key: string): void => void document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  afterEach(async () => {
    await useDraftsStore().flushAll()
    await useDraftsStore().leaveBeside()
  })

  it('shows groups by weight, and why', async () => {
    permissionWorld()
    await open()
    expect([...document.querySelectorAll('.colhead .cut')].map((one) => one.textContent)).toEqual(['mudlark', 'keeper', 'warden'])
    const permissions = usePermissionsStore()
    permissions.node = 'ferry.bell'
    permissions.column = 'group warden'
    await nextTick()
    expect(text()).toContain('Why may warden not ring the ferry bell?')
    expect(text()).toContain('keeper is denied it')
    expect(document.querySelector('.steps .decides')!.textContent).toContain('keeper is denied it')
  })

  it('goes by keys, and gives, denies and says nothing of it any more', async () => {
    const { asked } = permissionWorld()
    await open()
    const permissions = usePermissionsStore()
    permissions.node = 'ferry.ride'
    permissions.column = 'group mudlark'
    press('ArrowRight')
    press('ArrowDown')
    await nextTick()
    expect([permissions.node, permissions.column]).toEqual(['ferry.bell', 'group keeper'])
    const draft = (): string => (asked.findLast(({ key }) => key === 'PUT /draft')?.body as { text: string } | undefined)?.text ?? ''
    press('+')
    await until(() => expect(draft()).toBe(SOURCE.replace('- -ferry.bell', '- ferry.bell')))
    await until(() => expect(permissions.gains.map(({ name, gained }) => [name, gained])).toContainEqual(['warden', ['ferry.bell']]))
    press('0')
    await until(() => expect(draft()).toBe(SOURCE.replace('      - -ferry.bell\n', '')))
    press('u')
    await until(() => expect(draft()).toBe(SOURCE.replace('- -ferry.bell', '- ferry.bell')))
  })

  it('draws each cell in a place of its own, also where the window gives them others', async () => {
    permissionWorld()
    const permissions = usePermissionsStore()
    await permissions.load()
    const [mudlark, keeper, warden] = permissions.columns as [Column, Column, Column]
    const named = (column: Column, id: string): Column => ({ ...column, id, name: id })
    const row = permissions.rows.find(({ kind }) => kind === 'node') as NodeLine
    const at = (slots: readonly number[], columns: readonly Column[]) =>
      columns.map((column, i) => ({ column, left: i * 64, slot: slots[i]! }))
    const warn = vi.spyOn(console, 'warn').mockImplementation(() => undefined)
    const page = show(RightsRow, { row, across: at([1, 0, 2], [keeper, mudlark, warden]), focused: '', isOn: false })
    // the one in the middle stays where it is, in another place
    await page.setProps({ across: at([2, 1, 0], [named(keeper, 'left'), mudlark, named(warden, 'right')]) })
    const labels = [...document.querySelectorAll('.right')].map((cell) => cell.getAttribute('aria-label')!.split(':')[0])
    expect([labels, warn.mock.calls]).toEqual([['left', 'mudlark', 'right'], []])
    warn.mockRestore()
  })

  it('mends from the trace: a denial of a parent is taken out', async () => {
    const { asked } = permissionWorld()
    await open()
    const permissions = usePermissionsStore()
    permissions.node = 'ferry.bell'
    permissions.column = 'group warden'
    await nextTick()
    button('Take out keeper’s denial').click()
    await until(() =>
      expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({
        path: FILE,
        text: SOURCE.replace('      - -ferry.bell\n', ''),
      }),
    )
  })

  it('compares two, tells what drafts change, and shows a player beside the groups', async () => {
    permissionWorld({ standing: read(SOURCE.replace('- ferry.ride', '- hampers.claim')) })
    await open()
    button('Try').click()
    await until(() => expect(text()).toContain('may no longer angler'))
    button('Compare').click()
    await until(() => expect(text()).toContain('mudlark'))
    expect(text()).toContain('1 difference')
    button('Grid').click()
    const permissions = usePermissionsStore()
    permissions.player = '77001'
    permissions.column = 'player 77001'
    permissions.node = 'ferry.ride'
    await until(() => expect(text()).toContain('Why may isolde not ride the ferry?'))
    expect(text()).toContain('is changed by Wardkeys itself')
  })

  it('asks the server what a player may, and tells where it says another thing', async () => {
    const { asked } = permissionWorld({ canAsk: true })
    await open()
    const permissions = usePermissionsStore()
    permissions.player = '77001'
    permissions.column = 'player 77001'
    permissions.node = 'ferry.admin'
    await nextTick()
    button('ask the server').click()
    await until(() => expect(text()).toContain('it says: may, and so say its files'))
    expect(asked.find(({ key }) => key === 'POST /permissions/ask')?.body).toEqual({ player: 'isolde' })
    permissions.node = 'hampers.claim'
    permissions.told = { isolde: ['hampers.claim'] }
    await until(() => expect(text()).toContain('its files say another thing'))
  })

  it('says so where nobody keeps groups, and where nothing fits', async () => {
    permissionWorld({ file: null, permissions: { groups: [], players: [], everybody: null, ladder: [], wins: 'nearest' } })
    show(PermissionsPage)
    await until(() => expect(text()).toContain('Nobody here keeps groups'))
    document.body.innerHTML = ''
    permissionWorld()
    await open()
    usePermissionsStore().filter = { ...NO_FILTER, words: 'nothing of it' }
    await until(() => expect(text()).toContain('Nothing fits'))
  })
})
