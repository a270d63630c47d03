import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { NumberText } from '@pasticcio/core'
import { useDraftsStore, type FileStep } from '../../app/stores/drafts'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { useSheetStore } from '../../app/stores/sheet'
import { useTrayStore } from '../../app/stores/tray'
import type { ApplyRow, TrayFile } from '../../app/utils/types'
import { engines } from './engines'
import { answering, draftView, overviewOf, until, viewOf } from './world'

const TEXT = '# At least 0.\nstart: 250\nmost: 50\n'
const PATH = 'extras/Purse/settings.yml'
const applied = (status: ApplyRow['status']): ApplyRow => ({
  id: 4,
  serverId: 1,
  kind: 'settings',
  title: '1 change in Purse',
  status,
  undoes: null,
  outcome: { lines: [], complaints: [{ plugin: 'Purse', path: PATH, line: 2, reason: 'no' }], message: '' },
  startedBy: 'maren',
  startedAt: '2026-11-26T12:00:00Z',
  pinned: false,
})
const staged = (more: Partial<TrayFile> = {}): TrayFile => ({
  path: PATH,
  plugin: 'Purse',
  sha: 's',
  changedBy: 'maren',
  drifted: false,
  text: true,
  after: 'reload',
  changes: [],
  count: 2,
  blocking: 0,
  held: [],
  asks: null,
  ...more,
})

/** A stand-in for the browser's event stream, spoken through by tests. */
class FakeEvents extends EventTarget {
  static last: FakeEvents | null = null
  closed = false
  constructor(readonly url: string) {
    super()
    FakeEvents.last = this
  }
  say(name: string, data: unknown): void {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }))
  }
  close(): void {
    this.closed = true
  }
}

beforeEach(() => {
  engines.open = 0
  vi.stubGlobal('EventSource', FakeEvents)
  useServerStore().slug = 'lantern-row'
})
afterEach(() => void vi.unstubAllGlobals())

describe('the server at hand', () => {
  const start = () => {
    const { asked } = answering({ 'GET /overview': overviewOf(), 'GET /history': [applied('complained')], 'POST /control': { ok: true } })
    return { server: useServerStore(), asked }
  }

  it('is opened once, with state and lines as they come', async () => {
    const { server, asked } = start()
    server.slug = ''
    await server.open('lantern-row')
    await server.open('lantern-row')
    const events = FakeEvents.last!
    expect(events.url).toBe('/api/servers/lantern-row/events')
    events.say('state', { status: 'running', players: 3, ticks: 20 })
    events.say('lines', [{ seq: 1, time: '', level: 'info', text: 'a', event: null }])
    events.say('more', [{ seq: 2, time: '', level: 'info', text: 'b', event: null }])
    expect(server.state.players).toBe(3)
    expect(server.lines.map((line) => line.text)).toEqual(['a', 'b'])
    expect(server.complaints).toEqual([{ plugin: 'Purse', path: PATH, line: 2, reason: 'no' }])
    const before = asked.length
    // what is left out between them is said
    events.say('more', [{ seq: 9, time: '', level: 'info', text: 'ready', event: { type: 'ready' } }])
    expect(server.lines.map((line) => line.text)).toEqual(['a', 'b', '… 6 lines left out', 'ready'])
    await until(() => expect(asked.length).toBe(before + 1))
    server.close()
    expect(events.closed).toBe(true)
  })

  it('tells what goes wrong, and goes on', async () => {
    const { server } = start()
    answering({})
    await server.refresh()
    expect(server.problem).toContain('does not answer')
    answering({ 'GET /overview': overviewOf() })
    await server.refresh()
    expect([server.problem, server.overview?.plugins.length]).toEqual(['', 2])
  })

  it('is started and stopped, and says so meanwhile', async () => {
    const { server, asked } = start()
    const done = server.control('restart')
    expect(server.busy).toBe('restart')
    await done
    expect(server.busy).toBe('')
    expect(asked[0]).toEqual({ key: 'POST /control', body: { action: 'restart' } })
  })

  it('takes a change back, and then has no complaint', async () => {
    const { server } = start()
    await server.lookForComplaints()
    expect(server.complained?.id).toBe(4)
    answering({ 'POST /history/4/undo': applied('verified'), 'GET /overview': overviewOf(), 'GET /history': [applied('undone')] })
    expect((await server.undo(4)).status).toBe('verified')
    expect(server.complained).toBeNull()
  })
})

