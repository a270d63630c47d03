import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { NumberText, applyEdits, readingFor, type KnownIds, type Rule, type Value } from '@pasticcio/core'
import RuleNote from '../../app/components/sheet/RuleNote.vue'
import SettingControl from '../../app/components/sheet/SettingControl.vue'
import SheetRowLine from '../../app/components/sheet/SheetRowLine.vue'
import { toWire } from '../../app/drafts/wire'
import { useKnownStore } from '../../app/stores/known'
import { useServerStore } from '../../app/stores/server'
import { useSheetStore } from '../../app/stores/sheet'
import { ruleWords } from '../../app/utils/rule-words'
import type { OffRow, SettingRow, SheetRow } from '../../app/utils/sheet-rows'
import type { Known } from '../../app/utils/types'
import { answering, engineOf, overviewOf, viewOf } from './world'

const IDS = ['reed', 'clay', 'fired_brick', 'tin_bell', 'rope_coil']
const known: KnownIds = { items: new Set(IDS), places: new Set(['delta', 'saltpans']) }
const KNOWN: Known = {
  registries: {
    items: IDS.map((id) => ({ id, name: null, group: 'goods' })),
    places: ['delta', 'saltpans'].map((id) => ({ id, name: null, group: null })),
  },
  nodes: [{ id: 'fair.enter', says: 'Come in', plugin: 'Fair' }],
  ports: [
    { port: 4000, plugin: 'Bridge', path: 'extras/Bridge/settings.yml', pointer: '/port' },
    { port: 4001, plugin: 'Gate', path: 'extras/Gate/settings.yml', pointer: '/port' },
  ],
  placeholders: [{ text: '{player}', says: 'who', plugin: 'Fair' }],
  texts: { placeholder: ['{', '}'], lineBreak: null, codes: '\\[/?[a-z]*\\]', marks: [{ code: '[b]', bold: true }] },
}

const open: VueWrapper[] = []
const rowsOf = (text: string, path = 'x.yml', plugins?: readonly string[]): readonly SheetRow[] =>
  engineOf(text, { path, known, reading: readingFor(path, null), factory: text, ...(plugins ? { plugins } : {}) }).sheet({
    from: 0,
    to: 99,
    onlyMine: false,
    focus: '',
  }).rows
function rowAt(text: string, pointer: string, path?: string, plugins?: readonly string[]): SettingRow {
  const row = rowsOf(text, path, plugins).find((item) => item.pointer === pointer && item.type === 'setting')
  if (!row) throw new Error(`no setting ${pointer}`)
  return row as SettingRow
}
function control(row: SettingRow): VueWrapper {
  const wrapper = mount(SettingControl, { props: { row, disabled: false, bad: false }, attachTo: document.body })
  open.push(wrapper as VueWrapper)
  return wrapper as VueWrapper
}
/** A control that comes on its own when a value needs it. */
async function arriving(row: SettingRow): Promise<VueWrapper> {
  const wrapper = control(row)
  await vi.dynamicImportSettled()
  return wrapper
}
const settle = async (): Promise<void> => {
  for (let i = 0; i < 4; i++) await new Promise((resolve) => setImmediate(resolve))
}
const given = (wrapper: VueWrapper): unknown => wrapper.emitted('set')?.at(-1)?.[0]
/** The file after the last value that a control gave. */
function fileAfter(wrapper: VueWrapper, text: string, pointer: string, path = 'x.yml'): string {
  const engine = engineOf(text, { path, known, reading: readingFor(path, null), factory: text })
  const result = engine.operate({ kind: 'set', pointer, value: toWire(given(wrapper) as Value) })
  if (!('edits' in result)) throw new Error(result.problem)
  return applyEdits(text, result.edits)
}

beforeEach(async () => {
  localStorage.clear()
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  answering({ 'GET /known': KNOWN, 'GET /overview': overviewOf() })
  await useKnownStore().load()
  useKnownStore().zone = 'Asia/Tokyo'
})
afterEach(() => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  vi.unstubAllGlobals()
})

