import { mkdirSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { control, startServer } from '../../server/services/control'
import { overviewOf } from '../../server/services/overview'
import type { PluginRun } from '../../server/services/runs'
import { applyAll, draft, makeWorld, type World } from './world'

let world: World
afterEach(() => world.close())

const runsOf = async (): Promise<Record<string, PluginRun | null>> => {
  const { plugins } = await overviewOf(world.context, await world.server())
  return Object.fromEntries(plugins.map(({ name, run }) => [name, run]))
}
const settings = 'extras/Purse/settings.yml'

describe('what became of each plugin since the start', () => {
  beforeEach(async () => void (world = await makeWorld()))

  it('is told for a running server: loaded, or failed at its line, until it is mended', async () => {
    const server = await world.server()
    expect(await runsOf()).toEqual({ Purse: null, Wardkeys: null })
    await startServer(world.context, server)
    expect(await runsOf()).toMatchObject({ Purse: { state: 'loaded' }, Wardkeys: { state: 'loaded' } })
    await control(world.context, server, 'stop', 'maren')
    expect(await runsOf()).toEqual({ Purse: null, Wardkeys: null })
    const text = world.read(settings)
    writeFileSync(world.path(settings), text.replace('start: 250', 'start: many'))
    await startServer(world.context, server)
    const line = text.split('\n').findIndex((item) => item.includes('start: 250')) + 1
    const failed = { state: 'failed', reason: 'accounts.start must be a number, not "many"', path: settings, line }
    expect((await runsOf())['Purse']).toEqual(failed)
    // much may be said after it
    for (let i = 0; i < 3000; i++) server.console.send('say so')
    await server.console.waitFor(({ seq }) => seq > 3000, 0, 10_000)
    expect((await runsOf())['Purse']).toEqual(failed)
    await draft(world, settings, (now) => now.replace('start: many', 'start: 300'))
    expect((await applyAll(world)).status).toBe('verified')
    expect((await runsOf())['Purse']).toMatchObject({ state: 'loaded', reason: '', path: null })
  })

  it('nothing is claimed while it starts', async () => {
    const server = await world.server()
    const seen: unknown[] = []
    server.console.listen({ state: ({ status }) => status === 'starting' && void runsOf().then((runs) => seen.push(runs['Purse']?.state)) })
    await startServer(world.context, server)
    await expect.poll(() => seen.length).toBeGreaterThan(0)
    for (const state of seen) expect(['waiting', 'loaded']).toContain(state)
  })
})

describe('a server whose plugins keep silent, and that does not stop', () => {
  const game = `
    const say = (text) => console.log('12:00:00.000 info   ' + text)
    say('Purse 1.8.0 loaded: x')
    say('ready, 1 plugins running')
    process.stdin.on('data', () => undefined)
    process.on('SIGTERM', () => undefined)
    setInterval(() => undefined, 1000)`
  beforeEach(async () => {
    world = await makeWorld({
      command: [process.execPath, '-e', game],
      family: (text) => text.replace('  stop: stop\n', '  stop: stop\n  stop-within: 1\n'),
    })
  })

  it('silence is told, stopping is not claimed, and it is ended only when that is said', async () => {
    const server = await world.server()
    await startServer(world.context, server)
    expect(await runsOf()).toMatchObject({ Purse: { state: 'loaded' }, Wardkeys: { state: 'silent' } })
    await expect(control(world.context, server, 'stop', 'maren')).rejects.toMatchObject({ code: 'did-not-stop' })
    expect(server.console.state.status).toBe('stopping')
    mkdirSync(world.path('extras/Purse'))
    writeFileSync(world.path(settings), 'a: 1\n')
    await draft(world, settings, (now) => now + '# x\n')
    await expect(applyAll(world)).rejects.toMatchObject({ code: 'busy' })
    await control(world.context, server, 'kill', 'maren')
    expect(server.console.state.status).toBe('stopped')
    expect((await applyAll(world)).status).toBe('written')
  })

  it('ending it does not wait for whoever stops it, but never comes between writing', async () => {
    const server = await world.server()
    await startServer(world.context, server)
    const stopping = control(world.context, server, 'stop', 'maren').catch((error: unknown) => error)
    await control(world.context, server, 'kill', 'tobiah')
    await stopping
    expect(server.console.state.status).toBe('stopped')
    const writing = server.work.run('write', 'maren', () => new Promise((resolve) => setTimeout(resolve, 100)))
    await expect(control(world.context, server, 'kill', 'tobiah')).rejects.toMatchObject({ code: 'busy' })
    await writing
  })
})
