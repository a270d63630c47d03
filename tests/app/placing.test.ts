import { readFileSync } from 'node:fs'
import { beforeEach, describe, expect, it } from 'vitest'
import { readFamily } from '@pasticcio/core'
import MarkdownText from '../../app/components/base/MarkdownText.vue'
import PlacesList from '../../app/components/plugins/PlacesList.vue'
import FamilyPage from '../../app/pages/families/[id].vue'
import FamiliesPage from '../../app/pages/families/index.vue'
import PluginPage from '../../app/pages/s/[server]/plugins/[plugin].vue'
import InstallPage from '../../app/pages/s/[server]/plugins/install/[packages].vue'
import { useInstallStore } from '../../app/stores/install'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { familyParts } from '../../app/utils/family-parts'
import { partNote, partTitle } from '../../app/utils/plan-words'
import type { PlacingPlan, ShownPart, ShownStep } from '../../app/utils/types'
import { button, route, show, text } from './pages'
import { answering, navigated, overviewOf, until } from './world'

const part = (more: Partial<ShownPart> = {}): ShownPart => ({
  kind: 'package',
  path: 'bundles/lookouts',
  from: 'lookouts-2.1-final/',
  of: null,
  actions: ['bundle.lua', 'settings.lua'].map((name) => ({ kind: 'put', path: `bundles/lookouts/${name}`, content: { sha: 's' } })),
  because: '',
  skipped: '',
  puts: 2,
  texts: [],
  leftAsIs: [],
  replaced: [],
  ...more,
})
const step = (parts: ShownPart[], more: Partial<ShownStep> = {}): ShownStep => ({
  id: 4,
  from: 'pantry',
  name: 'Lookouts',
  folder: 'lookouts',
  home: 'bundles/lookouts',
  version: '2.1.0',
  because: 'asked',
  requiredBy: null,
  replaces: null,
  parts,
  tasks: ['Open port 7740'],
  nodes: { 'lookouts.place': 'Put up a screen' },
  commands: { lookout: 'See them' },
  placeholders: { '{glass}': 'Which glass' },
  hooks: [{ name: 'Beacon Sign', adds: 'a name on the sign', isThere: false }],
  builds: [
    { id: 4, version: '2.1.0', game: '>=7', why: '' },
    { id: 5, version: '2.2.0', game: '>=7.3', why: 'asks for game >=7.3, and this server runs 7.1' },
  ],
  ...more,
})
const line: ShownPart = part({
  kind: 'register',
  path: 'harbour.cfg',
  from: null,
  actions: [{ kind: 'line', path: 'harbour.cfg', line: 'berth lookouts', present: true }],
  puts: 0,
  texts: [{ path: 'harbour.cfg', before: 'berth regatta\n', after: 'berth regatta\nberth lookouts\n' }],
})
const planOf = (more: Partial<PlacingPlan> = {}): PlacingPlan => ({
  sha: 'plan 1',
  steps: [step([part(), line])],
  problems: [],
  gameVersion: '7.1',
  framework: { isOn: true, says: 'Opening bundles', part: null },
  after: 'restart',
  places: null,
  ...more,
})
const documents = { readme: '# Lookouts\n\nPut one up.', changelog: '', summary: 'Screens.', changes: '', nodes: {}, commands: {} }

beforeEach(() => {
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().$patch({ me: { name: 'maren', role: 'owner' } })
  route.params = {}
})

