import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { NumberText } from '@pasticcio/core'
import ConsoleLines from '../../app/components/base/ConsoleLines.vue'
import FindingMark from '../../app/components/base/FindingMark.vue'
import LayerMark from '../../app/components/base/LayerMark.vue'
import TextDiff from '../../app/components/base/TextDiff.vue'
import FindDialog from '../../app/components/frame/FindDialog.vue'
import KeysDialog from '../../app/components/frame/KeysDialog.vue'
import SpineNav from '../../app/components/frame/SpineNav.vue'
import TopBar from '../../app/components/frame/TopBar.vue'
import TrayBar from '../../app/components/frame/TrayBar.vue'
import StagedDiff from '../../app/components/review/StagedDiff.vue'
import DraftConflict from '../../app/components/sheet/DraftConflict.vue'
import ForeEdge from '../../app/components/sheet/ForeEdge.vue'
import MarginNote from '../../app/components/sheet/MarginNote.vue'
import SettingControl from '../../app/components/sheet/SettingControl.vue'
import SheetView from '../../app/components/sheet/SheetView.vue'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { useSheetStore } from '../../app/stores/sheet'
import { useTrayStore } from '../../app/stores/tray'
import type { SettingRow } from '../../app/utils/sheet-rows'
import { answering, draftView, engineOf, overviewOf, until, viewOf } from './world'

const route = { path: '/s/lantern-row/settings/extras/Purse/settings.yml', params: {} as Record<string, string> }
const router = { push: vi.fn() }
const open: VueWrapper[] = []
/** Mounts a component on a page of its own, as it stands in the app. */
function show(component: Parameters<typeof mount>[0], props: Record<string, unknown> = {}): VueWrapper {
  const wrapper = mount(component as never, { props, attachTo: document.body } as never) as VueWrapper
  open.push(wrapper)
  return wrapper
}
const settle = async (): Promise<void> => {
  for (let i = 0; i < 6; i++) await new Promise((resolve) => setImmediate(resolve))
}

beforeEach(() => {
  Object.assign(globalThis, { useRoute: () => route, useRouter: () => router })
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'tobiah', role: 'editor', hasPassword: true }
})
afterEach(() => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  vi.unstubAllGlobals()
  router.push.mockReset()
})

const FACTORY = `# Marks a newcomer has. At least 0.
start: 250
loud: true
# One of: low, high.
level: low
words: [reed, clay]
lines:
  - The bell rings
  - It rings again
slots: [1, 3]
stalls:
  reed: { price: 5 }
  clay: { price: 9 }
`
function rowOf(pointer: string, text = FACTORY): SettingRow {
  const row = engineOf(text, { factory: FACTORY })
    .sheet({ from: 0, to: 99, onlyMine: false, focus: '' })
    .rows.find((item) => item.pointer === pointer)
  if (row?.type !== 'setting') throw new Error(`no setting ${pointer}`)
  return row
}

