import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import fc from 'fast-check'
import { unzipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { saveFamily } from '../../server/services/families'
import { FindingsAt } from '../../server/services/findings-at'
import { messagesOf, writtenFor, type ShownMessage } from '../../server/services/messages'
import { addPackage, draft, makeWorld, type World } from './world'

it('findings are looked up by the place they touch, as going through all of them finds them', () => {
  const place = fc.tuple(fc.nat(4000), fc.oneof(fc.nat(30), fc.nat(3000))).map(([from, length]) => ({ from, to: from + length }))
  fc.assert(
    fc.property(fc.array(place, { maxLength: 60 }), place, (all, asked) => {
      const end = Math.max(asked.to, asked.from + 1)
      const expected = all.filter(({ from, to }) => from < end && to >= asked.from).sort((a, b) => a.from - b.from || a.to - b.to)
      expect(new FindingsAt(all).at(asked).sort((a, b) => a.from - b.from || a.to - b.to)).toEqual(expected)
    }),
  )
})

describe('texts of a server that players read', () => {
  let world: World
  let server: Server
  const path = 'extras/Gangway/settings.yml'
  const put = (at: string, bytes: string | Buffer): void => {
    mkdirSync(dirname(world.path(at)), { recursive: true })
    writeFileSync(world.path(at), bytes)
  }
  const at = async (pointer: string, file = path): Promise<ShownMessage | undefined> =>
    (await messagesOf(world.context, server)).messages.find((one) => one.file === file && one.pointer === pointer)

  beforeEach(async () => {
    world = await makeWorld()
    server = await world.server()
    put('extras/Gangway.pack', world.pack('gangway-1.4'))
    put(path, Buffer.from(unzipSync(world.pack('gangway-1.4'))['defaults/settings.yml']!))
    server.inventory.forget()
  })
  afterEach(() => world.close())

  it('are told with line, surface and moment, as the draft has them', async () => {
    expect(await at('/regulars/arrive')).toMatchObject({
      plugin: 'Gangway',
      line: 10,
      surface: 'chat',
      moment: 'join',
      isShipped: true,
      update: null,
    })
    await draft(world, path, (text) => text.replace('{player} steps off the ferry', '{player} comes ashore'))
    expect(await at('/regulars/arrive')).toMatchObject({
      texts: ['{player} comes ashore.'],
      isShipped: false,
      shipped: ['{player} steps off the ferry.'],
    })
    // a command is none
    expect(await at('/newcomers/commands')).toBeUndefined()
  })

  it('say what is wrong in them, and nothing of what stands beside them', async () => {
    await draft(world, path, (text) => text.replace('{player} goes with', '{plaier} goes with'))
    expect((await at('/regulars/leave'))?.findings.map(({ code }) => code)).toEqual(['unknown-placeholder'])
    expect((await at('/regulars/arrive'))?.findings).toEqual([])
  })

  it('say what a newer version in the pantry ships', async () => {
    put('extras/Hampers.pack', world.pack('hampers-2.4'))
    const hampers = 'extras/Hampers/settings.yml'
    put(hampers, Buffer.from(unzipSync(world.pack('hampers-2.4'))['defaults/settings.yml']!))
    server.inventory.forget()
    await addPackage(world.context, server, world.pack('hampers-3.0'), 'hampers-3.0.pack', 'test', 'maren')
    expect(await at('/claiming/message', hampers)).toMatchObject({
      shipped: ['{player} opened a hamper.'],
      update: ['{player} opens {hamper} ({left} left).'],
    })
    expect(await at('/menu/lore', hampers)).toMatchObject({ update: null })
  })

  it('are written as another family writes them, with what is lost', async () => {
    await saveFamily(world.context, readFileSync('families/script.yml', 'utf8'), 'maren')
    const written = await writtenFor(world.context, server, ['[amber]{player}[/] comes.', '[b]Hush[/b][br]now'], 'script')
    expect(written).toEqual([
      { text: '<amber>%{player}</> comes.', lost: [] },
      { text: expect.stringMatching(/^<b>Hush<\/b>.+now$/s) as unknown, lost: [] },
    ])
    await expect(writtenFor(world.context, server, ['a'], 'nobody')).rejects.toMatchObject({ code: 'not-found' })
  })
})