describe('words of a plan', () => {
  const put = (path: string) => ({ kind: 'put' as const, path, content: { sha: 's' } })

  it.each<[string, Partial<ShownPart>, string, string]>([
    ['an archive', {}, 'Unpack', 'an outer folder, lookouts-2.1-final, is left out'],
    ['one file', { actions: [put('extras/Purse.pack')], from: null, path: 'extras/Purse.pack' }, 'Put in its place', ''],
    ['a line', { ...line }, 'Make known to the server', 'behind those it needs'],
    ['a line that is there', { ...line, texts: [] }, 'Make known to the server', 'it is known already'],
    ['a picture', { kind: 'copy', actions: [put('a.png')], because: 'a picture' }, 'One file to its place', 'a picture'],
    [
      'a template that is there',
      { kind: 'copy', actions: [put('a')], leftAsIs: ['a'] },
      'One file to its place',
      'there already, and left as it is',
    ],
    ['some of several', { kind: 'copy', leftAsIs: ['a'] }, '2 files to their place', '1 of them are there already, and left as they are'],
    ['entries', { kind: 'entries' }, '2 entries', 'taken out again on removal, unless changed'],
    ['a block', { kind: 'block', because: 'hours' }, 'Some lines', 'hours'],
    ['what cannot be', { kind: 'entries', skipped: 'Regatta is not on this server' }, '2 entries', 'Regatta is not on this server'],
  ])('%s', (_what, more, title, note) => {
    expect([partTitle(part(more)), partNote(part(more))]).toEqual([title, note])
  })
})

describe('the plan of an installation', () => {
  const answers = (more: Record<string, unknown> = {}) =>
    answering({
      'POST /installs/plan': planOf(),
      'GET /pantry/4/documents': documents,
      'POST /installs': { id: 3, status: 'verified', outcome: { lines: [], complaints: [], message: '' } },
      'GET /overview': overviewOf(),
      ...more,
    })
  const open = async (): Promise<void> => {
    route.params = { packages: '4' }
    show(InstallPage)
    await until(() => expect(text()).toContain('Unpack'))
  }

  it('shows every file and line, and is carried out as it was looked at', async () => {
    const { asked } = answers()
    await open()
    for (const words of [
      'Install Lookouts 2.1',
      'berth lookouts',
      'Only you can do these',
      'Open port 7740',
      'asks for game >=7.3',
      'a name on the sign',
    ])
      expect(text()).toContain(words)
    button('Install and start Ctrl Enter').click()
    await until(() => expect(text()).toContain('Lookouts is loaded.'))
    expect(asked.find(({ key }) => key === 'POST /installs')!.body).toMatchObject({ packages: [4], planSha: 'plan 1', switchOn: false })
    for (const [name, words] of [['About it', '']] as const) expect(text()).toContain(name + words)
  })

  it('is worked out anew for another folder, and says what stands against it', async () => {
    const problems = [{ code: 'folder-taken', severity: 'error', message: 'bundles/regatta is the folder of Regatta.' }]
    const { asked } = answers({
      'POST /installs/plan': (body: unknown) =>
        planOf((body as { folders: Record<string, string> }).folders['Lookouts'] === 'regatta' ? ({ problems } as never) : {}),
    })
    await open()
    useInstallStore().setFolder('Lookouts', 'regatta')
    await until(() => expect(text()).toContain('is the folder of Regatta'))
    expect(button('Install and start Ctrl Enter').disabled).toBe(true)
    expect(asked.filter(({ key }) => key === 'POST /installs/plan')).toHaveLength(2)
  })

  it('what loads plugins can be switched on along with it', async () => {
    const off = { isOn: false, says: 'Opening bundles', part: null }
    const problems = [{ code: 'framework-off', severity: 'error', message: 'Opening bundles is switched off.' }] as never
    answers({
      'POST /installs/plan': (body: unknown) =>
        (body as { switchOn: boolean }).switchOn ? planOf({ framework: { ...off, part: line } }) : planOf({ framework: off, problems }),
    })
    await open()
    button('switch it on').click()
    await until(() => expect(text()).toContain('Switch on what loads plugins'))
    expect(useInstallStore().ready).toBe(true)
    button('leave it off').click()
    await until(() => expect(useInstallStore().ready).toBe(false))
  })

  it('companions, files that are there, and places are for somebody to choose', async () => {
    const copy = part({
      kind: 'copy',
      path: 'profile/lookouts.json',
      actions: [{ kind: 'put', path: 'profile/lookouts.json', content: { sha: 's' } }],
      leftAsIs: ['profile/lookouts.json'],
    })
    const { asked } = answers({
      'POST /pantry/link': () => {
        throw { status: 502, code: 'site-failed', title: 'The site did not answer.' }
      },
      'POST /installs/plan': planOf({
        steps: [
          step([part(), copy]),
          step([], { id: 'http://site/g', name: 'Gate', because: 'companion', requiredBy: 'Lookouts', from: 'site' }),
        ],
        places: ['mole', 'row'],
      }),
    })
    await open()
    expect(text()).toContain('comes with Lookouts')
    expect(text()).toContain('A plugin site has it.')
    expect(useInstallStore().ready).toBe(false)
    button('leave it out').click()
    button('replace it').click()
    useInstallStore().setPlace('mole')
    await until(() => expect(asked.at(-1)!.body).toMatchObject({ without: ['Gate'], overwrite: ['profile/lookouts.json'], place: 'mole' }))
  })

  it('one that was looked at too long ago is shown anew, with the reason', async () => {
    const refused = () => {
      throw { status: 409, code: 'plan-changed', title: 'Look at the plan once more.' }
    }
    answers({ 'POST /installs': refused })
    await open()
    button('Install and start Ctrl Enter').click()
    await until(() => expect(text()).toContain('Look at the plan once more.'))
  })
})

