import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, isAbsolute, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { openPlace, places } from '../../server/places'
import { placeContract } from './place-contract'
import { MemoryPlace, memoryDriver } from './toys/memory-place'

placeContract('local', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-place-'))
  const full = (path: string): string => (isAbsolute(path) ? path : join(folder, path))
  return {
    place: openPlace({ type: 'local', folder } as { type: string }),
    put(path, bytes) {
      mkdirSync(dirname(full(path)), { recursive: true })
      writeFileSync(full(path), bytes)
    },
    get: (path) => (existsSync(full(path)) ? readFileSync(full(path)) : null),
    link: (path, target) => symlinkSync(target, full(path)),
    mode(path, mode) {
      if (mode !== undefined) chmodSync(full(path), mode)
      return statSync(full(path)).mode & 0o7777
    },
    close: () => rmSync(folder, { recursive: true, force: true }),
  }
})

let shelf = 0
placeContract('memory (the toy)', async () => {
  const place = new MemoryPlace(`contract ${++shelf}`)
  return {
    place,
    put: (path, bytes) => place.put(path, bytes),
    get: (path) => place.files.get(path)?.bytes ?? null,
    close: () => place.files.clear(),
  }
})

describe('the list of places', () => {
  it('opens what a connection names, once that is registered', async () => {
    expect(() => openPlace({ type: 'memory' })).toThrow(RangeError)
    const forget = places.register(memoryDriver as never)
    const settings = { type: 'memory', shelf: 'listed' }
    expect(await openPlace(settings).stat('a.yml')).toBeNull()
    expect(() => places.register(memoryDriver as never)).toThrow(RangeError)
    expect(() => openPlace({ type: 'memory' })).toThrow('shelf is a required field')
    forget()
    expect(() => openPlace(settings)).toThrow('Known are local')
  })

  it('says that a folder is not there', async () => {
    const place = openPlace({ type: 'local', folder: '/no/such/folder' } as { type: string })
    await expect(place.list('.', 1)).rejects.toMatchObject({ code: 'unreachable' })
  })
})
