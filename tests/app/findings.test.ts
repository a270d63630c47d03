import { nextTick } from 'vue'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import TrayBar from '../../app/components/frame/TrayBar.vue'
import OverruleErrors from '../../app/components/review/OverruleErrors.vue'
import RuleSheet from '../../app/components/plugins/RuleSheet.vue'
import WhyNot from '../../app/components/findings/WhyNot.vue'
import FindingsPage from '../../app/pages/s/[server]/findings.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useFindingsStore, withMended } from '../../app/stores/findings'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { useSheetStore } from '../../app/stores/sheet'
import { useTrayStore } from '../../app/stores/tray'
import { groupFindings } from '../../app/utils/finding-groups'
import type { FileView, ServerFinding, TrayFile } from '../../app/utils/types'
import { button, route, show, text } from './pages'
import { answering, overviewOf, until, viewOf } from './world'

const FILES: Readonly<Record<string, string>> = {
  'extras/Hampers/settings.yml': 'icon: fired_brik\nitems: [fired_brik 4]\n',
  'extras/Stallholder/settings.yml': 'icon: fired_brik\nrows: 8\n',
}
const finding = (more: Partial<ServerFinding>): ServerFinding => ({
  file: 'extras/Hampers/settings.yml',
  check: 'known-ids',
  code: 'unknown-id',
  severity: 'warning',
  from: 6,
  to: 16,
  message: 'There is no item fired_brik. Did you mean fired_brick?',
  cause: 'items fired_brik',
  line: 1,
  column: 7,
  subject: 'a',
  plugin: 'Hampers',
  since: '2026-11-27T10:00:00.000Z',
  aside: null,
  excerpt: { text: 'icon: fired_brik', from: 6, to: 16 },
  fix: { label: 'fired_brick', edits: [{ from: 6, to: 16, insert: 'fired_brick' }] },
  ...more,
})
const LIST: readonly ServerFinding[] = [
  finding({}),
  finding({
    subject: 'b',
    line: 2,
    from: 25,
    to: 35,
    fix: { label: 'fired_brick', edits: [{ from: 25, to: 35, insert: 'fired_brick' }] },
    excerpt: { text: 'items: [fired_brik 4]', from: 8, to: 18 },
  }),
  finding({ subject: 'c', file: 'extras/Stallholder/settings.yml', plugin: 'Stallholder' }),
  finding({
    subject: 'd',
    file: 'extras/Stallholder/settings.yml',
    plugin: 'Stallholder',
    code: 'out-of-range',
    severity: 'error',
    cause: undefined as never,
    fix: undefined as never,
    line: 2,
    message: '“rows” is 8, and the author says at most 6. Lower it.',
    since: '2026-11-27T11:00:00.000Z',
  }),
]

describe('groups of findings', () => {
  const shown = (by: Parameters<typeof groupFindings>[1], toggled: readonly string[] = [], list = LIST) =>
    groupFindings(list, by, new Set(toggled)).map(({ title, about, severity, findings, isOpen, isAlike }) => [
      title,
      about,
      severity,
      findings.map(({ subject }) => subject).join(''),
      isOpen,
      isAlike,
    ])
  it('are of one mistake, of one plugin, or the newest first', () => {
    expect(shown('cause')).toEqual([
      ['Outside of its bounds', 'Stallholder', 'error', 'd', true, false],
      ['No such thing in the game', 'Hampers, Stallholder', 'warning', 'abc', true, true],
    ])
    expect(shown('plugin')).toEqual([
      ['Stallholder', '', 'error', 'cd', true, false],
      ['Hampers', '', 'warning', 'ab', true, true],
    ])
    expect(shown('newest')).toEqual([['Newest first', '', 'error', 'dabc', true, false]])
    expect(shown('newest', [], [])).toEqual([])
  })
  it('fold, those of many lines at first; what is set aside comes last', () => {
    expect(shown('cause', ['out-of-range']).map((group) => group[4])).toEqual([false, true])
    const many = Array.from({ length: 40 }, (_, i) => finding({ subject: String(i), cause: `x${i}` }))
    expect(shown('cause', [], many)[0]![4]).toBe(false)
    const put = { reason: 'Meant.', by: 'maren', at: '2026-11-27T10:00:00.000Z' }
    expect(shown('cause', [], [finding({ aside: put }), LIST[3]!]).map((group) => group[0])).toEqual(['Outside of its bounds', 'Set aside'])
  })
})

