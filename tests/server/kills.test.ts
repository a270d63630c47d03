import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settle } from '../../server/services/recovery'
import { listTray } from '../../server/services/tray'
import { bundled, type Bundled } from './bundled'
import { applyAll, connectionIn, draft, makeWorld, openWorld, type World } from './world'

const FILES = ['settings.yml', 'more.yml', 'third.yml', 'list.json'] as const
const HOME = 'extras/Purse'
const old = (name: string): string => (name.endsWith('.json') ? '{"a": 1}\n' : `a: 1\nof: ${name}\n`)
const changed = (text: string): string => text.replace('1', '2')
/** By hand more of them: KILLS=500. */
const RANDOM = Number(process.env['KILLS'] ?? 12)

let worker: Bundled
let staged = ''
let applied = ''
const made: string[] = []

/** A world with four files staged, whose process was ended; and one in which they were applied. */
beforeAll(async () => {
  worker = await bundled('tests/server/toys/kill-worker.ts', 'tests/server/world.ts')
  const world = await makeWorld()
  mkdirSync(world.path(HOME), { recursive: true })
  for (const name of FILES) writeFileSync(world.path(`${HOME}/${name}`), old(name))
  for (const name of FILES) await draft(world, `${HOME}/${name}`, changed)
  await world.leave()
  staged = world.folder
  made.push(staged)
  applied = copyOf(staged)
  const done = await openCopy(applied)
  await applyAll(done)
  await done.leave()
}, 60_000)
afterAll(() => {
  worker.remove()
  made.forEach((folder) => rmSync(folder, { recursive: true, force: true }))
})

function copyOf(folder: string): string {
  const copy = mkdtempSync(join(tmpdir(), 'pasticcio-kill-'))
  cpSync(folder, copy, { recursive: true })
  made.push(copy)
  return copy
}

async function openCopy(folder: string): Promise<World> {
  const world = await openWorld(folder)
  const row = (await world.context.servers.get('lantern-row'))!
  await world.context.servers.setConnection(row.id, connectionIn(folder))
  return world
}

type Work = 'apply' | 'undo' | 'settle'
const run = (folder: string, work: Work, moment: number, timeout?: number) =>
  spawnSync(process.execPath, [worker.file, folder, work, String(moment)], {
    encoding: 'utf8',
    ...(timeout ? { timeout, killSignal: 'SIGKILL' } : {}),
  })

/** Settles what was left, and says which set of files there is. @throws AssertionError for a mixed one */
async function look(folder: string): Promise<'old' | 'new'> {
  const world = await openCopy(folder)
  try {
    const server = await world.server()
    const interrupted = (await world.context.applies.unfinished(server.row.id)).length
    await settle(world.context, server)
    const texts = FILES.map((name) => readFileSync(join(folder, 'servers/lantern-row', HOME, name), 'utf8'))
    const sets = texts.map((text, i) => (text === old(FILES[i]!) ? 'old' : text === changed(old(FILES[i]!)) ? 'new' : 'neither'))
    expect(new Set(sets).size, sets.join()).toBe(1)
    expect(sets[0]).not.toBe('neither')
    expect(await world.context.applies.unfinished(server.row.id)).toEqual([])
    expect(interrupted).toBeLessThanOrEqual(1)
    expect(readdirSync(join(folder, 'servers/lantern-row', HOME)).filter((name) => name.endsWith('.tmp'))).toEqual([])
    return sets[0] as 'old' | 'new'
  } finally {
    await world.leave()
  }
}

async function stateOf(folder: string): Promise<{ tray: number; statuses: string[] }> {
  const world = await openCopy(folder)
  const server = await world.server()
  const tray = (await listTray(world.context, server)).length
  const statuses = (await world.context.applies.list(server.row.id)).map(({ status }) => status)
  await world.leave()
  return { tray, statuses }
}

async function copyReady(from: string): Promise<string> {
  const folder = copyOf(from)
  await (await openCopy(folder)).leave()
  return folder
}

const forget = (folder: string): void => {
  expect(existsSync(folder)).toBe(true)
  rmSync(folder, { recursive: true, force: true })
}

describe('killed while four files are applied', () => {
  it('at every moment: old files or new ones, and the tray as it should be', { timeout: 240_000 }, async () => {
    const whole = await copyReady(staged)
    const moments = Number(run(whole, 'apply', 0).stdout)
    expect(moments).toBeGreaterThan(40)
    expect(await look(whole)).toBe('new')
    const ends = { old: 0, new: 0 }
    // by twos, since before and after a moment mostly nothing happens
    for (let moment = 1; moment <= moments; moment += 2) {
      const folder = await copyReady(staged)
      expect(run(folder, 'apply', moment).signal).toBe('SIGKILL')
      const end = await look(folder)
      ends[end]++
      const { tray } = await stateOf(folder)
      expect(tray, `moment ${moment}`).toBe(end === 'old' ? FILES.length : 0)
      forget(folder)
    }
    process.stdout.write(`killed at ${ends.old + ends.new} moments of applying: ${ends.old} old, ${ends.new} new, 0 mixed\n`)
    expect(Math.min(ends.old, ends.new)).toBeGreaterThan(0)
  })

  it('at random, and once more while that is settled', { timeout: 3_600_000 }, async () => {
    const ends = { old: 0, new: 0 }
    for (let round = 0; round < RANDOM; round++) {
      const folder = await copyReady(staged)
      run(folder, 'apply', 0, 380 + Math.floor(Math.random() * 220))
      run(folder, 'settle', 1 + Math.floor(Math.random() * 24))
      const end = await look(folder)
      ends[end]++
      expect((await stateOf(folder)).tray).toBe(end === 'old' ? FILES.length : 0)
      forget(folder)
    }
    process.stdout.write(`killed ${RANDOM} times at random, and again while settling: ${ends.old} old, ${ends.new} new, 0 mixed\n`)
  })
})

describe('killed while a change is taken back', () => {
  it('at every fourth moment: what it took back is marked exactly where it did', { timeout: 120_000 }, async () => {
    const moments = Number(run(await copyReady(applied), 'undo', 0).stdout)
    for (let moment = 1; moment <= moments; moment += 4) {
      const folder = await copyReady(applied)
      run(folder, 'undo', moment)
      const end = await look(folder)
      const { statuses } = await stateOf(folder)
      expect(statuses.at(-1), `moment ${moment}: ${end}`).toBe(end === 'old' ? 'undone' : 'written')
      forget(folder)
    }
  })
})