it.each([
  ['owner', true],
  ['editor', true],
  ['viewer', false],
])('a session as %s may edit: %s', async (role, may) => {
  answering({ 'GET /api/me': { name: 'maren', role } })
  const session = useSessionStore()
  expect(session.mayEdit).toBe(false)
  await session.load()
  expect(session.mayEdit).toBe(may)
})

describe('the tray', () => {
  it('counts changes, and what keeps files from being written', async () => {
    const files = [staged(), staged({ path: 'b', plugin: 'Hampers', count: 0, blocking: 2, drifted: true })]
    answering({ 'GET /tray': files, 'GET /tray/text': { base: 'a', draft: 'b', now: null } })
    const tray = useTrayStore()
    await tray.refresh()
    expect([tray.changeCount, tray.blockingCount, tray.plugins, tray.drifted.map((file) => file.path)]).toEqual([
      3,
      2,
      ['Purse', 'Hampers'],
      ['b'],
    ])
    expect(await tray.textOf(PATH)).toEqual({ base: 'a', draft: 'b', now: null })
  })

  it.each([
    ['verified', false],
    ['complained', true],
  ] as const)('applied and %s, the server complained: %s', async (status, complained) => {
    answering({ 'POST /tray/apply': applied(status), 'GET /tray': [], 'GET /overview': overviewOf() })
    const tray = useTrayStore()
    expect((await tray.apply())?.status).toBe(status)
    expect(useServerStore().complained !== null).toBe(complained)
  })

  it('says why nothing was applied, and still has what is staged', async () => {
    const refused = () => {
      throw { status: 409, code: 'drift', title: 'It was changed.' }
    }
    answering({ 'POST /tray/apply': refused, 'GET /tray': [staged()], 'GET /overview': overviewOf() })
    const tray = useTrayStore()
    expect(await tray.apply()).toBeNull()
    expect([tray.problem, tray.files.length, tray.applying]).toEqual(['It was changed.', 1, false])
  })

  it('lets go of one file or of all', async () => {
    const { asked } = answering({ 'DELETE /tray': { ok: true }, 'GET /tray': [], 'GET /overview': overviewOf() })
    await useTrayStore().discard('a b')
    await useTrayStore().discard()
    expect(asked.filter((item) => item.key.startsWith('DELETE')).length).toBe(2)
  })
})