it('what is mended stays in its place until all is looked at anew', () => {
  const before = LIST.map((one) => ({ ...one, isMended: false }))
  const now = [LIST[1]!, finding({ subject: 'new' })]
  expect(withMended(before, now).map(({ subject, isMended }) => `${subject}${isMended ? ' mended' : ''}`)).toEqual([
    'a mended',
    'b',
    'c mended',
    'd mended',
    'new',
  ])
  // what comes back is no longer mended
  expect(withMended(withMended(before, now), LIST).map(({ isMended }) => isMended)).toEqual([false, false, false, false, true])
})

it('an answer that comes after a later one is not heard', async () => {
  const waiting: ((findings: readonly ServerFinding[]) => void)[] = []
  answering({
    'GET /findings': () =>
      new Promise((resolve) => waiting.push((findings) => resolve({ findings, files: 12, ms: 31, at: '2026-11-27T10:00:00.000Z' }))),
    'GET /findings/check': { progress: null },
  })
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  const findings = useFindingsStore()
  const first = findings.load(true)
  await until(() => expect(waiting).toHaveLength(1))
  waiting[0]!(LIST)
  await first
  const [slow, quick] = [findings.load(), findings.load()]
  await until(() => expect(waiting).toHaveLength(3))
  waiting[2]!(LIST.filter(({ subject }) => subject !== 'a'))
  await quick
  expect(findings.loading).toBe(false)
  waiting[1]!(LIST)
  await slow
  expect(findings.list.find(({ subject }) => subject === 'a')!.isMended).toBe(true)
})

