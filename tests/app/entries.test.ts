import { mount, type VueWrapper } from '@vue/test-utils'
import { parse } from 'yaml'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import EntryDialogs from '../../app/components/entries/EntryDialogs.vue'
import SheetView from '../../app/components/sheet/SheetView.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useEntriesStore } from '../../app/stores/entries'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { useSheetStore } from '../../app/stores/sheet'
import type { FileView, ShownReference } from '../../app/utils/types'
import { engines } from './engines'
import { answering, overviewOf, until, viewOf } from './world'

const HAMPERS = `hampers:
  fisher:
    node: hampers.claim.fisher
    icon: eel
    slot: 0
  potter:
    node: hampers.claim.potter
    icon: clay
    slot: 1
  keeper:
    node: hampers.claim.keeper
    icon: honeycomb
    slot: 2
first: fisher
`
const FACTORY = HAMPERS.replace('first:', '  lampman:\n    node: hampers.claim.lampman\n    icon: lamp_oil\n    slot: 5\nfirst:')
const NODES = 'groups:\n  mudlark:\n    nodes: [hampers.claim.fisher, purse.look]\n'
const HOME = 'extras/Hampers/settings.yml'
const AWAY = 'extras/Wardkeys/settings.yml'
const reference = (more: Partial<ShownReference>): ShownReference => ({
  file: HOME,
  pointer: '/first',
  what: 'value',
  text: 'fisher',
  isSure: false,
  line: 14,
  plugin: 'Hampers',
  ...more,
})
const REFERENCES = [
  reference({ file: AWAY, pointer: '/groups/mudlark/nodes/0', text: 'hampers.claim.fisher', isSure: true, line: 3, plugin: 'Wardkeys' }),
  reference({}),
]
const files: Record<string, FileView> = {}
const open: VueWrapper[] = []
const show = (component: Parameters<typeof mount>[0], props: Record<string, unknown> = {}): VueWrapper => {
  const wrapper = mount(component as never, { props, attachTo: document.body } as never) as VueWrapper
  open.push(wrapper)
  return wrapper
}
const answers = (more: Parameters<typeof answering>[0] = {}): ReturnType<typeof answering> =>
  answering({
    'GET /file': (_body: unknown, url: string) => files[new URL(url, 'http://here').searchParams.get('path')!],
    'GET /references': { name: 'fisher', references: REFERENCES },
    'GET /known': {
      registries: {},
      nodes: [],
      ports: [],
      placeholders: [],
      texts: { placeholder: [], lineBreak: null, codes: null, marks: [] },
    },
    'GET /tray': [],
    'GET /overview': overviewOf(),
    'PUT /draft': { draftSha: 'd', baseSha: 'base', merged: null },
    ...more,
  })

beforeEach(async () => {
  engines.open = 0
  files[HOME] = { ...viewOf(HAMPERS, { factory: FACTORY }), path: HOME, plugin: 'Hampers' }
  files[AWAY] = { ...viewOf(NODES), path: AWAY, plugin: 'Wardkeys' }
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'tobiah', role: 'editor', hasPassword: true }
})
afterEach(async () => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  await useSheetStore().draft?.flush()
  await useDraftsStore().leaveBeside()
  vi.unstubAllGlobals()
})