describe('which control a value gets', () => {
  it.each([
    ['x.yml', '# in ticks\nlast: 40\n', '/last', 'duration'],
    ['x.yml', '# in ticks\nlast: soon\n', '/last', 'text'],
    ['x.yml', '# UTC\nat: "17:30"\n', '/at', 'time'],
    ['x.yml', 'opens-at: ["17:30", "18:30"]\n', '/opens-at', 'times'],
    ['x.yml', 'icon: reed\n', '/icon', 'id'],
    ['x.yml', 'items: [reed 5, clay 2]\n', '/items', 'ids'],
    ['x.yml', 'colour: "#aabbcc"\n', '/colour', 'colour'],
    ['x.yml', 'spawn: { x: 1, y: 2, z: 3 }\n', '/spawn', 'place'],
    ['x.yml', 'spawn: "delta 1 2 3"\n', '/spawn', 'place'],
    ['x.yml', 'port: 4000\n', '/port', 'port'],
    ['x.yml', 'password: x\n', '/password', 'secret'],
    ['x.yml', 'host: 127.0.0.1\n', '/host', 'host'],
    ['x.yml', 'url: https://a.example\n', '/url', 'link'],
    ['x.yml', 'chances: { reed: 3, clay: 1 }\n', '/chances/reed', 'weight'],
    ['x.yml', '# 0 = off, 1 = some, 2 = all\nlog: 1\n', '/log', 'choice'],
    ['x.yml', '# 0 = off, 1 = on\nlog: 1\n', '/log', 'switch'],
    ['x.yml', '# in degrees\nfacing: 90\n', '/facing', 'angle'],
    ['x.lua', 'return {\n  colour = { 201, 138, 11 },\n}\n', '/colour', 'colour'],
    ['x.lua', 'return {\n  at = vec3(1, 2, 3),\n}\n', '/at', 'place'],
    ['x.lua', 'return {\n  loud = math.min(1, 0.5),\n}\n', '/loud', 'code'],
    ['x.json', '{ "waitSeconds": 5 }', '/waitSeconds', 'duration'],
  ])('%s: %j has for %s a %s', (path, text, pointer, kind) => expect(rowAt(text, pointer, path).control).toBe(kind))
})