describe('one plugin', () => {
  const removal = {
    sha: 'r1',
    plugin: 'Purse',
    version: '1.0.0',
    removed: ['extras/Purse.pack'],
    settings: ['extras/Purse/settings.yml'],
    changed: ['extras/Purse/notes.txt'],
    texts: [],
    left: [],
    neededBy: ['Hampers'],
  }
  const row = { id: 9, status: 'verified', outcome: { lines: [], complaints: [], message: '' } }

  it('is read about, ticked off, switched off and removed', async () => {
    const task = { plugin: 'Purse', task: 'Set a password', doneBy: null, doneAt: null }
    const { asked } = answering({
      'GET /tasks': [task, { ...task, plugin: 'Other' }],
      'PUT /tasks': [{ ...task, doneBy: 'maren', doneAt: '2026-11-26T10:00:00Z' }],
      'GET /pantry/1/documents': documents,
      'PUT /plugins/Purse/switch': row,
      'GET /plugins/Purse/removal': removal,
      'POST /plugins/Purse/remove': row,
      'GET /overview': overviewOf(),
    })
    route.params = { plugin: 'Purse' }
    show(PluginPage)
    await until(() => expect(text()).toContain('Put one up.'))
    document.querySelector<HTMLInputElement>('input[type="checkbox"]')!.dispatchEvent(new Event('change', { bubbles: true }))
    await until(() => expect(text()).toContain('done by maren'))
    button('Switch off').click()
    await until(() => expect(asked.some(({ key }) => key === 'PUT /plugins/Purse/switch')).toBe(true))
    button('Remove').click()
    await until(() => expect(text()).toContain('extras/Purse/notes.txt'))
    expect(text()).toContain('Hampers needs it')
    document.querySelectorAll<HTMLInputElement>('input[type="radio"]')[1]!.click()
    await until(() => expect(asked.filter(({ key }) => key === 'GET /plugins/Purse/removal')).toHaveLength(2))
  })

  it('that is not there says so', () => {
    route.params = { plugin: 'Nobody' }
    answering({ 'GET /tasks': [] })
    show(PluginPage)
    expect(text()).toContain('Nobody is not on this server')
  })
})