describe('the control of a value', () => {
  const control = (pointer: string, more: Record<string, unknown> = {}): VueWrapper =>
    show(SettingControl, { row: rowOf(pointer), disabled: false, bad: false, ...more })

  it('a number keeps what was typed, also what is none', async () => {
    const wrapper = control('/start')
    const input = wrapper.get('[role="spinbutton"]')
    expect(input.attributes()).toMatchObject({ 'aria-valuenow': '250', 'aria-valuetext': '250', 'aria-valuemin': '0' })
    await input.setValue('1.50')
    await input.setValue('soon')
    expect(input.attributes('aria-valuenow')).toBeUndefined()
    await input.trigger('keydown', { key: 'ArrowUp' })
    expect(wrapper.emitted('set')).toEqual([[new NumberText('1.50')], ['soon'], [new NumberText('251')]])
  })

  it('a switch, a choice, words, lines and slots give their values', async () => {
    const toggle = control('/loud')
    await toggle.get('input').setValue(false)
    expect(toggle.emitted('set')).toEqual([[false]])
    expect(control('/level').get('[role="combobox"]').text()).toContain('low')
    const words = control('/words')
    await words.findAll('button')[0]!.trigger('click')
    await words.get('input').setValue('tin')
    await words.get('input').trigger('keydown', { key: 'Enter' })
    // what was taken out stays out, also before the file has answered
    expect(words.emitted('set')).toEqual([[['clay']], [['clay', 'tin']]])
    const lines = control('/lines')
    await lines.get('textarea').setValue('One\n\nTwo words')
    expect(lines.emitted('set')?.at(-1)).toEqual([['One', 'Two words']])
    const slots = control('/slots')
    await vi.dynamicImportSettled()
    expect(slots.findAll('[role="checkbox"][aria-checked="true"]').map((slot) => slot.text())).toEqual(['1', '3'])
    await slots.findAll('[role="checkbox"]')[2]!.trigger('click')
    expect(slots.emitted('set')).toEqual([[[1, 2, 3]]])
  })

  it('what is typed is not undone by an answer that comes late', async () => {
    const text = (value: string): SettingRow => rowOf('/title', `title: "${value}"\n`)
    const wrapper = show(SettingControl, { row: text('a'), disabled: false, bad: false })
    const input = wrapper.get('input')
    await input.setValue('ab')
    await input.setValue('abc')
    await wrapper.setProps({ row: text('ab') })
    expect((input.element as HTMLInputElement).value).toBe('abc')
    await wrapper.setProps({ row: text('abc') })
    expect((input.element as HTMLInputElement).value).toBe('abc')
    // what comes from elsewhere, as an undo does, is shown
    await wrapper.setProps({ row: text('a') })
    expect((input.element as HTMLInputElement).value).toBe('a')
  })

  it.each(['/start', '/loud', '/words', '/lines', '/slots'])('%s cannot be changed by those who may not', (pointer) => {
    for (const field of control(pointer, { disabled: true }).findAll('input, textarea, button'))
      expect((field.element as HTMLInputElement).disabled).toBe(true)
  })
})