describe('drafts and the sheet', () => {
  const answers = (more: Record<string, unknown> = {}) =>
    answering({
      'GET /file': (_body: unknown, url: string) => viewOf(TEXT, { path: new URL(url, 'http://x').searchParams.get('path')! }),
      'PUT /draft': { draftSha: 'sha 1' },
      'GET /tray': [],
      'GET /overview': overviewOf(),
      ...more,
    })

  it('opens a file with its rows, findings and numbers', async () => {
    answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    expect(sheet.rows.map((row) => row.pointer)).toEqual(['/start', '/most'])
    expect([sheet.snapshot?.settings, sheet.isStaged, sheet.problem]).toEqual([2, false, ''])
  })

  it('changes a value, sees the mistake, and takes it back', async () => {
    const { asked } = answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    sheet.focus = '/start'
    expect(await sheet.set('/start', new NumberText('-5'))).toBe(true)
    await sheet.refresh()
    expect(sheet.text).toContain('start: -5')
    expect(sheet.findings.map((finding) => `${finding.code} ${finding.pointer}`)).toEqual(['out-of-range /start'])
    expect(sheet.inFocus).toMatchObject({ pointer: '/start', source: '-5', staged: true })
    await until(() => expect(sheet.customisations).toBe(1))
    sheet.undo()
    await sheet.refresh()
    expect([sheet.text, sheet.findings, sheet.isStaged]).toEqual([TEXT, [], false])
    sheet.redo()
    await sheet.draft?.flush()
    expect(asked.findLast((item) => item.key === 'PUT /draft')?.body).toMatchObject({
      path: PATH,
      text: TEXT.replace('250', '-5'),
      draftSha: null,
    })
  })

  it('one file at a time; the one that is left is kept first', async () => {
    const { asked } = answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    await sheet.set('/most', new NumberText('7'))
    await sheet.open('extras/Purse/other.yml')
    expect(sheet.view?.path).toBe('extras/Purse/other.yml')
    expect(asked.map((item) => item.key).filter((key) => key === 'PUT /draft').length).toBe(1)
    await useDraftsStore().leave()
    expect([engines.open, sheet.view]).toEqual([0, null])
  })

  it('of files asked for quickly the last one is shown', async () => {
    answers()
    const drafts = useDraftsStore()
    await Promise.all([drafts.show('a.yml'), drafts.show('b.yml'), drafts.show('c.yml')])
    expect(drafts.current?.draft.view.path).toBe('c.yml')
    await drafts.leave()
    expect(engines.open).toBe(0)
  })

  it('has one draft of a file that is shown and worked on at the same time, whatever comes first', async () => {
    const drafts = useDraftsStore()
    const set: FileStep = { path: PATH, operation: { kind: 'set', pointer: '/most', value: { number: '7' } } }
    const show = (path = PATH) => drafts.show(path)
    const work = () => drafts.together([set])
    for (const [first, second] of [
      [show, work],
      [work, show],
    ] as const) {
      const { asked } = answers()
      await Promise.all([first(), second()])
      expect([engines.open, drafts.current?.draft.text.value]).toEqual([1, TEXT.replace('most: 50', 'most: 7')])
      await drafts.flushAll()
      expect(asked.filter(({ key }) => key === 'PUT /draft')).toHaveLength(1)
      await drafts.leave()
      await drafts.leaveBeside()
      expect(engines.open).toBe(0)
    }
    // gone on to another one meanwhile, what is done is kept none the less
    const { asked } = answers()
    await Promise.all([show(), work(), show('b.yml')])
    expect(drafts.current?.draft.view.path).toBe('b.yml')
    await drafts.flushAll()
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ path: PATH, text: TEXT.replace('most: 50', 'most: 7') })
    await drafts.leave()
    await drafts.leaveBeside()
    expect(engines.open).toBe(0)
  })

  it('shows somebody else’s draft beside mine, and stays open with it', async () => {
    const theirs = draftView(TEXT.replace('250', '400'))
    answers({
      'PUT /draft': (body: { draftSha: string | null }) => {
        if (body.draftSha === null) throw { status: 409, code: 'draft-changed', title: 'maren changed it.', draft: theirs }
        return { draftSha: 'sha 2' }
      },
    })
    const sheet = useSheetStore()
    await sheet.open(PATH)
    await sheet.set('/most', new NumberText('7'))
    await sheet.set('/start', new NumberText('-5'))
    await sheet.draft?.flush()
    expect([sheet.theirs, sheet.problem]).toEqual([theirs, 'maren changed it.'])
    await sheet.open('extras/Purse/other.yml')
    expect(useDraftsStore().hasUnkept()).toBe(true)
    // asked for quickly and left again, it stays as it is
    await Promise.all([useDraftsStore().show(PATH), useDraftsStore().show('extras/Purse/other.yml')])
    await sheet.open(PATH)
    expect(sheet.text).toContain('most: 7')
    // all that is known of it is there again
    expect(sheet.findings.map((finding) => finding.code)).toEqual(['out-of-range'])
    expect([sheet.places.count, sheet.mineLines.length]).toEqual([2, 2])
    await sheet.draft?.settle('mine')
    expect(sheet.theirs).toBeNull()
    expect(useDraftsStore().hasUnkept()).toBe(false)
    await useDraftsStore().leave()
  })

  it('sends what waits when the page is left', async () => {
    const { asked } = answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    await sheet.set('/most', new NumberText('7'))
    useDraftsStore().sendWaiting()
    useDraftsStore().sendWaiting()
    expect(asked.filter((item) => item.key === 'PUT /draft').length).toBe(1)
    await useDraftsStore().leave()
  })

  it('leaves what was begun to the next page about the server, which does it once', async () => {
    const { asked } = answers()
    const drafts = useDraftsStore()
    const set = (pointer: string, value: string): FileStep => ({
      path: PATH,
      operation: { kind: 'set', pointer, value: { number: value } },
    })
    // the page is left before the file is even read
    const left = drafts.together([set('/most', '7'), set('/start', '12')])
    drafts.sendWaiting()
    expect(await left).toBe('')
    await drafts.leaveBeside()
    expect(asked.filter(({ key }) => key === 'PUT /draft')).toEqual([])
    useServerStore().$patch({ slug: 'night-market' })
    await drafts.finishLeft()
    useServerStore().$patch({ slug: 'lantern-row' })
    await drafts.finishLeft()
    await drafts.finishLeft()
    const sent = asked.filter(({ key }) => key === 'PUT /draft').map(({ body }) => (body as { text: string }).text)
    expect(sent).toEqual([TEXT.replace('250', '12').replace('50\n', '7\n')])
    expect([engines.open, localStorage.getItem('pasticcio-left')]).toEqual([0, null])
  })

  it('leaves to it what was stopped with the page, and tells what cannot be done any more', async () => {
    answers({
      'GET /file': () => {
        throw { status: 0, code: 'no-answer', title: 'Pasticcio does not answer.' }
      },
    })
    const drafts = useDraftsStore()
    const step: FileStep = { path: PATH, operation: { kind: 'set', pointer: '/gone/too', value: 'x' } }
    expect(await drafts.together([step])).toContain('does not answer')
    drafts.sendWaiting()
    answers()
    await drafts.finishLeft()
    expect(drafts.problem).toContain(PATH)
    localStorage.setItem('pasticcio-left', 'nothing that can be read')
    await drafts.finishLeft()
  })

  it('has the server’s complaints at their lines until the file is changed', async () => {
    answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    useServerStore().complained = applied('complained')
    await until(() => expect(sheet.findings[0]).toMatchObject({ fromServer: true, line: 2, pointer: '/start' }))
    await sheet.set('/start', new NumberText('5'))
    await nextTick()
    expect(sheet.findings).toEqual([])
    await useDraftsStore().leave()
  })

  it('loads a file anew, and says when it cannot be shown', async () => {
    answers()
    const sheet = useSheetStore()
    await sheet.open(PATH)
    await sheet.set('/start', new NumberText('5'))
    await sheet.reload()
    expect(sheet.text).toBe(TEXT)
    const gone = () => {
      throw { status: 404, code: 'not-found', title: 'There is no file.' }
    }
    answers({ 'GET /file': gone })
    await sheet.open('none.yml')
    expect([sheet.view, sheet.problem]).toEqual([null, 'There is no file.'])
  })
})