describe('controls write in the file’s own way', () => {
  it('durations, from either field, also of sums and in words', async () => {
    const text = 'last: 1200 # in ticks\nsum: 15 # minutes\nwords: 1h30m\n'
    const ticks = control(rowAt(text, '/last'))
    await ticks.get('[aria-label="Last in minutes"]').setValue('2')
    expect(fileAfter(ticks, text, '/last')).toBe(text.replace('1200', '2400'))
    const words = control(rowAt(text, '/words'))
    expect(words.get('[aria-label="Words in minutes"]').element).toHaveProperty('value', '90')
    await words.get('[aria-label="Words in minutes"]').setValue('45')
    expect(fileAfter(words, text, '/words')).toBe(text.replace('1h30m', '45m'))
    const lua = 'return {\n  -- in milliseconds\n  wait = 5 * 60 * 1000,\n}\n'
    const sum = control(rowAt(lua, '/wait', 'x.lua'))
    await sum.get('[aria-label="Wait in minutes"]').setValue('7')
    expect(fileAfter(sum, lua, '/wait', 'x.lua')).toBe(lua.replace('5 * 60 * 1000', '420000'))
  })

  it('a unit to read in is chosen, and the file keeps its own', async () => {
    const text = 'last: 1200 # in ticks\n'
    const wrapper = control(rowAt(text, '/last'))
    await wrapper.get('select').setValue('second')
    await wrapper.get('[aria-label="Last in seconds"]').setValue('90')
    expect(fileAfter(wrapper, text, '/last')).toBe('last: 1800 # in ticks\n')
    await wrapper.get('[aria-label="Last in seconds"]').setValue('soon')
    expect(wrapper.emitted('set')).toHaveLength(1)
  })

  it('an address says who may come, and any may be typed', async () => {
    const text = 'host: 127.0.0.1\n'
    const wrapper = await arriving(rowAt(text, '/host'))
    expect(wrapper.text()).toContain('this machine only')
    const input = wrapper.get('input')
    await input.setValue('everyone')
    await input.trigger('keydown', { key: 'Enter' })
    expect(fileAfter(wrapper, text, '/host')).toBe('host: 0.0.0.0\n')
    await input.setValue('fair.example')
    await input.trigger('blur')
    expect(fileAfter(wrapper, text, '/host')).toBe('host: fair.example\n')
    expect(input.classes()).not.toContain('bad')
  })

  it('times on one’s own clocks; what is none is kept as typed', async () => {
    const text = '# UTC\nat: "17:30"\n'
    const wrapper = await arriving(rowAt(text, '/at'))
    expect(wrapper.get('input').element.value).toBe('02:30')
    expect(wrapper.text()).toContain('= 17:30 UTC')
    await wrapper.get('input').setValue('9:00')
    expect(fileAfter(wrapper, text, '/at')).toBe('# UTC\nat: "00:00"\n')
    await wrapper.get('input').setValue('noon')
    expect(given(wrapper)).toBe('noon')
    useKnownStore().zone = 'Europe/Paris'
    await settle()
    expect(wrapper.text()).toMatch(/= 17:30 UTC.*from \d+ \w+/)
  })

  it('repeating times are added, taken out and reordered', async () => {
    const text = '# UTC\nhours: ["06:00", "18:00"]\n'
    const wrapper = await arriving(rowAt(text, '/hours'))
    expect(wrapper.findAll('.tok').map((token) => token.text())).toEqual(['15:00', '03:00'])
    await wrapper.get('[aria-label="Add to Hours"]').setValue('12:00')
    expect(fileAfter(wrapper, text, '/hours')).toContain('["06:00", "18:00", "03:00"]')
    await wrapper.get('.tok').trigger('keydown', { key: 'ArrowRight', altKey: true })
    expect(given(wrapper)).toEqual(['18:00', '06:00', '03:00'])
    await wrapper.get('.tok').trigger('keydown', { key: 'Delete' })
    expect(given(wrapper)).toEqual(['06:00', '03:00'])
  })

  it('two that follow each other before the file answers are both kept', async () => {
    const times = await arriving(rowAt('hours: ["06:00"]\n', '/hours'))
    for (const time of ['07:00', '08:00']) await times.get('[aria-label="Add to Hours"]').setValue(time)
    expect(given(times)).toEqual(['06:00', '07:00', '08:00'])
    const numbers = control(rowAt('steps: [1]\n', '/steps'))
    for (const step of ['2', '3']) await numbers.get('[aria-label="Add to Steps"]').setValue(step)
    expect(given(numbers)).toEqual(['1', '2', '3'].map((text) => new NumberText(text)))
    const number = control(rowAt('fee: 1.5\n', '/fee'))
    for (let i = 0; i < 3; i++) await number.get('input').trigger('keydown', { key: 'ArrowUp' })
    expect(given(number)).toEqual(new NumberText('1.8'))
  })

  it('switches in words and numbers keep their kind and capitals', async () => {
    for (const [text, after] of [
      ['tell: "Yes"\n', 'tell: "No"\n'],
      ['# 0 = off, 1 = on\ntell: 1\n', '# 0 = off, 1 = on\ntell: 0\n'],
      ['tell: "ON"\n', 'tell: "OFF"\n'],
      ['tell: true\n', 'tell: false\n'],
    ] as const) {
      const wrapper = control(rowAt(text, '/tell'))
      await wrapper.get('input').setValue(false)
      expect(fileAfter(wrapper, text, '/tell')).toBe(after)
    }
  })

  it('colours in the file’s letters, also as a list of numbers', async () => {
    const text = 'colour: "#C9C6BE"\n'
    const wrapper = control(rowAt(text, '/colour'))
    await wrapper.get('input[type="color"]').setValue('#e8b04a')
    expect(fileAfter(wrapper, text, '/colour')).toBe('colour: "#E8B04A"\n')
    const lua = 'return {\n  colour = { 201, 138, 11 },\n}\n'
    const list = control(rowAt(lua, '/colour', 'x.lua'))
    await list.get('input[aria-label="Colour"]').setValue('1, 2, 300')
    expect(list.emitted('set')).toBeUndefined()
    await list.get('input[aria-label="Colour"]').setValue('#010203')
    expect(fileAfter(list, lua, '/colour', 'x.lua')).toBe(lua.replace('201, 138, 11', '1, 2, 3'))
  })

  it.each([
    ['x.yml', 'spawn: "delta 1 2 3"\n', '/spawn', 'spawn: "delta 9.5 2 3"\n'],
    ['x.yml', 'spawn: { x: 1, y: 2, z: 3, world: delta }\n', '/spawn', 'spawn: { x: 9.5, y: 2, z: 3, world: delta }\n'],
    ['x.lua', 'return {\n  at = vec3(1, 2, 3),\n}\n', '/at', 'return {\n  at = vec3(9.5, 2, 3),\n}\n'],
    ['x.json', '{ "start": [1, 2, 3] }', '/start', '{ "start": [9.5, 2, 3] }'],
  ])('places in %s: %j', async (path, text, pointer, after) => {
    const wrapper = control(rowAt(text, pointer, path))
    await wrapper.get('input').setValue('9.5')
    expect(fileAfter(wrapper, text, pointer, path)).toBe(after)
    await wrapper.get('input').setValue('far')
    expect(wrapper.emitted('set')).toHaveLength(1)
  })

  it('a port that is taken says by whom, and offers the next free one', async () => {
    const text = 'port: 4000\n'
    const wrapper = control(rowAt(text, '/port'))
    expect(wrapper.text()).toContain('Bridge has it too')
    await wrapper.get('.act').trigger('click')
    expect(given(wrapper)).toEqual(new NumberText('4002'))
  })

  it('a secret is as many dots whatever it is, and shown when asked', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const wrapper = control(rowAt('password: ab\n', '/password'))
    expect(wrapper.get('.dots').text()).toBe('••••••••••••')
    expect(wrapper.get('input').attributes('type')).toBe('password')
    await wrapper.get('button').trigger('click')
    expect(wrapper.get('input').attributes('type')).toBe('text')
    vi.advanceTimersByTime(20_000)
    await wrapper.vm.$nextTick()
    expect(wrapper.get('input').attributes('type')).toBe('password')
    vi.useRealTimers()
    await wrapper.get('input').trigger('focus')
    await wrapper.get('input').setValue('new')
    await wrapper.get('input').trigger('blur')
    expect(given(wrapper)).toBe('new')
  })

  it('a secret’s layers are dots too', () => {
    const row = engineOf('password: mine\n', { path: 'x.yml', factory: 'password: theirs\n', update: 'password: new\n' }).sheet({
      from: 0,
      to: 9,
      onlyMine: false,
      focus: '',
    }).rows[0] as SettingRow
    expect([row.factory, row.onServer, row.update]).toEqual(Array(3).fill('••••••••••••'))
    expect(row.value).toBe('mine')
  })

  it('texts offer placeholders as their first sign is typed, and count what players see', async () => {
    const wrapper = control(rowAt('# At most 24 letters\ntitle: "[b]Fair[/b]"\n', '/title'))
    expect(wrapper.text()).toContain('4 of 24')
    const input = wrapper.get('input')
    await input.setValue('Hello {pl')
    expect(wrapper.get('[aria-label="Placeholders for Title"]').text()).toBe('{player}')
    await input.trigger('keydown', { key: 'Enter' })
    expect(given(wrapper)).toBe('Hello {player}')
  })

  it('slots are picked one by one, or what lies in them is moved; twice used is mended', async () => {
    const text = 'stall:\n  goods: [reed, clay, tin_bell]\n  slots: [0, 1, 1]\n'
    const wrapper = await arriving(rowAt(text, '/stall/slots'))
    expect(wrapper.get('[aria-label="slot 0, reed"]').text()).toBe('r')
    expect(wrapper.text()).toContain('slot 1 is used twice')
    await wrapper.get('.act').trigger('click')
    expect(fileAfter(wrapper, text, '/stall/slots')).toContain('[0, 1, 2]')
    await wrapper.get('[aria-label="slot 0, reed"]').trigger('keydown', { key: 'ArrowDown', shiftKey: true })
    expect(wrapper.emitted('set')).toHaveLength(1)
    await wrapper.get('[aria-label="slot 0, reed"]').trigger('keydown', { key: 'ArrowRight', shiftKey: true })
    expect(given(wrapper)).toEqual([1, 1, 0])
  })

  it('weights show their share of all', () => {
    const text = 'chances: { reed: 3, clay: 1 }\n'
    expect(control(rowAt(text, '/chances/reed')).text()).toContain('75.0 %')
    expect(control(rowAt('chances: { reed: 0, clay: 0 }\n', '/chances/reed')).text()).toContain('nothing can be drawn')
  })
})