describe('places', () => {
  it('come from an archive, and the command that opens one is filled in', async () => {
    const { asked } = answering({
      'GET /places': { places: ['mole'], folder: 'places' },
      'POST /places/upload': { change: { id: 1 }, command: 'open Low Bank' },
      'POST /console': { ok: true },
    })
    useServerStore().$patch({ state: { status: 'running', players: 1, ticks: 20 } as never })
    show(PlacesList)
    await until(() => expect(text()).toContain('mole'))
    const picker = document.querySelector<HTMLInputElement>('input[type="file"]')!
    Object.defineProperty(picker, 'files', { value: [new File(['x'], 'Low Bank.zip')] })
    picker.dispatchEvent(new Event('change'))
    await until(() => expect(text()).toContain('open Low Bank'))
    button('Say it to the console').click()
    await until(() => expect(asked.at(-1)).toEqual({ key: 'POST /console', body: { line: 'open Low Bank' } }))
    await until(() => expect(button('said').disabled).toBe(true))
  })

  it('that are no folders have no list', async () => {
    const { asked } = answering({ 'GET /places': { places: ['delta'], folder: null } })
    show(PlacesList)
    await until(() => expect(asked).toHaveLength(1))
    expect(text()).not.toContain('delta')
  })
})

describe('families', () => {
  const yaml = readFileSync('families/bundle.yml', 'utf8')
  const about = {
    id: 'bundle',
    title: 'Bundles',
    kept: 'unpacked',
    state: 'changed',
    servers: ['ferry-trials'],
    changedBy: 'maren',
    changedAt: '2026-11-26T10:00:00Z',
  }

  it('are told part by part, whatever they are like', () => {
    for (const id of ['archive', 'script', 'bundle']) {
      const parts = familyParts(readFamily(readFileSync(`families/${id}.yml`, 'utf8')))
      expect(parts).toHaveLength(13)
      expect(parts.every(({ says }) => says !== '' && !says.includes('undefined'))).toBe(true)
    }
  })

  it('stand in a list', async () => {
    answering({ 'GET /api/families': [about], 'GET /api/me': { name: 'maren', role: 'owner' } })
    show(FamiliesPage)
    await until(() => expect(text()).toContain('changed here, by maren'))
    expect(text()).toContain('ferry-trials')
  })

  it('one is looked at, tried, and kept only where nothing is wrong in it', async () => {
    const { asked } = answering({
      'GET /api/me': { name: 'maren', role: 'owner' },
      'GET /api/servers': [{ slug: 'ferry-trials' }],
      'GET /api/families/bundle': { ...about, text: yaml, shipped: '' },
      'POST /api/families/try': {
        game: '7.1',
        plugins: [{ name: 'Regatta', version: '1.5.0', folder: 'regatta', settings: 0, records: 0, isOff: true }],
        strangers: ['x'],
        lines: { loaded: 2 },
        unread: ['what'],
      },
      'PUT /api/families': { ...about, text: yaml },
      'DELETE /api/families/bundle': { ok: true },
    })
    route.params = { id: 'bundle' }
    show(FamilyPage)
    await until(() => expect(text()).toContain('a line in harbour.cfg: berth {folder}'))
    button('Look').click()
    await until(() => expect(text()).toContain('1 plugin found, 1 without settings'))
    expect(text()).toContain('2 loaded')
    expect(button('Save').disabled).toBe(true)
    button('As it came').click()
    await until(() => expect(asked.some(({ key }) => key.startsWith('DELETE'))).toBe(true))
    expect(navigated).toEqual([])
  })
})

it('what authors write is not shown as it is where it cannot be cleaned', () => {
  // as here, where there is no whole browser; that it is cleaned where there is one, tests/e2e/families.test.ts shows
  const wrapper = show(MarkdownText, { text: '# Hi\n\n<img src=x onerror="alert(1)">', empty: 'nothing' })
  expect(wrapper.find('img').exists()).toBe(false)
  expect(wrapper.text()).toContain('# Hi')
  expect(show(MarkdownText, { text: '', empty: 'nothing' }).text()).toBe('nothing')
})
