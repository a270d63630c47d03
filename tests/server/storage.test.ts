import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { openDatabase } from '../../server/db/connection'
import { HeldElsewhere, Hold } from '../../server/hold'
import { asServiceError } from '../../server/services/errors'
import { historyOf, pinApply } from '../../server/services/history'
import { removePackage } from '../../server/services/pantry'
import { clearStorage, storageSizes } from '../../server/services/storage'
import { undoApply } from '../../server/services/undo'
import { addPackage, applyAll, draft, makeWorld, type World } from './world'

const FILE = 'extras/Purse/own.yml'
let world: World
let now = new Date('2026-11-23T12:00:00Z')
const later = (minutes: number): void => void (now = new Date(now.getTime() + minutes * 60_000))
beforeEach(async () => {
  world = await makeWorld({ now: () => now, context: { keptChanges: 10 } })
  mkdirSync(world.path('extras/Purse'), { recursive: true })
})
afterEach(() => world.close())

const blobs = async (): Promise<number> => ((await world.context.db('blobs').count({ n: '*' })) as unknown as [{ n: number }])[0].n
const write = async (text: string): Promise<number> => {
  await draft(world, FILE, () => text)
  return (await applyAll(world)).id
}

describe('what nobody refers to', () => {
  it('goes after a while, and not before', async () => {
    const { context } = world
    const before = await blobs()
    for (let i = 0; i < 20; i++) await context.blobs.put(Buffer.alloc(200_000, 97 + i))
    expect((await clearStorage(context)).contents).toBe(0)
    later(5)
    // what is put again is young again
    const young = await context.blobs.put(Buffer.alloc(200_000, 97))
    later(6)
    expect((await storageSizes(context)).unused).toBe(20 * 200_000)
    const cleared = await clearStorage(context)
    expect(cleared.contents).toBe(19)
    expect(cleared.bytes).toBeGreaterThan(3_000_000)
    expect(await context.blobs.get(young)).not.toBeNull()
    expect(await blobs()).toBe(before + 1)
  })

  it('is never what anything refers to', async () => {
    const { context } = world
    const server = await world.server()
    await server.inventory.remember()
    writeFileSync(world.path(FILE), 'a: 1\n')
    await write('a: 2\n')
    await draft(world, FILE, () => 'a: 3\n')
    await addPackage(context, server, world.pack('hampers-2.4'), 'h.pack', 'test', 'maren')
    later(60)
    const sums = async (): Promise<string[]> =>
      ((await context.db('blobs').select('sha', 'bytes').orderBy('sha')) as { sha: string; bytes: Buffer }[]).map(({ sha, bytes }) => {
        expect(createHash('sha256').update(bytes).digest('hex')).toBe(sha)
        return sha
      })
    const before = await sums()
    expect((await clearStorage(context)).contents).toBe(0)
    expect(await sums()).toEqual(before)
    // one that is referred to just now is refused by the database itself
    const { sha } = (await context.drafts.list(server.row.id))[0]!
    expect(await context.blobs.discard(sha, now.toISOString())).toBe(false)
  })
})

describe('the history', () => {
  it('keeps the newest, what is pinned, and the last of each file', async () => {
    const { context } = world
    const server = await world.server()
    writeFileSync(world.path(FILE), 'a: 0\n')
    writeFileSync(world.path('extras/Purse/rare.yml'), 'b: 0\n')
    await draft(world, 'extras/Purse/rare.yml', () => 'b: 1\n')
    const rare = (await applyAll(world)).id
    const ids: number[] = []
    for (let i = 1; i <= 15; i++) ids.push(await write(`a: ${i}\n`))
    await pinApply(context, server, ids[1]!, true)
    later(60)
    expect((await clearStorage(context)).changes).toBe(4)
    expect((await historyOf(context, server)).map(({ id }) => id)).toEqual([...ids.slice(5).reverse(), ids[1], rare])
    // what is left can be taken back, and what went is known no more
    expect((await undoApply(context, server, ids.at(-1)!, 'maren')).status).toBe('written')
    expect(world.read(FILE)).toBe('a: 14\n')
    await expect(undoApply(context, server, ids[2]!, 'maren')).rejects.toMatchObject({ code: 'not-found' })
    expect(await blobs()).toBeGreaterThan(0)
  })
})

describe('packages', () => {
  it('can be removed unless they are on a server', async () => {
    const { context } = world
    const server = await world.server()
    await server.inventory.remember()
    const [purse] = await context.packages.list('archive')
    await expect(removePackage(context, server, purse!.id, 'maren')).rejects.toMatchObject({
      code: 'in-use',
      message: expect.stringContaining('installed on lantern-row') as unknown,
    })
    const { id, sha } = await addPackage(context, server, world.pack('hampers-2.4'), 'h.pack', 'test', 'maren')
    await removePackage(context, server, id, 'maren')
    later(60)
    await clearStorage(context)
    expect(await context.blobs.get(sha)).toBeNull()
    expect(await context.packages.defaultTexts(id)).toEqual({})
  })
})