describe('the sheet', () => {
  const MINE = FACTORY.replace('start: 250', 'start: -5')
  async function sheet(text = MINE): Promise<VueWrapper> {
    answering({
      'GET /references': { name: 'lime', references: [] },
      'GET /file': viewOf(text, { factory: FACTORY }),
      'PUT /draft': { draftSha: 's' },
      'GET /tray': [],
      'GET /overview': overviewOf(),
    })
    await useSheetStore().open('extras/Purse/settings.yml')
    const wrapper = show(SheetView, { margin: true })
    await settle()
    return wrapper
  }
  const press = async (key: string): Promise<void> => {
    window.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }))
    await settle()
  }

  it('has a line for every setting, with the mistake at its line', async () => {
    const wrapper = await sheet()
    expect(wrapper.findAll('[role="row"]').length).toBe(11)
    expect(wrapper.get('[data-pointer="/start"]').text()).toContain('at least 0')
    expect(wrapper.get('[role="grid"]').attributes('aria-rowcount')).toBe('11')
  })

  it('is walked through with keys, and gives values back to the factory', async () => {
    const wrapper = await sheet()
    const store = useSheetStore()
    expect(store.focus).toBe('/start')
    await press('j')
    await press('j')
    expect(wrapper.get('[aria-selected="true"]').attributes('data-pointer')).toBe('/level')
    await press('[')
    expect(store.focus).toBe('/start')
    await press('f')
    expect(store.text).toBe(FACTORY)
    await press('u')
    expect(store.text).toBe(MINE)
    await press('.')
    expect(store.focus).toBe('/start')
  })

  it('copies an entry under a name that is asked for, and takes one out', async () => {
    const wrapper = await sheet()
    const store = useSheetStore()
    store.focus = '/stalls/clay/price'
    await press('d')
    const field = wrapper.get('.naming input')
    expect((field.element as HTMLInputElement).value).toBe('clay-2')
    await field.setValue('lime')
    await wrapper.get('.naming').trigger('submit')
    await settle()
    expect(store.text).toContain('  lime: { price: 9 }')
    expect(store.focus).toBe('/stalls/lime')
    await wrapper
      .get('[data-pointer="/stalls/lime"]')
      .findAll('button')
      .find((button) => button.text() === 'Remove')!
      .trigger('click')
    await until(() => expect(store.text).toBe(MINE))
  })

  it('draws few of very many rows', async () => {
    const many = Array.from({ length: 1200 }, (_x, i) => `k${i}: ${i}\n`).join('')
    const wrapper = await sheet(many)
    expect(wrapper.get('[role="grid"]').attributes('aria-rowcount')).toBe('1207')
    await until(() => expect(wrapper.findAll('[data-pointer]').length).toBeLessThan(150))
  })

  it('goes along as many rows as keys were pressed, also past what is drawn', async () => {
    const many = Array.from({ length: 1200 }, (_x, i) => `k${i}: ${i}\n`).join('')
    const wrapper = await sheet(many)
    const store = useSheetStore()
    await until(() => expect(wrapper.findAll('[data-pointer]').length).toBeLessThan(150))
    store.focus = '/k800'
    for (let i = 0; i < 5; i++) window.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', cancelable: true }))
    await until(() => expect(store.focus).toBe('/k805'))
  })

  it('says when there is nothing', async () => {
    const wrapper = await sheet('')
    useSheetStore().onlyMine = false
    answering({ 'GET /file': viewOf('', { factory: null }) })
    await useSheetStore().open('extras/Purse/other.yml')
    await settle()
    expect(wrapper.text()).toContain('holds no settings')
  })

  it('has everything about a line in its margin, and the whole file at its edge', async () => {
    await sheet()
    const store = useSheetStore()
    await store.refresh()
    const note = show(MarginNote, { row: store.inFocus, locked: false })
    expect(note.text()).toContain('Marks a newcomer has. At least 0.')
    expect(note.text()).toContain('250')
    expect(note.get('[aria-label="Findings in this file"]').text()).toContain('Line 2')
    await note.get('.footnotes button').trigger('click')
    expect(note.emitted('go')).toEqual([['/start']])
    const edge = show(ForeEdge)
    expect([edge.findAll('.y').length, edge.findAll('.e').length]).toEqual([1, 1])
  })

  it('shows both sides of a conflict', async () => {
    await sheet()
    const store = useSheetStore()
    store.draft!.theirs.value = draftView(FACTORY.replace('250', '999'))
    const bar = show(DraftConflict)
    expect(bar.text()).toContain('maren changed this file')
    await bar.findAll('button')[0]!.trigger('click')
    await until(() => expect(bar.text()).toContain('start: 999'))
    await bar.findAll('button')[1]!.trigger('click')
    await settle()
    expect(store.text).toContain('start: 999')
  })
})

