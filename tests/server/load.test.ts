import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Cost } from '@pasticcio/core'
import { type Console } from '../../server/consoles'
import { ConsoleLog } from '../../server/consoles/log'
import type { Server } from '../../server/services/context'
import { control, startServer } from '../../server/services/control'
import { houseOf } from '../../server/services/house'
import { foldLoad, loadOf, pluginLoads } from '../../server/services/load'
import { LoadSampler } from '../../server/services/sampler'
import { applyAll, connectionIn, draft, makeWorld, type World } from './world'

const START = Date.parse('2026-11-23T12:00:00Z') / 1000
let world: World
let server: Server
let now = START
beforeEach(async () => {
  now = START
  world = await makeWorld({ now: () => new Date(now * 1000) })
  server = await world.server()
})
afterEach(() => world.close())

const HOUR = 3600
const all = { from: 0, until: 1e10 }
/** A sample a minute, from one time to another. */
async function measured(from: number, until: number, players: (at: number) => number, ticks: (players: number) => number): Promise<void> {
  for (let at = from; at < until; at += 60) {
    const count = players(at)
    await world.context.samples.add(server.row.id, { at, seconds: 60, players: count, ticks: ticks(count), memory: 400 + count }, [
      { plugin: 'Purse', ms: 1 + count / 100 },
    ])
  }
}

describe('a server that is measured', () => {
  const said = (log: Console, ...lines: string[]): void =>
    lines.forEach((line) => (log as unknown as ConsoleLog).accept(`12:00:00.000 info  ${line}`))
  function sampled(): { sampler: LoadSampler; log: Console; asked: () => number } {
    const log = new ConsoleLog(server.family) as unknown as Console
    let asked = 0
    log.askTimes = () => {
      asked++
      ;(log as unknown as ConsoleLog).expectTimes()
    }
    const options = { serverId: server.row.id, everySeconds: 60, now: () => new Date(now * 1000), failed: expect.unreachable as () => void }
    return { sampler: new LoadSampler(log, world.context.samples, options), log, asked: () => asked }
  }

  it('has one sample of what was told since the last, and none where nothing was', async () => {
    const { sampler, log, asked } = sampled()
    said(log, 'state: 3 players, 19.0 ticks/s, 410 MB')
    await sampler.keep()
    expect([await world.context.samples.list(server.row.id, all), asked()]).toEqual([[], 0])
    said(log, 'ready, 2 plugins', 'state: 3 players, 19.0 ticks/s, 410 MB', 'state: 4 players, 20.0 ticks/s, 420 MB')
    await sampler.keep()
    now += 60
    // what plugins take was asked for with the last sample, and belongs to the next
    said(log, 'time: Purse 0.40 ms', 'time: Wardkeys 1.25 ms', 'state: 5 players, 18.0 ticks/s')
    await sampler.keep()
    now += 60
    await sampler.keep()
    expect(asked()).toBe(3)
    expect(await world.context.samples.list(server.row.id, all)).toEqual([
      { at: START, seconds: 60, players: 4, ticks: 19.5, memory: 420 },
      { at: START + 60, seconds: 60, players: 5, ticks: 18, memory: null },
    ])
    expect(await world.context.samples.timesOf(server.row.id, all)).toEqual([
      { plugin: 'Wardkeys', ms: 1.25 },
      { plugin: 'Purse', ms: 0.4 },
    ])
    // answers to us are no lines of the console
    expect(log.since(0).filter(({ text }) => text.startsWith('time:'))).toEqual([])
    sampler.close()
  })

  it('is measured while it runs, with what its plugins take, and its console stays as it was', async () => {
    await startServer(world.context, server)
    await server.sampler.keep()
    await new Promise<void>((resolve) => {
      const stop = server.console.listen({ time: ({ plugin }) => plugin === 'Wardkeys' && (stop(), resolve()) })
    })
    const [sample] = await world.context.samples.list(server.row.id, all)
    expect(sample).toMatchObject({ players: 18, seconds: 60 })
    expect(sample!.ticks).toBeGreaterThan(19)
    expect(sample!.memory).toBeGreaterThan(300)
    expect(server.console.since(0).some(({ text }) => text.startsWith('time:'))).toBe(false)
  })
})

