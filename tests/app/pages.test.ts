import { describe, expect, it } from 'vitest'
import StagedDiff from '../../app/components/review/StagedDiff.vue'
import TrayBar from '../../app/components/frame/TrayBar.vue'
import InstalledList from '../../app/components/plugins/InstalledList.vue'
import History from '../../app/pages/s/[server]/history.vue'
import ServerPage from '../../app/pages/s/[server]/server.vue'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { useTrayStore } from '../../app/stores/tray'
import type { HistoryRow, ServerState, TrayFile } from '../../app/utils/types'
import { button, show, text } from './pages'
import { answering, overviewOf, until } from './world'

const PATH = 'extras/Purse/settings.yml'
const buttons = (): string[] => [...document.querySelectorAll('button')].map((item) => item.textContent!.trim())
function start(answers: Record<string, unknown> = {}) {
  useSessionStore().me = { name: 'tobiah', role: 'editor', hasPassword: true }
  const server = useServerStore()
  server.slug = 'lantern-row'
  server.overview = overviewOf()
  return { server, ...answering({ 'GET /overview': overviewOf(), ...answers }) }
}
const staged = (more: Partial<TrayFile> = {}): TrayFile => ({
  path: PATH,
  plugin: 'Purse',
  sha: 'draft 1',
  changedBy: 'maren',
  drifted: false,
  text: true,
  after: 'reload',
  changes: [],
  count: 1,
  blocking: 0,
  held: [],
  asks: null,
  ...more,
})

describe('the page of a server', () => {
  it.each([
    ['stopped', ['Start', 'Send']],
    ['failed', ['Start', 'Send']],
    ['starting', ['Stop', 'End it', 'Send']],
    ['stopping', ['Stop', 'End it', 'Send']],
    ['running', ['Restart', 'Stop', 'Send']],
    ['unattended', ['Stop', 'Send']],
  ] as const)('%s: what can be done', (status, expected) => {
    const { server } = start()
    server.state = { status, players: null, ticks: null, memory: null, since: null }
    show(ServerPage)
    expect(buttons()).toEqual(expected)
    expect(text().includes('its console was lost then')).toBe(status === 'unattended')
  })

  it.each([
    ['running', 'needs reload of Purse'],
    ['stopped', 'the server is stopped'],
    ['unattended', 'needs a restart, since its console was lost'],
  ] as const)('the tray says what a change needs: %s', (status: ServerState['status'], words) => {
    const { server } = start()
    server.state = { status, players: null, ticks: null, memory: null, since: null }
    useTrayStore().files = [staged()]
    show(TrayBar)
    expect(text()).toContain(words)
  })
})

describe('what became of plugins since the start', () => {
  const said = { reason: 'start must be a number', path: 'extras/Purse/settings.yml', line: 12 }
  it.each([
    ['failed', said, 'failed', 'Not loaded: start must be a number settings.yml line 12'],
    ['silent', { reason: '', path: null, line: null }, 'silent', 'The console said nothing of it'],
    ['loaded', { reason: '', path: null, line: null }, 'yours', ''],
  ] as const)('%s is told where the plugin is listed, and at its line', (state, more, word, note) => {
    const { server } = start()
    const overview = overviewOf()
    server.overview = { ...overview, plugins: overview.plugins.map((item, i) => ({ ...item, run: i === 0 ? { state, ...more } : null })) }
    show(InstalledList)
    const row = document.querySelector('.plug')!
    expect(row.textContent).toContain(word)
    expect(row.querySelector('.plug-problem')?.textContent?.replace(/\s+/g, ' ').trim() ?? '').toContain(note)
    expect(server.complaints).toEqual(state === 'failed' ? [{ plugin: 'Purse', ...more }] : [])
    expect(row.querySelector('.plug-problem a')?.getAttribute('href') ?? null).toBe(
      state === 'failed' ? '/s/lantern-row/settings/extras/Purse/settings.yml' : null,
    )
  })
})

describe('what cannot be looked into', () => {
  it('stands with the plugin it belongs to', () => {
    const { server } = start()
    const overview = overviewOf()
    server.overview = {
      ...overview,
      plugins: overview.plugins.map((item, i) => ({ ...item, problems: i === 0 ? ['extras/Purse/x leads out.'] : [] })),
    }
    show(InstalledList)
    expect(document.querySelector('.plug')!.textContent).toContain('extras/Purse/x leads out.')
    expect(document.querySelectorAll('.plug-problem')).toHaveLength(1)
  })
})

describe('a draft whose file was changed', () => {
  it('is brought together, kept, or discarded, each of which names what was looked at', async () => {
    const texts = { base: 'a: 1\n', draft: 'a: 2\n', now: 'a: 3\n' }
    const refused = () => {
      throw { status: 409, code: 'drift', title: 'The same settings were changed.' }
    }
    const { asked } = start({
      'GET /tray': [staged({ drifted: true })],
      'GET /tray/text': texts,
      'POST /tray/rebase': refused,
      'DELETE /tray': { ok: true },
    })
    show(StagedDiff, { file: staged({ drifted: true }) })
    await until(() => expect(text()).toContain('was changed on the server since this draft was begun'))
    button('Bring both together').click()
    await until(() => expect(useTrayStore().problem).toBe('The same settings were changed.'))
    button('Keep mine, and write over theirs').click()
    await until(() => expect(asked).toContainEqual({ key: 'POST /tray/rebase', body: { path: PATH, choice: 'mine' } }))
    button('Discard mine').click()
    await until(() => expect(asked.map(({ key }) => key)).toContain('DELETE /tray'))
  })
})

describe('history', () => {
  it('keeps a change for good, and no longer', async () => {
    let pinned = false
    const row = (): HistoryRow => ({
      id: 4,
      serverId: 1,
      kind: 'settings',
      title: '1 change in Purse',
      status: 'verified',
      undoes: null,
      outcome: { lines: [], complaints: [], message: '' },
      startedBy: 'maren',
      startedAt: '2026-11-26T12:00:00Z',
      pinned,
      files: [PATH],
    })
    const { asked } = start({
      'GET /history': () => [row()],
      'GET /history/4': () => ({ ...row(), files: [], steps: [] }),
      'PUT /history/4/pin': () => {
        pinned = !pinned
        return { ok: true }
      },
    })
    show(History)
    await until(() => expect(buttons()).toContain('Keep for good'))
    button('Keep for good').click()
    await until(() => expect(buttons()).toContain('Kept for good'))
    expect(asked).toContainEqual({ key: 'PUT /history/4/pin', body: { pinned: true } })
    button('Kept for good').click()
    await until(() => expect(buttons()).toContain('Keep for good'))
  })
})