describe('the frame', () => {
  it('the spine has the stations with what there is to do, and the plugins with their files', () => {
    const spine = show(SpineNav, { folded: false })
    expect(spine.findAll('.st').map((item) => item.text())).toEqual([
      'Plugins2',
      'Settings',
      'Messages',
      'Permissions',
      'Economy',
      expect.stringMatching(/^Findings/),
      'Updates1',
      'History',
      'Server',
    ])
    expect(spine.get('[aria-current="page"]').text()).toBe('Settings')
    expect(spine.get('.file').text()).toContain('settings.yml')
    expect(spine.findAll('.plugins > li > a').map((item) => item.attributes('href'))).toEqual([
      '/s/lantern-row/settings/extras/Purse/settings.yml',
      '/s/lantern-row/settings/extras/Hampers/lang/en%20gb.yml',
    ])
    expect(show(SpineNav, { folded: true }).findAll('.st')).toEqual([])
  })

  it('the list of keys has the stations', async () => {
    show(KeysDialog, { visible: true })
    await settle()
    expect(document.body.textContent).toContain('go to Updates')
  })

  it('the top bar says how the server is', () => {
    useServerStore().state = { status: 'running', players: 3, ticks: 19.96, memory: null, since: null }
    const bar = show(TopBar)
    expect(bar.text()).toContain('running')
    expect(bar.text()).toContain('20.0 ticks/s')
    expect(bar.text()).toContain('tobiah')
  })

  it('day or evening is kept in the browser', async () => {
    const bar = show(TopBar)
    await bar.get('.theme').trigger('click')
    expect(document.documentElement.dataset['theme']).toBe('evening')
    await nextTick()
    expect(localStorage.getItem('pasticcio-theme')).toBe('evening')
    expect(show(TopBar).get('.theme').attributes('aria-pressed')).toBe('true')
    await bar.get('.theme').trigger('click')
    await nextTick()
    expect(document.documentElement.dataset['theme']).toBe('')
  })

  it('the tray says what is staged, asks before it lets go, and shows a complaint', async () => {
    const { asked } = answering({ 'DELETE /tray': { ok: true }, 'GET /tray': [], 'GET /overview': overviewOf() })
    const file = {
      path: 'a',
      plugin: 'Purse',
      sha: 's',
      changedBy: 'x',
      drifted: false,
      after: 'reload' as const,
      blocking: 0,
      held: [],
      asks: null,
      count: 1,
      text: true,
    }
    useTrayStore().files = [{ ...file, changes: [{ path: '/bank/interest', kind: 'changed' }] }]
    const tray = show(TrayBar)
    expect(tray.text()).toContain('1 change in 1 file')
    expect(tray.text()).toContain('bank.interest')
    await tray.get('.btn.quiet').trigger('click')
    expect(asked).toEqual([])
    await settle()
    document.querySelector<HTMLElement>('.confirm-acts .btn:not(.quiet)')!.click()
    await settle()
    expect(asked[0]?.key).toBe('DELETE /tray')
  })

  it('finds settings in all files by one request', async () => {
    const { asked } = answering({
      'GET /files': [viewOf(FACTORY), viewOf('greeting: "Well met"\n', { path: 'extras/Hampers/lang/en.yml' })],
    })
    const dialog = show(FindDialog, { visible: false })
    await dialog.setProps({ visible: true })
    await settle()
    const field = document.querySelector<HTMLInputElement>('.find-in')!
    field.value = 'well met'
    field.dispatchEvent(new Event('input'))
    await nextTick()
    const found = [...document.querySelectorAll('[role="option"]')]
    expect(found.map((item) => item.textContent)).toEqual([expect.stringContaining('lang/en.yml')])
    ;(found[0] as HTMLElement).click()
    expect(router.push).toHaveBeenCalledWith({ path: '/s/lantern-row/settings/extras/Hampers/lang/en.yml', query: { at: '/greeting' } })
    expect(asked.length).toBe(1)
  })
})

describe('small things', () => {
  it('a diff has numbers, signs, and words for those who do not see them', () => {
    const diff = show(TextDiff, { before: 'a\nb\nc\n', after: 'a\nB\nc\n' })
    expect(diff.findAll('li').map((line) => line.classes()[0])).toEqual(['same', 'del', 'add', 'same'])
    expect(diff.text()).toContain('taken out: b')
  })

  it('staged texts are shown against the server where that changed', async () => {
    answering({ 'GET /tray/text': { base: 'a: 1\n', draft: 'a: 2\n', now: 'a: 3\n' } })
    const diff = show(StagedDiff, { file: { path: 'a.yml', sha: 's', drifted: true } })
    await settle()
    expect(diff.findAll('.diff').length).toBe(2)
    expect(diff.text()).toContain('changed on the server')
    answering({})
    const broken = show(StagedDiff, { file: { path: 'b.yml', sha: 's', drifted: false, text: true } })
    await settle()
    expect(broken.get('[role="alert"]').text()).toContain('does not answer')
  })

  it.each(['error', 'warning', 'note', 'decision', 'done'] as const)('the mark of %s has a name', (kind) => {
    expect(show(FindingMark, { kind }).get('svg').attributes('aria-label')).toMatch(/\w/)
  })

  it('layers are named, and console lines are said by level', () => {
    expect(show(LayerMark, { factory: true, update: true }).attributes('aria-label')).toBe('layers: factory, update')
    const lines = [{ seq: 1, time: '12:00', level: 'error', text: 'broken', event: null }]
    expect(show(ConsoleLines, { lines }).text()).toContain('error: broken')
    expect(show(ConsoleLines, { lines: [] }).text()).toContain('Nothing yet')
  })
})