describe('an entry of the file at hand', () => {
  it('is renamed with what refers to it in other files, and one undo takes all back', async () => {
    answers()
    const [sheet, entries, drafts] = [useSheetStore(), useEntriesStore(), useDraftsStore()]
    await sheet.open(HOME)
    await entries.ask('rename', '/hampers/fisher', 'fisher')
    expect(entries.chosen).toEqual([0])
    entries.chosen = [0, 1]
    expect(await entries.rename('eelman')).toBe(true)
    const away = await drafts.openBeside(AWAY)
    const home = parse(sheet.text) as { hampers: Record<string, { node: string }>; first: string }
    expect(Object.keys(home.hampers)).toEqual(['eelman', 'potter', 'keeper'])
    expect(home.hampers['eelman']!.node).toBe('hampers.claim.eelman')
    expect(home.first).toBe('eelman')
    expect(away.draft.text.value).toBe(NODES.replace('claim.fisher', 'claim.eelman'))
    expect(sheet.told).toMatchObject({ pointer: '/hampers/eelman', from: 'fisher' })
    sheet.undo()
    expect([sheet.text, away.draft.text.value]).toEqual([HAMPERS, NODES])
    sheet.redo()
    expect(away.draft.text.value).toContain('claim.eelman')
    expect(sheet.text).toContain('eelman')
    sheet.undo()
    // a step of its own after it is taken back alone
    await sheet.set('/first', 'potter')
    sheet.undo()
    expect([sheet.text, away.draft.text.value]).toEqual([HAMPERS, NODES])
  })

  it('is as it was everywhere where one of the files cannot take the name', async () => {
    answers({ 'GET /references': { name: 'fisher', references: [{ ...REFERENCES[0], pointer: '/groups/nobody' }] } })
    const [sheet, entries] = [useSheetStore(), useEntriesStore()]
    await sheet.open(HOME)
    await entries.ask('rename', '/hampers/fisher', 'fisher')
    expect(await entries.rename('eelman')).toBe(false)
    expect(entries.problem).toContain(`${AWAY}: This cannot be done: there is no /groups/nobody any more`)
    expect(entries.asked).not.toBe(null)
    expect(sheet.text).toBe(HAMPERS)
    expect(await entries.rename('potter')).toBe(false)
    expect(entries.problem).toContain('potter is there already')
  })

  it('is taken out at once where nobody refers to it, and else after a look', async () => {
    answers()
    const [sheet, entries] = [useSheetStore(), useEntriesStore()]
    await sheet.open(HOME)
    await entries.ask('remove', '/hampers/fisher', 'fisher')
    const dialog = show(EntryDialogs)
    await until(() => expect(dialog.text()).toContain('Wardkeys/settings.yml, line 3'))
    expect(sheet.text).toBe(HAMPERS)
    await dialog
      .findAll('button')
      .find((button) => button.text() === 'Take it out all the same')!
      .trigger('click')
    await until(() => expect(sheet.text !== HAMPERS).toBe(true))
    expect(Object.keys((parse(sheet.text) as { hampers: object }).hampers)).toEqual(['potter', 'keeper'])
    answers({ 'GET /references': { name: 'potter', references: [] } })
    await entries.ask('remove', '/hampers/potter', 'potter')
    await until(() => expect(sheet.text).not.toContain('potter'))
    expect(entries.asked).toBe(null)
  })

  it('is added like one the plugin ships, or like one of mine', async () => {
    answers()
    const [sheet, entries] = [useSheetStore(), useEntriesStore()]
    await sheet.open(HOME)
    await entries.ask('add', '/hampers', 'hampers')
    expect(entries.templates.map(({ side, name }) => `${side} ${name}`)).toEqual([
      'mine fisher',
      'mine potter',
      'mine keeper',
      'factory fisher',
      'factory potter',
      'factory keeper',
      'factory lampman',
    ])
    const lampman = entries.templates.at(-1)!
    expect(await entries.add(lampman, 'lampman')).toBe(true)
    expect(parse(sheet.text)).toEqual(parse(FACTORY))
    await entries.ask('add', '/hampers', 'hampers')
    expect(await entries.add(entries.templates[0]!, 'eelman')).toBe(true)
    const { hampers } = parse(sheet.text) as { hampers: Record<string, object> }
    expect(hampers['eelman']).toEqual({ node: 'hampers.claim.eelman', icon: 'eel', slot: 3 })
  })

  it('is copied to another file after what does not fit was told', async () => {
    const copied = {
      path: AWAY,
      pointer: '/groups/fisher',
      renamed: 1,
      misfits: [{ what: 'unknown', setting: '/slot', says: 'no entry there has it' }],
    }
    const { asked } = answers({
      'GET /api/servers': [{ slug: 'lantern-row' }, { slug: 'night-market' }],
      'GET /groups': [{ pointer: '/groups', size: 1, kind: 'section' }],
      'POST /entries': copied,
    })
    const entries = useEntriesStore()
    await useSheetStore().open(HOME)
    await entries.ask('copy', '/hampers/fisher', 'fisher')
    const dialog = show(EntryDialogs)
    await until(() => expect(dialog.text().includes('one of a plugin’s files')).toBe(true))
    const target = { server: 'lantern-row', path: AWAY, group: '/groups', name: 'eelman' }
    expect(await entries.copyTo(target, true)).toEqual(copied)
    expect(await entries.copyTo({ ...target, name: '' }, false)).toEqual(copied)
    const sent = asked.filter(({ key }) => key === 'POST /entries').map(({ body }) => body)
    const from = { server: 'lantern-row', path: HOME, pointer: '/hampers/fisher' }
    expect(sent).toEqual([
      { from, path: AWAY, group: '/groups', name: 'eelman', trial: true },
      { from, path: AWAY, group: '/groups', name: null, trial: false },
    ])
  })
})

describe('the sheet', () => {
  it('names a copy with a proposal, tells what was chosen, marks what is still the same, and moves entries', async () => {
    answers()
    const sheet = useSheetStore()
    await sheet.open(HOME)
    const view = show(SheetView, { margin: false })
    sheet.focus = '/hampers/fisher'
    await sheet.refresh()
    await nextTick()
    const press = (name: string) =>
      view
        .findAll('button')
        .find((button) => button.text() === name)!
        .trigger('click')
    await press('Duplicate')
    await until(() => expect(view.find('.naming input').exists()).toBe(true))
    expect((view.find('.naming input').element as HTMLInputElement).value).toBe('fisher-2')
    await view.find('.naming').trigger('submit')
    await until(() => expect(sheet.text.includes('fisher-2:')).toBe(true))
    await until(() => expect(view.text().includes('slot 3 chosen, which is free')).toBe(true))
    expect(view.text()).toContain('its name put in 1 place instead of fisher')
    expect(view.text()).toContain('as in fisher')
    await until(() => expect(sheet.focus).toBe('/hampers/fisher-2'))
    await sheet.refresh()
    await nextTick()
    await view.find('button[aria-label="Move down"]').trigger('click')
    await until(() => expect(Object.keys((parse(sheet.text) as { hampers: object }).hampers)[2] === 'fisher-2').toBe(true))
    for (const _step of ['move', 'copy']) sheet.undo()
    expect(sheet.text).toBe(HAMPERS)
  })
})