describe('picking ids', () => {
  const picker = async (text: string, pointer: string): Promise<VueWrapper> => {
    const wrapper = control(rowAt(text, pointer))
    await wrapper.get('[role="combobox"]').trigger('click')
    return wrapper
  }
  const options = (wrapper: VueWrapper): string[] => wrapper.findAll('[role="option"] code').map((option) => option.text())

  it('typing finds by id and name, arrows and Enter pick, and it is offered again', async () => {
    const wrapper = await picker('icon: reed\n', '/icon')
    expect(options(wrapper)).toEqual(IDS)
    const input = wrapper.get('[role="combobox"]')
    await input.setValue('fired b')
    expect(options(wrapper)).toEqual(['fired_brick'])
    await input.trigger('keydown', { key: 'Enter' })
    expect(given(wrapper)).toBe('fired_brick')
    await input.trigger('click')
    expect(wrapper.text()).toContain('lately picked')
    await input.trigger('keydown', { key: 'ArrowDown' })
    await input.trigger('keydown', { key: 'Escape' })
    expect(wrapper.find('[role="listbox"]').exists()).toBe(false)
  })

  it('what is in no list may stay', async () => {
    const wrapper = await picker('icon: reed\n', '/icon')
    await wrapper.get('[role="combobox"]').setValue('moon_cheese')
    expect(wrapper.text()).toContain('Nothing is called so')
    await wrapper.get('[role="combobox"]').trigger('keydown', { key: 'Enter' })
    expect(given(wrapper)).toBe('moon_cheese')
  })

  it('many are pasted at once, each with how many where all have', async () => {
    const wrapper = await picker('items: [reed 5, clay 2]\n', '/items')
    const paste = new Event('paste', { bubbles: true, cancelable: true })
    Object.assign(paste, { clipboardData: { getData: () => 'tin_bell\nrope_coil 3' } })
    wrapper.get('[role="combobox"]').element.dispatchEvent(paste)
    expect(given(wrapper)).toEqual(['reed 5', 'clay 2', 'tin_bell 1', 'rope_coil 3'])
  })

  it('nodes are those of the plugins, with what they are for', async () => {
    const wrapper = await picker('node: fair.keep\n', '/node')
    expect(wrapper.get('[role="option"]').text()).toContain('Come in')
  })
})