describe('the database', () => {
  it('its files are for the account that runs Pasticcio alone', () => {
    for (const part of ['', '-wal', '-shm']) {
      const file = world.context.databaseFile + part
      if (existsSync(file)) expect(statSync(file).mode & 0o077, file).toBe(0)
    }
  })

  it('is written to the disk before anything is said to be recorded', async () => {
    expect(await world.context.db.raw('PRAGMA synchronous')).toEqual([{ synchronous: 2 }])
    expect(await world.context.db.raw('PRAGMA journal_mode')).toEqual([{ journal_mode: 'wal' }])
  })

  it('a lock held by another program is waited for without stopping this one', async () => {
    const other = new Database(world.context.databaseFile, { timeout: 0 })
    other.exec('BEGIN IMMEDIATE')
    let ticks = 0
    const timer = setInterval(() => ticks++, 10)
    const waiting = world.context.record.add({ at: 'now', account: 'maren', serverId: null, action: 'test', detail: '' })
    while (ticks < 30) await new Promise((resolve) => setTimeout(resolve, 10))
    other.exec('COMMIT')
    await waiting
    clearInterval(timer)
    other.close()
    expect(ticks).toBeGreaterThanOrEqual(30)
  })

  it('and ends in words where it is held for too long', async () => {
    const other = new Database(world.context.databaseFile, { timeout: 0 })
    other.exec('BEGIN IMMEDIATE')
    const error = await world.context.record
      .add({ at: 'now', account: 'maren', serverId: null, action: 't', detail: '' })
      .catch(asServiceError)
    other.exec('ROLLBACK')
    other.close()
    expect(error).toMatchObject({ code: 'database-busy', status: 503, message: expect.stringContaining('try again') as unknown })
  })

  it('a full disk is said as such, and what was there is safe', async () => {
    const { context } = world
    const before = await blobs()
    const [{ page_count: pages }] = (await context.db.raw('PRAGMA page_count')) as [{ page_count: number }]
    await context.db.raw(`PRAGMA max_page_count = ${pages + 2}`)
    const error = await context.blobs.put(Buffer.alloc(1_000_000)).catch(asServiceError)
    expect(error).toMatchObject({ code: 'disk-full', status: 507, message: expect.stringContaining('make room') as unknown })
    await context.db.raw('PRAGMA max_page_count = 1000000')
    expect(await blobs()).toBe(before)
  })

  it('a database from before gives its packages’ settings files back as they were', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'pasticcio-old-'))
    const db = await openDatabase(folder)
    const { up, down } = await import('../../server/db/migrations/2026-11-26-retention')
    await down(db)
    await db('families').insert({ id: 'archive', text: '' })
    await db('blobs').insert({ sha: 'p', bytes: Buffer.from('p') })
    const defaults = { 'a.yml': 'a: 1\n', 'lang/é.yml': 'b: "é"\n' }
    const row = { family_id: 'archive', name: 'Eel', version: '1', sha: 'p', origin: 'x', added_at: 'x' }
    await db('packages').insert({ ...row, info: JSON.stringify({ name: 'Eel', defaults }) })
    await up(db)
    expect(JSON.parse(((await db('packages').first()) as { info: string }).info)).toEqual({ name: 'Eel' })
    await down(db)
    expect((JSON.parse(((await db('packages').first()) as { info: string }).info) as { defaults: unknown }).defaults).toEqual(defaults)
    await db.destroy()
    rmSync(folder, { recursive: true })
  })
})

describe('a hold on a folder', () => {
  it('is one process’s alone, ends with it however that ends, and its note stays', async () => {
    const file = join(world.folder, 'held')
    const code = `const D=require('better-sqlite3');const d=new D(${JSON.stringify(file)});d.pragma('locking_mode=EXCLUSIVE');d.exec("BEGIN EXCLUSIVE;CREATE TABLE note(text TEXT NOT NULL);INSERT INTO note VALUES('theirs');COMMIT");console.log('held');setInterval(()=>{},1000)`
    const other = spawn(process.execPath, ['-e', code], { stdio: ['ignore', 'pipe', 'inherit'] })
    await new Promise((resolve) => other.stdout.once('data', resolve))
    expect(() => Hold.take(file)).toThrow(HeldElsewhere)
    const gone = new Promise((resolve) => other.once('exit', resolve))
    other.kill('SIGKILL')
    await gone
    const hold = Hold.take(file)
    expect(hold.note).toBe('theirs')
    hold.note = 'ours'
    expect(() => Hold.take(file)).toThrow(HeldElsewhere)
    hold.release()
    const again = Hold.take(file)
    expect(again.note).toBe('ours')
    again.note = null
    expect(again.note).toBeNull()
    again.release()
  })
})

describe('whatever is written and cleared', () => {
  it('the history that is left can be taken back to the byte', async () => {
    const { context } = world
    const server = await world.server()
    await fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 14 }), async (values) => {
        writeFileSync(world.path(FILE), 'a: start\n')
        const texts = ['a: start\n']
        const ids: number[] = []
        for (const value of values) {
          const text = `a: ${value}\n`
          if (text === texts.at(-1)) continue
          ids.push(await write(text))
          texts.push(text)
        }
        later(60)
        await clearStorage(context)
        if (ids.length === 0) return
        await undoApply(context, server, ids.at(-1)!, 'maren')
        expect(world.read(FILE)).toBe(texts.at(-2))
      }),
      { numRuns: 6 },
    )
  })
})