describe('the page of findings', () => {
  let texts: Record<string, string>
  let asides: string[]
  const left = (): ServerFinding[] =>
    LIST.filter(({ file, line }) => texts[file]!.split('\n')[line - 1]!.match(/fired_brik\b|rows: 8/)).map((one) =>
      asides.includes(one.subject) ? { ...one, aside: { reason: 'Meant.', by: 'maren', at: '2026-11-27T10:00:00.000Z' } } : one,
    )
  const views = (path: string): FileView => viewOf(FILES[path]!, { path, plugin: path.split('/')[1]! })

  beforeEach(async () => {
    texts = { ...FILES }
    asides = []
    answering({
      'GET /findings': () => ({ findings: left(), files: 12, ms: 31, at: '2026-11-27T10:00:00.000Z' }),
      'GET /findings/check': { progress: null },
      'PUT /findings/aside': (body: unknown) => (asides.push((body as { subject: string }).subject), { ok: true }),
      'DELETE /findings/aside': () => (asides.splice(0), { ok: true }),
      'GET /findings/why': (_body: unknown, url: string) => ({
        plugin: 'Hampers',
        features: [{ id: 'extras/Hampers/settings.yml#/hampers/angler', title: 'angler' }],
        groups: ['mudlark'],
        answers: [
          { id: 'loaded', question: 'Is it loaded?', answer: 'yes', says: 'Hampers 2.4 was loaded', link: null },
          {
            id: 'permission',
            question: url.includes('mudlark') ? 'May mudlark?' : 'May players?',
            answer: 'no',
            says: 'no group holds it',
            link: { path: 'extras/Hampers/settings.yml', line: 4 },
          },
          { id: 'read', question: 'Are the settings read?', answer: 'unknown', says: 'not known: it was not heard', link: null },
        ],
      }),
      'GET /file': (_body: unknown, url: string) => views(new URL(url, 'http://here').searchParams.get('path')!),
      'PUT /draft': (body: unknown) => {
        const { path, text: now } = body as { path: string; text: string }
        texts[path] = now
        return { draftSha: `sha of ${now}` }
      },
      'GET /known': {
        registries: {},
        nodes: [],
        ports: [],
        placeholders: [],
        texts: { marks: [], codes: null, lineBreak: null, placeholder: ['{', '}'] },
      },
      'GET /tray': [],
      'GET /overview': overviewOf(),
    })
    useServerStore().slug = 'lantern-row'
    useServerStore().overview = overviewOf()
    useSessionStore().me = { name: 'maren', role: 'editor' } as never
    route.query = {}
    show(FindingsPage)
    await until(() => expect(text()).toContain('No such thing in the game'))
  })
  afterEach(async () => {
    await useSheetStore().draft?.flush()
    await useDraftsStore().leave()
    await useDraftsStore().leaveBeside()
    localStorage.clear()
  })

  it('says how much there is, and shows the first with its setting', async () => {
    expect(text()).toContain('1 error')
    expect(text()).toContain('3 warnings')
    expect(text()).toContain('12 files, at')
    await until(() => expect(document.querySelector('.margin')!.textContent).toContain('“rows” is 8'))
    await until(() => expect(document.querySelector('.margin .place')!.textContent).toContain('Rows'))
    expect(document.querySelector('.margin')!.textContent).toContain('holds the tray')
  })

  it('mends one, and all alike but those left out; one undo takes all back', async () => {
    const findings = useFindingsStore()
    findings.focus = 'a'
    await until(() => expect(text()).toContain('Mend all 3 alike'))
    const boxes = [...document.querySelectorAll<HTMLInputElement>('.margin input[type="checkbox"]')]
    boxes[2]!.click()
    await until(() => expect(text()).toContain('Mend these 2'))
    ;[...document.querySelectorAll('button')].find((item) => item.textContent!.includes('Mend these 2'))!.click()
    await until(() => expect(texts['extras/Hampers/settings.yml']).toBe('icon: fired_brick\nitems: [fired_brick 4]\n'))
    expect(texts['extras/Stallholder/settings.yml']).toContain('fired_brik')
    await until(() => expect(document.querySelectorAll('li.mended')).toHaveLength(2))
    expect(findings.counts).toEqual({ error: 1, warning: 1, note: 0 })
    await findings.undo()
    await until(() => expect(texts['extras/Hampers/settings.yml']).toBe(FILES['extras/Hampers/settings.yml']))
    await until(() => expect(findings.counts.warning).toBe(3))
  })

  it('goes from one to the next by keys, and sets aside with a reason', async () => {
    const findings = useFindingsStore()
    const press = (key: string): boolean => document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
    expect(findings.focus).toBe('d')
    press('.')
    expect(findings.focus).toBe('a')
    press('k')
    expect(findings.focus).toBe('d')
    await nextTick()
    press('x')
    await until(() => expect(document.querySelector('#aside-reason')).not.toBeNull())
    const field = document.querySelector<HTMLInputElement>('#aside-reason')!
    field.value = 'It is meant.'
    field.dispatchEvent(new Event('input'))
    await until(() => expect(button('Set aside').disabled).toBe(false))
    field.closest('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await until(() => expect(text()).toContain('“Meant.” maren'))
    expect(findings.counts.error).toBe(0)
    button('Take up again').click()
    await until(() => expect(findings.counts.error).toBe(1))
  })

  it('asks why something does not work, and for whom', async () => {
    document.body.innerHTML = ''
    show(WhyNot)
    expect(text()).toContain('Pick a plugin')
    const selects = (): HTMLSelectElement[] => [...document.querySelectorAll('select')]
    const pick = (at: number, value: string): void => {
      selects()[at]!.value = value
      selects()[at]!.dispatchEvent(new Event('change'))
    }
    pick(0, useServerStore().overview!.plugins[0]!.name)
    await until(() => expect(text()).toContain('3 questions, 1 to look at'))
    expect(text()).toContain('settings.yml 4')
    pick(2, 'mudlark')
    await until(() => expect(text()).toContain('May mudlark?'))
  })
})

it('errors that hold the tray are let through by their own name', async () => {
  const tray = useTrayStore()
  useServerStore().slug = 'lantern-row'
  useSessionStore().me = { name: 'maren', role: 'editor' } as never
  tray.files = [{ path: 'a', sha: 'x', held: [{ code: 'unknown-group', count: 2 }] } as unknown as TrayFile]
  expect(tray.isHeld).toBe(true)
  show(OverruleErrors)
  expect(text()).toContain('No such group 2')
  button('Overrule …').click()
  await until(() => expect(document.querySelector('form')).not.toBeNull())
  const [name, why] = [...document.querySelectorAll<HTMLInputElement>('form input')]
  const type = (field: HTMLInputElement, value: string): void => {
    field.value = value
    field.dispatchEvent(new Event('input'))
  }
  type(why!, 'Tomorrow.')
  type(name!, 'unknown')
  await until(() => expect(button('Let it through').disabled).toBe(true))
  type(name!, 'unknown-group')
  await until(() => expect(button('Let it through').disabled).toBe(false))
  document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
  await until(() => expect(text()).toContain('let through: Tomorrow.'))
  expect(tray.isHeld).toBe(false)
})

it('rules of yours are saved as a sheet, and one is taken in', async () => {
  useServerStore().slug = 'lantern-row'
  useSessionStore().me = { name: 'maren', role: 'editor' } as never
  let taken = ''
  answering({
    'GET /rules/sheet': { name: 'Purse-1.8.rules.yml', text: 'plugin: Purse\n', rules: 2, descriptions: [] },
    'PUT /rules/sheet': (body: unknown) => ((taken = (body as { text: string }).text), { plugin: 'Purse', rules: 3 }),
    'GET /overview': overviewOf(),
  })
  show(RuleSheet, { plugin: 'Purse' })
  await until(() => expect(text()).toContain('2 settings said by hand.'))
  expect(button('Save as a sheet').disabled).toBe(false)
  const field = document.querySelector<HTMLInputElement>('input[type="file"]')!
  Object.defineProperty(field, 'files', { value: [new File(['plugin: Purse\nfiles: {}\n'], 'a.yml')] })
  field.dispatchEvent(new Event('change'))
  await until(() => expect(text()).toContain('3 rules for Purse taken in.'))
  expect(taken).toBe('plugin: Purse\nfiles: {}\n')
})

it('a schema is attached to the file it is said to describe, and taken away', async () => {
  const server = useServerStore()
  server.$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'maren', role: 'editor' } as never
  const [plugin] = overviewOf().plugins
  const path = plugin!.files[0]!.path
  let descriptions: unknown[] = []
  const { asked } = answering({
    'GET /rules/sheet': () => ({ name: 'a.rules.yml', text: '', rules: 0, descriptions }),
    'PUT /rules/description': () => ((descriptions = [{ path, name: 'mine.schema.json', by: 'maren', at: '' }]), { rules: 4 }),
    'DELETE /rules/description': () => ((descriptions = []), { done: true }),
    'GET /overview': overviewOf(),
  })
  show(RuleSheet, { plugin: plugin!.name })
  await until(() => expect(text()).toContain('Nothing was said by hand yet'))
  const field = document.querySelector<HTMLInputElement>('input[type="file"]')!
  Object.defineProperty(field, 'files', { value: [new File(['{ "properties": {} }'], 'mine.schema.json')] })
  field.dispatchEvent(new Event('change'))
  await until(() => expect(text()).toContain('mine.schema.json describes'))
  document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
  await until(() => expect(text()).toContain('describes 4 settings'))
  expect(asked.find(({ key }) => key === 'PUT /rules/description')?.body).toEqual({
    path,
    name: 'mine.schema.json',
    text: '{ "properties": {} }',
  })
  button('Take mine.schema.json away').click()
  await until(() => expect(text()).toContain('any more'))
  expect(document.querySelector('.attached')).toBeNull()
})

