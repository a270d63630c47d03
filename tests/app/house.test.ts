import { beforeEach, describe, expect, it, vi } from 'vitest'
import { bestOf, gapsOf, staveOf, withGaps, type Layout, type Trace } from '../../app/charts/stave'
import Servers from '../../app/pages/servers/index.vue'
import Sites from '../../app/pages/sites.vue'
import { useHouseStore } from '../../app/stores/house'
import { useSessionStore } from '../../app/stores/session'
import { costLook, letterOf, signed, whyNoCost } from '../../app/utils/cost-words'
import { shortTime, timeLines, zoneOf } from '../../app/utils/time-line'
import type { HouseServer, Load, LoadMark } from '../../app/utils/types'
import { button, show, text } from './pages'
import { answering, until } from './world'

/** What was drawn, by the drawing library that is not there. */
const drawn: { traces: readonly Trace[]; layout: Layout }[] = []
vi.mock('../../app/charts/plotly', () => ({
  drawPicture: async (_element: HTMLElement, traces: readonly Trace[], layout: Layout) => void drawn.push({ traces, layout }),
  clearPicture: async () => undefined,
  paintsIn: () => () => '#000000',
}))

const HOUR = 3600
const NOW = Date.parse('2026-11-23T12:00:00Z') / 1000
const point = (at: number, ticks = 20, players = 4) => ({ at, ticks, players, least: ticks - 0.5, memory: 400 })
const loadOf = (more: Partial<Load> = {}): Load => ({ from: NOW - 24 * HOUR, until: NOW, step: 300, points: [], marks: [], ...more })

describe('the time line', () => {
  it.each([
    ['day', 24 * HOUR, 8, 3 * HOUR],
    ['week', 7 * 24 * HOUR, 7, 24 * HOUR],
    ['month', 30 * 24 * HOUR, 6, 5 * 24 * HOUR],
  ] as const)('of a %s has lines at whole hours and days', (span, seconds, count, step) => {
    const lines = timeLines(NOW - seconds, NOW, span)
    expect(lines.length).toBeGreaterThanOrEqual(count)
    expect(lines.length).toBeLessThanOrEqual(count + 1)
    for (const [i, line] of lines.entries()) {
      expect(line.at).toBeGreaterThanOrEqual(NOW - seconds)
      const at = new Date(line.at * 1000)
      expect([at.getMinutes(), at.getSeconds()]).toEqual([0, 0])
      expect(line.isDay).toBe(at.getHours() === 0)
      // a day may have an hour more or less where clocks are set
      if (i > 0) expect(Math.abs(line.at - lines[i - 1]!.at - step)).toBeLessThanOrEqual(HOUR)
    }
  })

  it('tells times short, with the day where it is another', () => {
    const now = new Date(2026, 10, 23, 12)
    expect(shortTime(now.getTime() / 1000, now)).toBe('12:00')
    expect(shortTime(now.getTime() / 1000 - 24 * HOUR, now)).toBe('Sun 22 12:00')
    for (const [minutes, words] of [
      [0, 'UTC'],
      [-60, 'UTC+1'],
      [210, 'UTC−3:30'],
    ] as const)
      expect(zoneOf({ getTimezoneOffset: () => minutes } as Date)).toBe(words)
  })
})

describe('costs in words', () => {
  it.each([
    [0.94, '+0.9', 'ok'],
    [-1.42, '−1.4', 'err'],
    [0.04, '0', ''],
    [-0.04, '0', ''],
  ])('%d is %s', (change, words, look) => {
    expect([signed(change), costLook(change)]).toEqual([words, look])
  })
  it('say why there is none, and letters never end', () => {
    expect(['too-early', 'too-few', 'not-alike', null].map((cost) => whyNoCost(cost as LoadMark['cost']))).toEqual([
      'too early',
      'too little measured',
      'never as many players',
      'it was stopped',
    ])
    expect(whyNoCost({ before: 1, after: 1, change: 0, players: [1, 2] })).toBe('')
    expect([0, 25, 26, 51, 52, 701, 702].map(letterOf)).toEqual(['a', 'z', 'aa', 'az', 'ba', 'zz', 'aaa'])
  })
})

