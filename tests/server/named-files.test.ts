import { createHash } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { ConsoleError } from '../../server/consoles'
import type { Server } from '../../server/services/context'
import { startServer } from '../../server/services/control'
import { rebaseDraft } from '../../server/services/drafts'
import { namedFiles, readPicture, stageNamed } from '../../server/services/named-files'
import { applyTray, listTray, trayText } from '../../server/services/tray'
import { undoApply } from '../../server/services/undo'
import { pngOf } from '../png'
import { makeWorld, type World } from './world'

let world: World
let server: Server
const path = 'extras/Wardkeys/settings.yml'
const naming = { path, pointer: '/picture' }
const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')
const put = (name: string, bytes: Uint8Array, asItIs = false) => stageNamed(world.context, server, naming, { name, bytes, asItIs }, 'maren')
const apply = async () => applyTray(world.context, server, await listTray(world.context, server), 'maren')
function settings(text: string): void {
  writeFileSync(world.path(path), text)
  server.inventory.forget()
}

beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
  mkdirSync(world.path('extras/Wardkeys/art'), { recursive: true })
  settings(
    '# A 64x64 PNG beside this file.\npicture: gate.png\n# Any PNG in the art folder.\nsign: sign.png\n# A file in the art folder.\nsong-file: a.ogg\nlevel: 3\n',
  )
})
afterEach(() => world.close())

