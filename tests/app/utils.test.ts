import { inTurn } from '../../app/utils/in-turn'
import { Text, ChangeSet, EditorState } from '@codemirror/state'
import fc from 'fast-check'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { FORMAT_IDS, applyEdits } from '@pasticcio/core'
import { STATIONS, encodePath, stationAddress, stationAt } from '../../app/stations'
import { ApiProblem, callApi, wordsOf } from '../../app/utils/api'
import { highlighterOf } from '../../app/utils/highlighters'
import { DRAWN_WHOLE, RowPlaces } from '../../app/utils/row-places'
import { SHAPE, heightOf } from '../../app/utils/row-shapes'
import { SourcePlaces, editsOf } from '../../app/utils/source-places'
import { answering, overviewOf } from './world'

afterEach(() => void vi.unstubAllGlobals())

describe('places of rows', () => {
  const shapes = fc.array(fc.constantFrom(SHAPE.line, SHAPE.section, SHAPE.entry, SHAPE.block + 3), { minLength: 1, maxLength: 60 })

  it('are the sums of what stands above, measured or guessed', () => {
    fc.assert(
      fc.property(shapes, fc.array(fc.tuple(fc.nat(70), fc.integer({ min: 10, max: 90 })), { maxLength: 8 }), (kinds, measured) => {
        const places = new RowPlaces()
        places.take(Uint8Array.from(kinds))
        places.measure(measured)
        const heights = kinds.map((kind, i) => measured.findLast(([at]) => at === i)?.[1] ?? heightOf(kind))
        const top = (index: number): number => heights.slice(0, index).reduce((sum, height) => sum + height, 0)
        kinds.forEach((_kind, i) => expect(places.topOf(i)).toBe(top(i)))
        expect(places.total).toBe(top(kinds.length))
        for (const y of [0, top(kinds.length) / 2, top(kinds.length) + 50]) {
          const at = places.at(y)
          expect(top(at) <= y).toBe(true)
          if (at < kinds.length - 1) expect(top(at + 1) > y).toBe(true)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('draws small files whole, and of large ones what is seen with some around it', () => {
    const places = new RowPlaces()
    places.take(new Uint8Array(DRAWN_WHOLE))
    expect(places.window(0, 600)).toEqual({ from: 0, to: DRAWN_WHOLE })
    places.take(new Uint8Array(10_000))
    const { from, to } = places.window(24 * 5000, 600)
    expect(from).toBeLessThanOrEqual(5000 - 30)
    expect(to).toBeGreaterThanOrEqual(5025 + 30)
    expect(to - from).toBeLessThan(120)
  })

  it('keeps what was measured where the shape stayed', () => {
    const places = new RowPlaces()
    places.take(Uint8Array.from([0, 0, 1]))
    expect(places.measure([[1, 60]])).toBe(true)
    expect(places.measure([[1, 60.2]])).toBe(false)
    places.take(Uint8Array.from([0, 0, 2]))
    expect(places.topOf(2)).toBe(24 + 60)
  })
})

describe('places in the source', () => {
  const lines = fc.array(
    fc.string({ maxLength: 5 }).map((text) => text.replace(/[\r\n]/g, '')),
    { minLength: 1, maxLength: 8 },
  )
  const ends = fc.constantFrom('\n' as const, '\r\n' as const)

  it('what is typed in the editor is the same edit of the text', () => {
    fc.assert(
      fc.property(lines, ends, fc.nat(), fc.nat(4), lines, (parts, end, place, cut, typed) => {
        const text = parts.join(end)
        const places = new SourcePlaces(text)
        const state = EditorState.create({ doc: text, extensions: EditorState.lineSeparator.of(places.lineEnd) })
        const from = place % (state.doc.length + 1)
        const to = Math.min(state.doc.length, from + cut)
        const change = state.update({ changes: { from, to, insert: Text.of(typed) } })
        expect(applyEdits(text, editsOf(change, places))).toBe(places.textOf(change.newDoc))
      }),
      { numRuns: 200 },
    )
  })

  it('the editor follows any other text by one change', () => {
    fc.assert(
      fc.property(lines, lines, ends, (before, after, end) => {
        const places = new SourcePlaces(before.join(end))
        const doc = Text.of(before)
        if (places.lineEnd !== end) return
        const change = places.difference(doc, after.join(end))
        const result = change ? ChangeSet.of(change, doc.length).apply(doc) : doc
        expect(places.textOf(result)).toBe(after.join(end))
        if (before.join(end) === after.join(end)) expect(change).toBeNull()
      }),
      { numRuns: 300 },
    )
  })
})

describe('stations', () => {
  it('each has an id, a title and a key of its own', () => {
    for (const of of ['id', 'title', 'key'] as const) expect(new Set(STATIONS.map((station) => station[of])).size).toBe(STATIONS.length)
  })

  it.each([
    ['/s/lantern-row/settings/extras/Purse/settings.yml', 'settings'],
    ['/s/lantern-row/updates', 'updates'],
    ['/s/lantern-row/updates/Hampers', 'updates'],
    ['/s/lantern-row/updatesX', null],
    ['/s/lantern-row/review', null],
  ])('%s belongs to %s', (path, id) => {
    expect(stationAt(path, '/s/lantern-row')?.id ?? null).toBe(id)
  })

  it('say how much there is to do', () => {
    const badges = (overview: ReturnType<typeof overviewOf> | null) => STATIONS.map((station) => station.badge?.(overview)?.text ?? '')
    expect(badges(null)).toEqual(['', '', '', '', '', '', '', '', ''])
    expect(badges(overviewOf({ staged: 3 }))).toEqual(['2', '3 staged', '', '', '', '', '1', '', ''])
    const findings = STATIONS.find(({ id }) => id === 'findings')!
    const overview = overviewOf()
    const files = overview.plugins.flatMap((plugin) => plugin.files)
    const of = (kind: 'errors' | 'warnings'): number => files.reduce((sum, file) => sum + file[kind], 0)
    expect(findings.badge!(overview)).toEqual(
      of('errors') + of('warnings') > 0 ? { text: '', errors: of('errors'), warnings: of('warnings') } : null,
    )
  })

  it('lead to the first file where there is one', () => {
    const settings = STATIONS.find((station) => station.id === 'settings')!
    expect(stationAddress(settings, '/s/x', overviewOf())).toBe('/s/x/settings/extras/Purse/settings.yml')
    expect(stationAddress(settings, '/s/x', null)).toBe('/s/x/settings')
    expect(encodePath('extras/Hampers/lang/en gb.yml')).toBe('extras/Hampers/lang/en%20gb.yml')
  })
})

describe('asking the server', () => {
  it('gives answers, and problems in the server’s words with all they tell', async () => {
    const { asked } = answering({
      'GET /a': { ok: true },
      'POST /b': () => {
        throw { status: 409, code: 'busy', title: 'Try again.', since: 'noon' }
      },
    })
    expect(await callApi('/a')).toEqual({ ok: true })
    const problem = await callApi('/b', { body: { x: 1 } }).catch((error: unknown) => error)
    expect(problem).toBeInstanceOf(ApiProblem)
    expect(problem).toMatchObject({ code: 'busy', status: 409, message: 'Try again.', data: { since: 'noon' } })
    expect(asked).toEqual([
      { key: 'GET /a', body: undefined },
      { key: 'POST /b', body: { x: 1 } },
    ])
  })

  it('says that it is not there', async () => {
    answering({})
    await expect(callApi('/none')).rejects.toMatchObject({ code: 'unreachable', status: 0 })
    expect(wordsOf('plain')).toBe('plain')
  })
})

it('every format has its colours, large files too', () => {
  for (const format of FORMAT_IDS) for (const size of [10, 10_000_000]) expect(highlighterOf(format, size)).toBeDefined()
})

it('of questions in turn only the last counts', () => {
  const ask = inTurn()
  const first = ask()
  expect(first()).toBe(true)
  const second = ask()
  expect([first(), second()]).toEqual([false, true])
  // others have their own turns
  expect([inTurn()()(), second()]).toEqual([true, true])
})