describe('the picture of a server', () => {
  const paints = { line: 'l', slow: 's', players: 'p', playersEdge: 'e', hour: 'h', rule: 'r', stopped: 'o' }
  const points = [point(0), point(300, 17), point(600, 19), point(1800, 20, 9), point(2100, 20)]
  const load = loadOf({ from: 0, until: 4000, points })

  it('has nothing where nothing was measured', () => {
    expect(withGaps(load).map(({ at, ticks }) => [at, ticks])).toEqual([
      [0, 20],
      [300, 17],
      [600, 19],
      [900, null],
      [1800, 20],
      [2100, 20],
    ])
    expect(gapsOf(load, true)).toEqual([[900, 1800]])
    expect(gapsOf(load, false)).toEqual([
      [900, 1800],
      [2400, 4000],
    ])
    expect(gapsOf(loadOf(), false)).toEqual([])
    expect([bestOf(load), bestOf(loadOf({ points: [point(0, 20.1)] })), bestOf(loadOf())]).toEqual([20, 20, 1])
  })

  it('puts the best rate under the letters, players at most so high, and slow stretches over the line', () => {
    const { traces, layout } = staveOf(load, [{ at: 3600, label: '1', isDay: false }], paints, {
      width: 488,
      height: 112,
      isRunning: false,
    })
    const [players, ticks, slow] = traces as [Trace, Trace, Trace]
    expect(slow.y).toEqual([20, 17, null, null, null, null])
    expect(players.fill).toBe('tozeroy')
    const [low, high] = (layout['yaxis'] as { range: [number, number] }).range
    const pixel = (value: number): number => (112 * (high - value)) / (high - low)
    expect(pixel(20)).toBeCloseTo(20)
    expect(pixel(19) - pixel(20)).toBeCloseTo(5.4)
    expect(ticks.y).toContain(19)
    const [, most] = (layout['yaxis2'] as { range: [number, number] }).range
    expect((112 * 9) / most).toBeCloseTo(44, 0)
    expect(
      (layout['shapes'] as { x0: number; x1: number; type: string }[]).filter(({ type }) => type === 'rect').map(({ x0, x1 }) => [x0, x1]),
    ).toEqual([
      [900, 1800],
      [2400, 4000],
    ])
  })
})

const mark = (at: number, title: string, more: Partial<LoadMark> = {}): LoadMark => ({
  at,
  title,
  by: 'maren',
  apply: 7,
  cost: { before: 19.4, after: 18, change: -1.4, players: [20, 26] },
  ...more,
})
const server = (slug: string, more: Partial<HouseServer> = {}): HouseServer => ({
  slug,
  family: 'Archive plugins',
  folder: `/srv/${slug}`,
  status: 'running',
  players: 18,
  ticks: 16.4,
  memory: 480,
  since: '2026-11-23T06:01:00Z',
  problem: '',
  about: {
    game: '7.2',
    plugins: 12,
    failed: ['Purse'],
    silent: [],
    yours: 207,
    updates: [{ plugin: 'Hampers', to: '3.0.0' }],
    errors: 10,
    warnings: 5,
    staged: { changes: 3, files: 2, errors: 1 },
    after: 'reload',
    last: { at: '2026-11-23T13:47:00Z', by: 'maren', title: 'x' },
  },
  ...more,
})