describe('looking back', () => {
  it('shows what was measured in steps, what was done, and what that cost', async () => {
    const players = (at: number): number => 10 + (Math.floor(at / 60) % 7)
    const alone = (count: number): number => 20 - count * 0.05
    await measured(START - 3 * HOUR, START, players, alone)
    await startServer(world.context, server)
    await draft(world, 'extras/Purse/settings.yml', (text) => text.replace('start: 250', 'start: 300'))
    const { id } = await applyAll(world, 'maren')
    await measured(START + 60, START + 2 * HOUR, players, (count) => alone(count) - 1.5)
    now = START + 2 * HOUR
    const { points, marks, step, until } = await loadOf(world.context, server, 'day')
    expect(step).toBe(300)
    expect(until).toBe(now + 1)
    expect(points).toHaveLength(60)
    expect(points.every(({ ticks, least }) => least <= ticks)).toBe(true)
    expect(marks.map(({ apply, title, by }) => [apply, title, by])).toEqual([[id, '1 change in Purse', 'maren']])
    const cost = marks[0]!.cost as Cost
    expect(cost.change).toBeCloseTo(-1.5, 6)
    expect(cost.players).toEqual([10, 16])
    // of a week ago there is nothing, and the same marks
    expect((await loadOf(world.context, server, 'month')).marks).toHaveLength(1)
    await control(world.context, server, 'stop', 'tobiah')
    now += 1
    expect((await loadOf(world.context, server, 'day')).marks.at(-1)).toMatchObject({
      title: 'stop',
      by: 'tobiah',
      apply: null,
      cost: null,
    })
  })

  it('tells what each plugin takes by now and took before', async () => {
    await measured(
      START - 2 * HOUR,
      START,
      () => 10,
      () => 20,
    )
    await measured(
      START,
      START + HOUR,
      () => 60,
      () => 18,
    )
    now = START + HOUR
    expect(await pluginLoads(world.context, server, START)).toEqual([
      { plugin: 'Purse', now: expect.closeTo(1.6), before: expect.closeTo(1.1) },
    ])
    expect(await pluginLoads(world.context, server, null)).toEqual([{ plugin: 'Purse', now: expect.closeTo(1.6), before: null }])
    now = START + 2 * HOUR
    expect(await pluginLoads(world.context, server, START)).toEqual([{ plugin: 'Purse', now: null, before: expect.closeTo(1.1) }])
  })

  it('is made coarser after two days, and goes after two months; sums stay what they were', async () => {
    const players = (at: number): number => (at / 60) % 5
    await measured(START, START + 2 * HOUR, players, (count) => 20 - count)
    const means = async (): Promise<number[]> => {
      const rows = await world.context.samples.list(server.row.id, all)
      const weight = rows.reduce((sum, { seconds }) => sum + seconds, 0)
      return [weight, rows.reduce((sum, { ticks, seconds }) => sum + ticks * seconds, 0) / weight, rows.length]
    }
    const [weight, mean] = await means()
    const times = await world.context.samples.timesOf(server.row.id, all)
    now = START + 48 * HOUR
    await foldLoad(world.context)
    expect((await means())[2]).toBe(120)
    now = START + 50 * HOUR
    await foldLoad(world.context)
    await foldLoad(world.context)
    const [after, meanAfter, count] = await means()
    expect([after, count]).toEqual([weight, 8])
    expect(meanAfter).toBeCloseTo(mean!, 9)
    expect((await world.context.samples.timesOf(server.row.id, all))[0]!.ms).toBeCloseTo(times[0]!.ms, 9)
    expect((await world.context.samples.list(server.row.id, all)).every((row) => Number.isInteger(row.players))).toBe(true)
    now = START + 70 * 24 * HOUR
    await foldLoad(world.context)
    expect(await means()).toEqual([0, NaN, 0])
  })
})

describe('all servers', () => {
  it('are told with what waits on each; one that is gone keeps no other back', async () => {
    await startServer(world.context, server)
    await draft(world, 'extras/Purse/settings.yml', (text) => text.replace('start: 250', 'start: 300').replace('most: 50', 'most: 60'))
    const connection = connectionIn(world.folder)
    await world.context.servers.add({
      slug: 'gone',
      familyId: 'archive',
      connection: { ...connection, place: { type: 'local', folder: '/gone' } },
    })
    const [here, gone] = await houseOf(world.context)
    expect(here).toMatchObject({
      slug: 'lantern-row',
      status: 'running',
      players: 18,
      problem: '',
      about: { game: '7.2', plugins: 2, failed: [], silent: [], staged: { changes: 2, files: 1, errors: 0 }, after: 'reload', last: null },
    })
    expect(gone).toMatchObject({ slug: 'gone', status: 'failed', about: null, problem: expect.stringContaining('/gone') as unknown })
    await applyAll(world, 'maren')
    expect((await houseOf(world.context))[0]!.about).toMatchObject({ yours: 2, last: { by: 'maren', title: '2 changes in Purse' } })
  })
})