describe('files that settings name', () => {
  it('are listed with what they are, those that are staged too, and nothing else', async () => {
    writeFileSync(world.path('extras/Wardkeys/gate.png'), pngOf(64, 64))
    writeFileSync(world.path('extras/Wardkeys/wide.png'), pngOf(96, 64))
    writeFileSync(world.path('extras/Wardkeys/no.png'), 'no picture')
    writeFileSync(world.path('extras/Wardkeys/notes.txt'), 'x')
    await put('new.png', pngOf(64, 64, 9))
    const { folder, files } = await namedFiles(world.context, server, naming)
    expect(folder).toBe('extras/Wardkeys')
    expect(files.map(({ name, picture, staged }) => [name, picture?.width ?? null, picture?.height ?? null, staged])).toEqual([
      ['gate.png', 64, 64, false],
      ['new.png', 64, 64, true],
      ['no.png', null, null, false],
      ['wide.png', 96, 64, false],
    ])
    expect((await namedFiles(world.context, server, { path, pointer: '/sign' })).folder).toBe('extras/Wardkeys/art')
  })

  it('are staged, written with the rest, shown before and after, and taken back with an undo', async () => {
    const [old, mine] = [pngOf(64, 64), pngOf(64, 64, 200)]
    writeFileSync(world.path('extras/Wardkeys/gate.png'), old)
    expect(await put('gate.png', mine)).toEqual({ path: 'extras/Wardkeys/gate.png', name: 'gate.png', staged: true })
    expect(await put('other.png', mine)).toMatchObject({ staged: true })
    expect(await listTray(world.context, server)).toMatchObject([
      { path: 'extras/Wardkeys/gate.png', plugin: 'Wardkeys', count: 1, blocking: 0, drifted: false },
      { path: 'extras/Wardkeys/other.png', plugin: 'Wardkeys', count: 1, blocking: 0, drifted: false },
    ])
    await expect(trayText(world.context, server, 'extras/Wardkeys/gate.png')).rejects.toMatchObject({ code: 'not-text' })
    const shown = async (standing: boolean) => sha((await readPicture(world.context, server, 'extras/Wardkeys/gate.png', standing)).bytes)
    expect([await shown(true), await shown(false)]).toEqual([sha(old), sha(mine)])
    const row = await apply()
    expect(row.title).toBe('2 changes in Wardkeys')
    expect(sha(readFileSync(world.path('extras/Wardkeys/gate.png')))).toBe(sha(mine))
    expect(sha(readFileSync(world.path('extras/Wardkeys/other.png')))).toBe(sha(mine))
    expect(await listTray(world.context, server)).toEqual([])
    await undoApply(world.context, server, row.id, 'maren')
    expect(sha(readFileSync(world.path('extras/Wardkeys/gate.png')))).toBe(sha(old))
    expect(() => readFileSync(world.path('extras/Wardkeys/other.png'))).toThrow('ENOENT')
  })

  it('go back into the tray when the server complained and somebody goes back, also one that is new', async () => {
    await startServer(world.context, server)
    Object.assign(server.console, {
      send: () => {
        throw new ConsoleError('not-running', 'The server is not running.')
      },
    })
    await put('new.png', pngOf(64, 64, 3))
    const row = await apply()
    expect(row.status).toBe('complained')
    await undoApply(world.context, server, row.id, 'maren')
    expect(() => readFileSync(world.path('extras/Wardkeys/new.png'))).toThrow('ENOENT')
    expect(await listTray(world.context, server)).toMatchObject([{ path: 'extras/Wardkeys/new.png', drifted: false, text: false }])
    await apply()
    expect(sha(readFileSync(world.path('extras/Wardkeys/new.png')))).toBe(sha(pngOf(64, 64, 3)))
  })

  it('that are there already, byte for byte, are not staged', async () => {
    writeFileSync(world.path('extras/Wardkeys/gate.png'), pngOf(64, 64))
    await put('gate.png', pngOf(64, 64, 5))
    expect(await put('gate.png', pngOf(64, 64))).toMatchObject({ staged: false })
    expect(await listTray(world.context, server)).toEqual([])
  })

  it('of another size are told what they are, and taken when somebody says so', async () => {
    await expect(put('gate.png', pngOf(128, 96))).rejects.toMatchObject({
      code: 'picture-differs',
      data: { picture: { kind: 'png', width: 128, height: 96 }, width: 64, height: 64 },
      message: expect.stringContaining('is 128×96, and the setting takes 64×64') as unknown,
    })
    expect(await put('gate.png', pngOf(128, 96), true)).toMatchObject({ staged: true })
  })

  it.each([
    ['gate.png', Buffer.from('GIF89a' + '\x40\x00\x40\x00\x00\x00\x00', 'latin1'), 'picture-differs'],
    ['gate.png', Buffer.from('no picture at all'), 'picture-differs'],
    ['gate.png', pngOf(64, 64).subarray(0, 12), 'picture-differs'],
    ['gate.jpg', pngOf(64, 64), 'bad-input'],
    ['../Purse/gate.png', pngOf(64, 64), 'bad-input'],
    ['/etc/gate.png', pngOf(64, 64), undefined],
    ['.gate.png', pngOf(64, 64), 'bad-input'],
    ['a\0b.png', pngOf(64, 64), 'bad-input'],
    ['settings.yml', pngOf(64, 64), 'bad-input'],
  ])('%j is refused where it is not what it says, or would go elsewhere', async (name, bytes, code) => {
    await expect(put(name, bytes, true)).rejects.toMatchObject({ code: code ?? 'bad-input' })
    expect(await listTray(world.context, server)).toEqual([])
  })

  it('go nowhere for a setting that names none, and no settings or programs are put this way', async () => {
    const to = (pointer: string, name: string) =>
      stageNamed(world.context, server, { path, pointer }, { name, bytes: Buffer.from('x'), asItIs: false }, 'maren')
    await expect(to('/level', 'a.png')).rejects.toMatchObject({ code: 'names-no-file' })
    await expect(to('/song-file', 'a.yml')).rejects.toMatchObject({ code: 'bad-input' })
    expect(await to('/song-file', 'b.ogg')).toMatchObject({ path: 'extras/Wardkeys/art/b.ogg', staged: true })
    await world.context.rules.save(server.row.id, {
      path,
      rule: { path: '/level', means: 'file', source: 'yours' },
      by: 'maren',
      at: new Date().toISOString(),
    })
    for (const name of ['a.yml', 'a.lua']) await expect(to('/level', name)).rejects.toMatchObject({ code: 'bad-input' })
  })

  it('what is no picture is not given out as one', async () => {
    writeFileSync(world.path('extras/Wardkeys/no.png'), '<script>alert(1)</script>')
    await expect(readPicture(world.context, server, 'extras/Wardkeys/no.png', false)).rejects.toMatchObject({ code: 'not-found' })
    await expect(readPicture(world.context, server, path, false)).rejects.toMatchObject({ code: 'not-found' })
    await expect(readPicture(world.context, server, '../../data/secret', false)).rejects.toMatchObject({
      code: 'outside',
    })
  })

  it('one that changed on the server meanwhile waits for somebody to choose', async () => {
    writeFileSync(world.path('extras/Wardkeys/gate.png'), pngOf(64, 64))
    await put('gate.png', pngOf(64, 64, 7))
    writeFileSync(world.path('extras/Wardkeys/gate.png'), pngOf(64, 64, 9))
    expect(await listTray(world.context, server)).toMatchObject([{ drifted: true }])
    await expect(apply()).rejects.toMatchObject({ code: 'drift' })
    const rebase = (choice: 'merge' | 'mine') => rebaseDraft(world.context, server, 'extras/Wardkeys/gate.png', choice, 'maren')
    await expect(rebase('merge')).rejects.toMatchObject({ code: 'drift' })
    await rebase('mine')
    await apply()
    expect(sha(readFileSync(world.path('extras/Wardkeys/gate.png')))).toBe(sha(pngOf(64, 64, 7)))
  })
})
