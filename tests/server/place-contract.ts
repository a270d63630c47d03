import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Place } from '../../server/places'

/** A place to be tried, with a way around it that does not go through the code under test. */
export interface TriedPlace {
  readonly place: Place
  put(path: string, bytes: Uint8Array): void
  /** Null where there is none. */
  get(path: string): Buffer | null
  /** For places that have links: makes one to a full path or a path beside it. */
  link?(path: string, target: string): void
  mode?(path: string, mode?: number): number
  close(): void
}

const MOST = 64 * 1024 * 1024
const text = (value: string): Buffer => Buffer.from(value, 'utf8')

/** The laws every place keeps. */
export function placeContract(name: string, make: () => Promise<TriedPlace>): void {
  describe(`the place ${name}`, () => {
    let tried: TriedPlace
    let place: Place
    beforeEach(async () => {
      tried = await make()
      place = tried.place
    })
    afterEach(async () => {
      await place.close()
      tried.close()
    })
    const paths = async (folder: string, depth: number): Promise<string[]> => (await place.list(folder, depth)).map((file) => file.path)
    const write = async (path: string, bytes: Uint8Array): Promise<void> =>
      place.release(await place.commit(await place.stage(path, bytes)))
    const remove = async (path: string): Promise<boolean> => {
      const removed = await place.remove(path)
      if (removed) await place.release(removed)
      return removed !== null
    }

    it('can be asked whether it works, which changes nothing', async () => {
      tried.put('a/b.yml', text('x: 1\n'))
      const before = await place.list('', 9)
      expect(await place.probe()).toBe(await place.probe())
      expect(await place.list('', 9)).toEqual(before)
    })

    it('reads what others wrote, and nothing where nothing is', async () => {
      tried.put('a/b.yml', text('x: 1\n'))
      expect(await place.read('a/b.yml', MOST)).toEqual(text('x: 1\n'))
      expect(await place.stat('a/b.yml')).toMatchObject({ path: 'a/b.yml', size: 5 })
      for (const path of ['a/c.yml', 'none/at/all.yml', 'a', 'a/b.yml/c']) {
        expect(await place.read(path, MOST), path).toBeNull()
        expect(await place.stat(path), path).toBeNull()
      }
    })

    it('reads no more than it is told to', async () => {
      tried.put('large.yml', Buffer.alloc(1000))
      expect((await place.read('large.yml', 1000))!.length).toBe(1000)
      await expect(place.read('large.yml', 999)).rejects.toMatchObject({ code: 'too-large' })
    })

    it('tells by size or time that a file was changed', async () => {
      tried.put('a.yml', text('one'))
      const before = await place.stat('a.yml')
      await write('a.yml', text('two, longer'))
      expect(await place.stat('a.yml')).not.toEqual(before)
    })

    it('lists files in order, no deeper than asked, without temporary ones', async () => {
      for (const path of ['x/b.yml', 'x/a.yml', 'x/c/d.yml', 'x/c/e/f.yml', 'x/.0123456789012345.tmp', 'y.yml']) tried.put(path, text('1'))
      expect(await paths('x', 0)).toEqual(['x/a.yml', 'x/b.yml'])
      expect(await paths('x', 1)).toEqual(['x/a.yml', 'x/b.yml', 'x/c/d.yml'])
      expect(await paths('x', 4)).toEqual(['x/a.yml', 'x/b.yml', 'x/c/d.yml', 'x/c/e/f.yml'])
      expect(await paths('nothing', 4)).toEqual([])
      expect((await place.list('x', 0))[0]).toEqual(await place.stat('x/a.yml'))
    })

    it('leaves a file as it is until it is committed, and makes missing folders', async () => {
      tried.put('a.yml', text('old'))
      const staged = await place.stage('a.yml', text('new'))
      expect(tried.get('a.yml')).toEqual(text('old'))
      await place.commit(staged)
      expect(tried.get('a.yml')).toEqual(text('new'))
      await write('deep/down/b.yml', text('b'))
      expect(tried.get('deep/down/b.yml')).toEqual(text('b'))
    })

    it('takes back what was staged, also twice', async () => {
      const staged = await place.stage('a.yml', text('new'))
      await place.discard(staged)
      await place.discard(staged)
      expect(await place.stat('a.yml')).toBeNull()
      expect(tried.get(staged.temporary)).toBeNull()
      await expect(place.commit(staged)).rejects.toMatchObject({ name: 'PlaceError' })
    })

    it('looks once more right before it replaces or removes, and leaves what is not as it should be', async () => {
      tried.put('a.yml', text('old'))
      const isOld = (now: Buffer | null): boolean => now?.toString() === 'old'
      const staged = await place.stage('a.yml', text('new'))
      tried.put('a.yml', text('theirs'))
      await expect(place.commit(staged, isOld)).rejects.toMatchObject({ code: 'changed' })
      await expect(place.remove('a.yml', isOld)).rejects.toMatchObject({ code: 'changed' })
      await expect(place.commit(staged, (now) => now === null)).rejects.toMatchObject({ code: 'changed' })
      expect(tried.get('a.yml')).toEqual(text('theirs'))
      tried.put('a.yml', text('old'))
      await place.release(await place.commit(staged, isOld))
      expect(tried.get('a.yml')).toEqual(text('new'))
      // a file that is there by now where none was is not written over either
      const fresh = await place.stage('b.yml', text('new'))
      tried.put('b.yml', text('theirs'))
      await expect(place.commit(fresh, (now) => now === null)).rejects.toMatchObject({ code: 'changed' })
      await place.discard(fresh)
      expect(tried.get('b.yml')).toEqual(text('theirs'))
    })

    it('keeps what it replaced until that is released, and lists none of it', async () => {
      tried.put('a.yml', text('old'))
      const replaced = await place.commit(await place.stage('a.yml', text('new')))
      const removed = await place.remove('a.yml')
      expect(await place.before(replaced)).toEqual(text('old'))
      expect(await place.before(removed!)).toEqual(text('new'))
      expect(await paths('.', 1)).toEqual([])
      for (const one of [replaced, removed!]) await place.release(one)
      for (const one of [replaced, removed!]) expect(tried.get(one.kept!)).toBeNull()
      const added = await place.commit(await place.stage('c.yml', text('new')))
      expect(added.kept).toBeNull()
      expect(await place.before(added)).toBeNull()
    })

    it('says whether there was something to remove, and does not pass over what cannot be', async () => {
      tried.put('a.yml', text('1'))
      expect(await remove('a.yml')).toBe(true)
      expect(await remove('a.yml')).toBe(false)
      tried.put('folder/b.yml', text('1'))
      await expect(place.remove('folder')).rejects.toMatchObject({
        name: 'PlaceError',
        message: expect.stringContaining('folder') as unknown,
      })
      expect(tried.get('folder/b.yml')).toEqual(text('1'))
    })

    it('sweeps what an interrupted writing left, and nothing else', async () => {
      tried.put('a/keep.tmp', text('1'))
      tried.put('a/b.yml', text('1'))
      const staged = await place.stage('a/b.yml', text('half'))
      await place.sweep(['a/b.yml', 'missing/c.yml'])
      expect(await paths('a', 0)).toEqual(['a/b.yml'])
      expect(tried.get('a/keep.tmp')).toEqual(text('1'))
      await expect(place.commit(staged)).rejects.toMatchObject({ name: 'PlaceError' })
    })

    it.each(['../x.yml', '/etc/hosts', 'a/../../x.yml', '..', 'a\0b'])('does not let %j lead out', async (path) => {
      for (const work of [() => place.stat(path), () => place.read(path, 9), () => place.stage(path, text('x')), () => place.remove(path)])
        await expect(work()).rejects.toMatchObject({ code: 'outside' })
      await expect(place.list(path, 1)).rejects.toMatchObject({ code: 'outside' })
    })

    it('holds large files', async () => {
      const bytes = Buffer.alloc(9 * 1024 * 1024, 'pasticcio ')
      await write('large.pack', bytes)
      expect((await place.read('large.pack', MOST))!.equals(bytes)).toBe(true)
    })

    it('is after any steps what a plain map of files is', async () => {
      const file = fc.constantFrom('a.yml', 'b/c.yml', 'b/d.yml')
      const step = fc.oneof(
        fc.record({ kind: fc.constant('write' as const), path: file, bytes: fc.uint8Array({ maxLength: 20 }) }),
        fc.record({ kind: fc.constant('discard' as const), path: file, bytes: fc.uint8Array({ maxLength: 20 }) }),
        fc.record({ kind: fc.constant('remove' as const), path: file, bytes: fc.constant(new Uint8Array()) }),
      )
      await fc.assert(
        fc.asyncProperty(fc.array(step, { maxLength: 12 }), async (steps) => {
          const model = new Map<string, Uint8Array>()
          for (const path of ['a.yml', 'b/c.yml', 'b/d.yml']) await remove(path)
          for (const { kind, path, bytes } of steps) {
            if (kind === 'write') await write(path, bytes)
            if (kind === 'discard') await place.discard(await place.stage(path, bytes))
            if (kind === 'write') model.set(path, bytes)
            if (kind === 'remove') expect(await remove(path)).toBe(model.delete(path))
          }
          expect(await paths('.', 3)).toEqual([...model.keys()].sort())
          for (const [path, bytes] of model) expect(new Uint8Array((await place.read(path, 99))!)).toEqual(bytes)
        }),
        { numRuns: 40 },
      )
    })

    it('keeps modes and links where it has them, and follows none that leads out', async () => {
      if (tried.mode && place.can.modes) {
        tried.put('mode.yml', text('1'))
        tried.mode('mode.yml', 0o640)
        await write('mode.yml', text('2'))
        expect(tried.mode('mode.yml')).toBe(0o640)
      }
      if (!tried.link) return
      tried.put('real.yml', text('1'))
      tried.link('named.yml', 'real.yml')
      await write('named.yml', text('2'))
      expect(tried.get('real.yml')).toEqual(text('2'))
      tried.link('away', '/etc')
      await expect(place.read('away/hostname', 999)).rejects.toMatchObject({ code: 'outside' })
      await expect(place.stage('away/x.yml', text('x'))).rejects.toMatchObject({ code: 'outside' })
      expect(await paths('.', 2)).not.toContain('away/hostname')
      // a link that leads to itself is something wrong, not nothing
      tried.link('loop.yml', 'loop.yml')
      await expect(place.stat('loop.yml')).rejects.toMatchObject({ name: 'PlaceError' })
    })
  })
}
