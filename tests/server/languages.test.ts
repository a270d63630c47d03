import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { saveDraft } from '../../server/services/drafts'
import { findingsOf } from '../../server/services/findings'
import { addLanguage } from '../../server/services/languages'
import { messagesOf, type Messages } from '../../server/services/messages'
import { stageNamed } from '../../server/services/named-files'
import { viewFile } from '../../server/services/settings'
import { applyTray, listTray } from '../../server/services/tray'
import { makeWorld, repacked, type World } from './world'

const BASE = 'extras/Gangway/texts.*.yml'

describe('languages, pictures and books of a server', () => {
  let world: World
  let server: Server
  const put = (at: string, bytes: string | Buffer): void => {
    mkdirSync(dirname(world.path(at)), { recursive: true })
    writeFileSync(world.path(at), bytes)
    server.inventory.forget()
  }
  const look = (): Promise<Messages> => messagesOf(world.context, server)
  const add = (language: string, from = 'en', base = BASE): ReturnType<typeof addLanguage> =>
    addLanguage(world.context, server, { base, from, language }, 'tobiah')

  beforeEach(async () => {
    world = await makeWorld()
    server = await world.server()
    put('extras/Gangway.pack', world.pack('gangway-1.4'))
    put('extras/Gangway/settings.yml', 'language: en\nnewcomers:\n  # A text file beside this one.\n  book: book.txt\n')
    put('extras/Gangway/texts.en.yml', 'hello: "Good day, {player}."\nbye: "Farewell."\n')
    put('extras/Gangway/texts.de.yml', 'hello: "Guten Tag."\n')
  })
  afterEach(() => world.close())

  it('stand side by side, with what is missing, left out, and chosen', async () => {
    const { languages, messages } = await look()
    expect(languages).toMatchObject([
      {
        base: BASE,
        plugin: 'Gangway',
        chosen: { language: 'en', file: 'extras/Gangway/settings.yml', pointer: '/language', line: 1 },
      },
    ])
    expect(languages[0]!.languages.map(({ language, texts, missing, without }) => [language, texts, missing, without])).toEqual([
      ['de', 1, 1, 1],
      ['en', 2, 0, 0],
    ])
    expect(messages.filter(({ translated }) => translated?.language === 'de')).toMatchObject([
      { texts: ['Guten Tag.'], translated: { base: BASE, pointer: '/hello' } },
    ])
  })

  it('one more begins as a copy in the tray, is written there, and comes to the server as it is applied', async () => {
    const path = 'extras/Gangway/texts.cy.yml'
    expect(await add('cy')).toEqual({ path, texts: 2 })
    expect((await look()).languages[0]!.languages.map(({ language }) => language).sort()).toEqual(['cy', 'de', 'en'])
    const view = await viewFile(world.context, server, path)
    expect(view).toMatchObject({ text: '', plugin: 'Gangway', draft: { text: 'hello: "Good day, {player}."\nbye: "Farewell."\n' } })
    const draft = view.draft!
    const text = draft.text.replace('Farewell', 'Hwyl')
    await saveDraft(world.context, server, { path, text, baseSha: draft.baseSha, draftSha: draft.sha }, 'tobiah')
    const tray = await listTray(world.context, server)
    expect(tray).toMatchObject([{ path, plugin: 'Gangway', drifted: false, blocking: 0 }])
    await applyTray(world.context, server, tray, 'tobiah')
    expect(readFileSync(world.path(path), 'utf8')).toBe(text)
    expect(await listTray(world.context, server)).toEqual([])
  })

  it.each([
    ['xx', 'en', BASE, 'bad-input'],
    ['de', 'en', BASE, 'name-taken'],
    ['cy', 'fr', BASE, 'not-found'],
    ['cy', 'en', 'extras/Gangway/other.*.yml', 'not-found'],
  ])('%s from %s of %s is refused', async (language, from, base, code) => {
    await expect(add(language, from, base)).rejects.toMatchObject({ code })
    expect(await listTray(world.context, server)).toEqual([])
  })

  it('nothing is written over that came to lie there meanwhile', async () => {
    await add('cy')
    const tray = await listTray(world.context, server)
    put('extras/Gangway/texts.cy.yml', 'hello: "Helo."\n')
    await expect(applyTray(world.context, server, tray, 'tobiah')).rejects.toMatchObject({ code: 'drift' })
    expect(readFileSync(world.path('extras/Gangway/texts.cy.yml'), 'utf8')).toBe('hello: "Helo."\n')
  })

  it('those in sections of one file are copied there', async () => {
    put('extras/Gangway/settings.yml', 'texts:\n  en: { hello: "Good day." }\n  de: { hello: "Guten Tag." }\n')
    const base = 'extras/Gangway/settings.yml#/texts/*'
    expect((await look()).languages.map((one) => one.base)).toContain(base)
    await expect(add('cy', 'en', base)).rejects.toMatchObject({ code: 'bad-input' })
  })

  it('files that are no settings of a plugin are no drafts, wherever they would lie', async () => {
    for (const path of ['extras/Gangway/../../brackwater.yml', 'extras/Gangway/a.sh', 'extras/Nobody/texts.cy.yml'])
      await expect(
        saveDraft(world.context, server, { path, text: 'a: b\n', baseSha: 'x', draftSha: null }, 'tobiah'),
      ).rejects.toMatchObject({ code: 'not-found' })
  })

  it('the language the game speaks is told with where it is set', async () => {
    expect((await look()).spoken).toEqual({ language: 'en', file: 'brackwater.yml', line: 6 })
    put('brackwater.yml', readFileSync(world.path('brackwater.yml'), 'utf8').replace('language: en\n', ''))
    expect((await look()).spoken).toBeNull()
  })

  it('a language that is chosen and has no texts is found', async () => {
    put('extras/Gangway/settings.yml', 'language: fr\n')
    const { findings } = await findingsOf(world.context, server)
    expect(findings.filter(({ code }) => code === 'language-not-there')).toMatchObject([{ file: 'extras/Gangway/settings.yml', line: 1 }])
  })

  it('a text file that a setting names is a book, and is written through the tray', async () => {
    await server.inventory.remember()
    server.inventory.forget()
    put('extras/Gangway/book.txt', 'Welcome to the delta.\n')
    const book = async () => (await look()).messages.find(({ surface }) => surface === 'book')
    expect(await book()).toMatchObject({
      file: 'extras/Gangway/book.txt',
      moment: 'first',
      texts: ['Welcome to the delta.\n'],
      isShipped: false,
      shipped: [expect.stringContaining('Dig clay at low water')],
      book: { pointer: '/newcomers/book', name: 'book.txt', line: 4, staged: false },
    })
    const bytes = Buffer.from('Mind the tide.\n')
    const naming = { path: 'extras/Gangway/settings.yml', pointer: '/newcomers/book' }
    await stageNamed(world.context, server, naming, { name: 'book.txt', bytes, asItIs: true }, 'tobiah')
    expect(await book()).toMatchObject({ texts: ['Mind the tide.\n'], book: { staged: true } })
    await applyTray(world.context, server, await listTray(world.context, server), 'tobiah')
    expect(readFileSync(world.path('extras/Gangway/book.txt'), 'utf8')).toBe('Mind the tide.\n')
  })

  it('pictures are told with what they are, what the setting takes, and how they take turns', async () => {
    const settings = 'banner:\n  # One after the other. Each 64 by 64, a PNG beside this file.\n  pictures: [dusk.png, none.png]\n'
    put(
      'extras/Gangway.pack',
      repacked(world.pack('gangway-1.4'), (files) => ({ ...files, 'defaults/settings.yml': settings })),
    )
    put('extras/Gangway/settings.yml', settings)
    put('extras/Gangway/dusk.png', png(64, 48))
    const { pictures } = await look()
    expect(pictures).toMatchObject([
      {
        name: 'dusk.png',
        path: 'extras/Gangway/dusk.png',
        kind: 'png',
        size: { width: 64, height: 48 },
        width: 64,
        height: 64,
        turn: 'in-turn',
      },
      { name: 'none.png', path: null, size: null },
    ])
  })
})

/** The header of a PNG (RFC 2083): its signature, then width and height. */
function png(width: number, height: number): Buffer {
  const bytes = Buffer.alloc(33)
  Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex').copy(bytes)
  bytes.writeUInt32BE(width, 16)
  bytes.writeUInt32BE(height, 20)
  bytes.set([8, 6], 24)
  return bytes
}