describe('lines of the sheet', () => {
  const line = (row: SheetRow): VueWrapper => {
    const wrapper = mount(SheetRowLine as never, { props: { row, locked: false, finding: null } } as never) as VueWrapper
    open.push(wrapper)
    return wrapper
  }

  it('what the author left out is not set, and can be', async () => {
    const text = 'fair:\n  on: true\n  # Closes early.\n  #close-early: 600\n  # note: a remark\n  # After: see above\n'
    const off = rowsOf(text).filter((row): row is OffRow => row.type === 'off')
    expect(off.map(({ pointer, source, comment, line: at }) => [pointer, source, comment, at])).toEqual([
      ['/fair/close-early', '600', 'Closes early.', 4],
    ])
    const wrapper = line(off[0]!)
    expect(wrapper.text()).toContain('not set')
    await wrapper.get('button').trigger('click')
    expect(wrapper.emitted('turnOn')).toHaveLength(1)
    const engine = engineOf(text, { path: 'x.yml' })
    const result = engine.operate({ kind: 'turn-on', pointer: '/fair/close-early' })
    if (!('edits' in result)) throw new Error(result.problem)
    const on = applyEdits(text, result.edits)
    expect(on).toBe(text.replace('  #close-early', '  close-early'))
    engine.edit(result.edits)
    const back = engine.operate({ kind: 'turn-off', pointer: '/fair/close-early' })
    expect('edits' in back && applyEdits(on, back.edits)).toBe(text.replace('#close-early', '# close-early'))
  })

  it('what waits for another setting or a plugin says so', () => {
    const text = 'shop:\n  enabled: false\n  price: 5\n  fee: 2 # needs Purse\n'
    expect(rowAt(text, '/shop/price').waits).toBe('counts once line 2 is on')
    expect(rowAt(text.replace('false', 'true'), '/shop/price').waits).toBeNull()
    expect(rowAt(text.replace('false', 'true'), '/shop/fee', 'x.yml', ['Wardkeys']).waits).toBe('needs Purse, which is not here')
    expect(line(rowAt(text, '/shop/price')).text()).toContain('counts once line 2 is on')
  })

  it('the margin tells what a rule says', () => {
    expect(ruleWords(rowAt('# 1 to 9, in ticks, 0 is no limit\nlast: 5\n', '/last').rule!)).toEqual([
      ['Is', 'a stretch of time'],
      ['In', 'ticks'],
      ['Takes', '1 to 9'],
      ['0', 'no limit'],
    ])
    const all: Rule = {
      path: '/a',
      pattern: '^a',
      required: true,
      sameAs: 'game',
      needs: [{ setting: '/b/on', is: true }, { plugin: 'Purse' }],
      applies: 'restart',
    }
    expect(ruleWords(all)).toEqual([
      ['Form', '^a'],
      ['Empty', 'it has to say something'],
      ['Same as', 'the game port of the server'],
      ['Counts with', 'b.on true, Purse'],
      ['Counts', 'after a restart'],
    ])
  })
})