describe('the page of all servers', () => {
  const marks = [mark(NOW - 5 * HOUR, 'Update Stallholder'), mark(NOW - HOUR, 'restart', { apply: null, cost: 'too-early' })]
  const loads: Record<string, Load> = {
    'lantern-row': loadOf({ points: [point(NOW - 600)], marks }),
    'night-market': loadOf({ marks: [mark(NOW - 60, 'stop', { cost: null })] }),
  }
  const answers = (servers: HouseServer[]) =>
    answering({
      'GET /api/house': servers,
      'GET /api/me': { name: 'maren', role: 'owner' },
      'GET /load': (_body: unknown) => loads['lantern-row'],
      'GET /api/servers/night-market/load': loads['night-market'],
      'GET /load/plugins': [
        { plugin: 'Stallholder', now: 6.1, before: 2.2 },
        { plugin: 'Purse', now: null, before: 0.4 },
      ],
      'GET /api/servers/night-market/load/plugins': [],
      'POST /api/servers/ferry-trials/control': {},
    })
  beforeEach(() => {
    drawn.length = 0
    useSessionStore().me = { name: 'maren', role: 'owner' } as never
  })
  const stopped = { status: 'stopped', players: null, ticks: null, memory: null, since: null } as const
  const press = (key: string): boolean => window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))

  it('shows each with what waits on it, letters run on through all, and a mark tells what it cost', async () => {
    const { asked } = answers([server('lantern-row'), server('night-market', { about: null })])
    show(Servers)
    await until(() => expect(text()).toContain('Update Stallholder'))
    for (const words of [
      '12, 1 failed',
      '207 settings',
      '1 Hampers first',
      '3 changes',
      '2 running, 0 not',
      '1 update waiting',
      'needs a reload',
    ])
      expect(text()).toContain(words)
    const house = useHouseStore()
    expect(house.marks.map(({ letter, slug }) => `${letter} ${slug}`)).toEqual(['a lantern-row', 'b lantern-row', 'c night-market'])
    press(']')
    await until(() => expect(text()).toContain('and before a'))
    expect(asked.at(-1)!.key).toBe('GET /load/plugins')
    expect(text()).toContain('19.418.0−1.4')
    expect(text()).toContain('Look at a in History')
    expect(text()).toContain('like numbers of players, 20 to 26')
    await until(() => expect(text()).toMatch(/Stallholder\s*6\.1\s*2\.2/))
    press(']')
    expect(house.letter).toBe('b')
    press(']')
    expect(house.letter).toBe('b')
    press('[')
    expect(house.letter).toBe('a')
    press('j')
    expect([house.focus, house.letter]).toEqual(['night-market', ''])
    press('k')
    expect(house.focus).toBe('lantern-row')
    button('Table').click()
    await until(() => expect(text()).toContain('400 MB'))
    button('Week').click()
    await until(() => expect(house.span).toBe('week'))
  })

  it('one that is stopped can be started, and one that cannot be opened says why', async () => {
    const { asked } = answers([
      server('ferry-trials', { ...stopped, about: { ...server('x').about!, failed: [] } }),
      server('gone', { ...stopped, status: 'failed', problem: '/gone: there is no such folder.', about: null }),
    ])
    show(Servers)
    await until(() => expect(text()).toContain('/gone: there is no such folder.'))
    button('Start').click()
    await until(() => expect(asked.some(({ key }) => key === 'POST /api/servers/ferry-trials/control')).toBe(true))
  })

  it('says what went wrong where nothing can be asked', async () => {
    answering({ 'GET /api/me': { name: 'maren', role: 'owner' } })
    show(Servers)
    await until(() => expect(document.querySelector('[role="alert"]')).not.toBeNull())
  })
})

describe('the page of plugin sites', () => {
  const offer = {
    name: 'Lookouts',
    version: '2.2.0',
    summary: 'Screens.',
    family: 'bundle',
    game: '>=7',
    authors: ['Rosen'],
    requires: { Regatta: '>=1.4' },
    link: 'http://s/l.zip',
    size: 3584,
    sha256: 'ab',
    hasNotes: true,
  }
  const site = {
    id: 3,
    address: 'https://plugins.example',
    mayBePrivate: false,
    addedBy: 'maren',
    status: 'answered',
    problem: '',
    passedOver: 2,
    offers: [offer],
  }
  const outside = {
    ...site,
    id: null,
    address: 'http://here',
    status: 'failed',
    problem: 'http://here did not answer.',
    passedOver: 0,
    offers: [],
  }

  it('shows what each has, what there is to know of a version, and lets owners add and remove', async () => {
    const { asked } = answering({
      'GET /api/me': { name: 'maren', role: 'owner' },
      'GET /api/sites': [outside, site],
      'GET /api/sites/notes': { readme: '# Lookouts\n\nPut one up.', changelog: '- Night.' },
      'POST /api/sites': { ok: true },
      'DELETE /api/sites/3': { ok: true },
    })
    useSessionStore().me = { name: 'maren', role: 'owner' } as never
    const page = show(Sites)
    await until(() => expect(text()).toContain('2 entries of its list cannot be read.'))
    expect(text().indexOf('https://plugins.example')).toBeLessThan(text().indexOf('http://here did not answer.'))
    button('Lookouts 2.2.0 look').click()
    await until(() => expect(text()).toContain('Put one up.'))
    for (const words of ['Regatta >=1.4', '3.5 KB', 'Night.']) expect(text()).toContain(words)
    await page.get('#site-address').setValue(' https://other.example ')
    await page.get('.private input').setValue(true)
    await page.get('form').trigger('submit')
    await until(() =>
      expect(asked.find(({ key }) => key === 'POST /api/sites')?.body).toEqual({ address: 'https://other.example', mayBePrivate: true }),
    )
    button('Remove https://plugins.example').click()
    await until(() => expect(text()).toContain('What came from it stays in the pantry.'))
    button('Remove it').click()
    await until(() => expect(asked.some(({ key }) => key === 'DELETE /api/sites/3')).toBe(true))
  })
})
