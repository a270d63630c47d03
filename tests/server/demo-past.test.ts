import { afterEach, beforeEach, expect, it } from 'vitest'
import { writePast } from '../../scripts/demo-past.mjs'
import { startServer } from '../../server/services/control'
import { loadOf } from '../../server/services/load'
import { applyAll, draft, makeWorld, type World } from './world'

let world: World
const now = Math.floor(Date.parse('2026-11-26T12:00:00Z') / 1000)
beforeEach(async () => void (world = await makeWorld({ now: () => new Date(now * 1000) })))
afterEach(() => world.close())

it('the demo’s day is written beside a Pasticcio that runs, and tells the story of its changes', async () => {
  const server = await world.server()
  await startServer(world.context, server)
  for (const start of ['300', '310', '320', '330']) {
    await draft(world, 'extras/Purse/settings.yml', (text) => text.replace(/start: \d+/, `start: ${start}`))
    await applyAll(world, 'maren')
  }
  writePast(world.context.databaseFile, now)
  // what was written beside it is seen with the next thing it writes itself
  await world.context.samples.add(server.row.id, { at: now - 5, seconds: 60, players: 18, ticks: 20, memory: null }, [])
  const { points, marks } = await loadOf(world.context, server, 'day')
  expect(points.length).toBeGreaterThan(280)
  expect(marks.filter(({ apply }) => apply !== null).map(({ at }) => Math.round((now - at) / 360) / 10)).toEqual([20.6, 15.3, 9.4, 4.2])
  const costs = marks.flatMap(({ cost }) => (cost !== null && typeof cost === 'object' ? [Math.round(cost.change)] : []))
  expect(costs[2]).toBeLessThan(0)
  expect(costs[3]).toBeGreaterThan(0)
})