describe('what the server finds in the file at hand', () => {
  const text = 'start: 250\nnode: a.b\n'
  const finding = {
    code: 'node-of-no-group',
    severity: 'warning',
    from: 17,
    to: 20,
    message: 'No group holds it.',
    file: PATH,
    check: 'nodes-fit',
    aside: null,
  }

  it('is told beside its line, and not where somebody typed since', async () => {
    let answer: () => unknown = () => ({ findings: [finding], files: 1, ms: 1, at: '' })
    answering({
      'GET /file': viewOf(text),
      'GET /overview': overviewOf(),
      'GET /tray': [],
      'PUT /draft': { baseSha: 'base', draftSha: 'sha 1' },
      'GET /findings': () => answer(),
    })
    const sheet = useSheetStore()
    await sheet.open(PATH)
    await sheet.hearServer()
    expect(sheet.findings.map(({ pointer, message }) => [pointer, message])).toEqual([['/node', 'No group holds it.']])
    // an answer to what was asked before somebody typed is of another text
    answer = () => (sheet.edit([{ from: 0, to: 0, insert: '# One more line.\n' }]), { findings: [] })
    await sheet.hearServer()
    await sheet.refresh()
    expect(sheet.findings.map(({ pointer }) => pointer)).toEqual(['/node'])
    answer = () => ({ findings: [] })
    await sheet.hearServer()
    expect(sheet.findings).toHaveLength(1)
    await sheet.draft?.flush()
    await sheet.hearServer()
    expect(sheet.findings).toEqual([])
    answer = () => {
      throw { status: 500, code: 'broken', title: 'No.' }
    }
    await sheet.hearServer()
    expect(sheet.findings).toEqual([])
    await useDraftsStore().leave()
  })
})