it('the tray says how many errors hold it, and leads to them', async () => {
  const server = useServerStore()
  const overview = overviewOf()
  const [first] = overview.plugins
  server.$patch({
    slug: 'lantern-row',
    overview: { ...overview, plugins: [{ ...first!, files: [{ ...first!.files[0]!, staged: true, errors: 1 }] }] },
  })
  useSessionStore().me = { name: 'maren', role: 'editor' } as never
  const tray = useTrayStore()
  const staged = {
    path: 'a',
    plugin: 'A',
    sha: 'x',
    count: 1,
    blocking: 0,
    changes: [],
    drifted: false,
    after: 'reload',
    text: true,
    changedBy: 'maren',
  }
  tray.files = [{ ...staged, held: [{ code: 'unknown-group', count: 1 }] }] as unknown as TrayFile[]
  show(TrayBar)
  expect(text()).toContain('1 error holds it')
  tray.overruled = { 'unknown-group': 'Tomorrow.' }
  await until(() => expect(text()).not.toContain('holds it'))
  const { asked } = answering({
    'POST /tray/apply': { status: 'verified', outcome: { lines: [], complaints: [] } },
    'GET /tray': [],
    'GET /overview': overview,
  })
  await tray.apply()
  expect(asked[0]!.body).toEqual({
    commands: [],
    drafts: [{ path: 'a', sha: 'x' }],
    overrule: [{ code: 'unknown-group', reason: 'Tomorrow.' }],
  })
  expect(tray.overruled).toEqual({})
})