describe('saying what a setting is', () => {
  it('it counts for all entries of its group, and is taken back', async () => {
    const text = 'stalls:\n  a: { wait: 40, icon: reed }\n  b: { wait: 60, icon: clay }\n'
    const path = 'extras/Purse/settings.yml'
    const { asked } = answering({
      'GET /file': viewOf(text),
      'GET /known': KNOWN,
      'GET /tray': [],
      'GET /overview': overviewOf(),
      'PUT /rules': {},
      'DELETE /rules': {},
    })
    const sheet = useSheetStore()
    await sheet.open(path)
    const note = (row: SettingRow): VueWrapper => {
      const wrapper = mount(RuleNote as never, { props: { row, locked: false } } as never) as VueWrapper
      open.push(wrapper)
      return wrapper
    }
    const wrapper = note(rowAt(text, '/stalls/a/wait'))
    await wrapper.get('.act').trigger('click')
    await wrapper.get('select').setValue('duration')
    await wrapper.findAll('select')[1]!.setValue('tick')
    await wrapper.findAll('input')[0]!.setValue('20')
    await wrapper.get('form').trigger('submit')
    await settle()
    const rule = { path: '/stalls/*/wait', means: 'duration', unit: 'tick', min: 20 }
    expect(asked.filter(({ key }) => key === 'PUT /rules').map(({ body }) => body)).toEqual([{ path, rule }])
    const said = engineOf(text, { rules: [{ ...rule, source: 'yours' } as Rule] }).sheet({
      from: 0,
      to: 99,
      onlyMine: false,
      focus: '',
    }).rows
    const row = said.find(({ pointer }) => pointer === '/stalls/b/wait') as SettingRow
    expect(row.control).toBe('duration')
    const mine = note(row)
    expect(mine.text()).toContain('yours')
    await mine.get('.act').trigger('click')
    await settle()
    expect(asked.filter(({ key }) => key === 'DELETE /rules')).toHaveLength(1)
  })
})
