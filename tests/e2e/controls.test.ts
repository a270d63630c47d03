import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, type RunningApp } from './app'
import { axe, line, openBrowser, pasteText, press, reads, setTo, type OpenBrowser } from './browser'
import { installNightfair } from './demo-packs'
import { pngOf } from '../png'

interface ShownFile {
  readonly text: string
  readonly draft: { readonly text: string } | null
}
/** What is done in the line of a setting, and what of the file it changes: nothing else may. */
type Case = readonly [what: string, pointer: string, act: (page: Page) => Promise<unknown>, from: string, to: string]

const type = (pointer: string, text: string) => (page: Page) => setTo(page, pointer, text)
const click = (pointer: string, selector: string) => async (page: Page) => page.locator(`${line(pointer)} ${selector}`).click()
const labelled = (pointer: string, label: string) => click(pointer, `[aria-label="${label}"]`)
const field = (pointer: string, label: string, text: string) => async (page: Page) => {
  const found = await page.waitForSelector(`${line(pointer)} [aria-label="${label}"]`)
  await found!.click({ count: 3 })
  await page.keyboard.type(text)
  await page.keyboard.press('Tab')
}
/** Opens the picker, types a part of a name, and takes what is found first. */
const pick = (pointer: string, typed: string) => async (page: Page) => {
  await page.locator(`${line(pointer)} [role="combobox"]`).click()
  await page.keyboard.type(typed)
  await page.waitForSelector(`${line(pointer)} [role="option"][aria-selected="true"]`)
  await page.keyboard.press('Enter')
}
const choose = (pointer: string, option: string) => async (page: Page) => {
  await page.locator(`${line(pointer)} [role="combobox"]`).click()
  await page.locator(`::-p-aria([name="${option}"][role="option"])`).click()
}
const inZone = (zone: string) => (page: Page) => page.evaluate((name) => localStorage.setItem('pasticcio-zone', name), zone)
const keys =
  (pointer: string, selector: string, ...pressed: readonly string[]) =>
  async (page: Page) => {
    await page.focus(`${line(pointer)} ${selector}`)
    for (const key of pressed) await page.keyboard.press(key as 'Enter')
  }
const shifted = (pointer: string, selector: string, key: string, modifier: 'Shift' | 'Alt') => async (page: Page) => {
  await page.focus(`${line(pointer)} ${selector}`)
  await page.keyboard.down(modifier)
  await page.keyboard.press(key as 'Enter')
  await page.keyboard.up(modifier)
}
const paste = (pointer: string, selector: string, text: string) => async (page: Page) => {
  await page.focus(`${line(pointer)} ${selector}`)
  await pasteText(page, text)
}

const YAML: readonly Case[] = [
  ['a switch', '/fair/fireworks', click('/fair/fireworks', 'input'), 'fireworks: false', 'fireworks: true'],
  ['a switch of words', '/access/tell', click('/access/tell', 'input'), 'tell: "yes"', 'tell: "no"'],
  ['a time in another zone', '/fair/opens-at', type('/fair/opens-at', '19:00'), '"17:30"', '"10:00"'],
  [
    'a duration read in minutes',
    '/fair/last-call',
    field('/fair/last-call', 'Last call in minutes', '2'),
    'last-call: 1200',
    'last-call: 2400',
  ],
  ['a duration in words', '/fair/pause', field('/fair/pause', 'Pause in days', '3'), 'pause: 1d', 'pause: 3d'],
  [
    'a place in a text',
    '/fair/centre',
    paste('/fair/centre', 'input', 'x: 1204.5, y: 18, z: -377, 135'),
    '"1180 18 -360 90"',
    '"1204.5 18 -377 135"',
  ],
  ['a colour', '/fair/lantern', field('/fair/lantern', 'Lantern', '#e8b04a'), '"#C9C6BE"', '"#E8B04A"'],
  [
    'what was not set',
    '/fair/close-early',
    labelled('/fair/close-early', 'Set Close early to 600'),
    '  #close-early: 600',
    '  close-early: 600',
  ],
  ['an item', '/prizes/main', pick('/prizes/main', 'fired_br'), 'main: reed', 'main: fired_brick'],
  ['a list of items', '/prizes/goods', pick('/prizes/goods', 'rope_coil'), 'lamp_oil, roe]', 'lamp_oil, roe, rope_coil]'],
  [
    'another order',
    '/prizes/goods',
    shifted('/prizes/goods', '.tok', 'ArrowRight', 'Alt'),
    '[saltfish, honeycomb,',
    '[honeycomb, saltfish,',
  ],
  ['a slot', '/prizes/slots', shifted('/prizes/slots', '[aria-label^="slot 4"]', 'ArrowRight', 'Shift'), '[0, 1, 4,', '[0, 1, 5,'],
  ['a weight', '/prizes/chances/eel', type('/prizes/chances/eel', '60'), 'eel: 50', 'eel: 60'],
  ['a number', '/prizes/tax', keys('/prizes/tax', 'input', 'ArrowUp'), 'tax: 5\n', 'tax: 6\n'],
  ['a node', '/access/node', pick('/access/node', 'nightfair.keep'), 'node: nightfair.enter', 'node: nightfair.keep'],
  ['places', '/access/places', pick('/access/places', 'saltpans'), 'places: [delta]', 'places: [delta, saltpans]'],
  ['a port', '/access/port', type('/access/port', '4200'), 'port: 4130', 'port: 4200'],
  ['a host', '/access/host', type('/access/host', '0.0.0.0'), 'host: 127.0.0.1', 'host: 0.0.0.0'],
  ['a link', '/access/page', type('/access/page', 'https://fair.example/x'), 'https://fair.example/tonight', 'https://fair.example/x'],
  ['a secret', '/access/token', type('/access/token', 'new-4'), 'token: row-lamps-9', 'token: new-4'],
  ['a text', '/access/title', type('/access/title', 'The fair'), '"[amber]The fair[/]"', '"The fair"'],
  [
    'lines',
    '/access/rules',
    fillLines('/access/rules', 'Pay first.'),
    '    - "Pay before you draw."\n    - "One prize a night, {player}."',
    '    - "Pay first."',
  ],
  ['a choice', '/access/entry', choose('/access/entry', 'paid'), 'entry: open', 'entry: paid'],
  ['a code that is a number', '/access/log', choose('/access/log', '2 everything'), 'log: 1', 'log: 2'],
  ['an angle', '/access/gate', type('/access/gate', '90'), 'gate: 135', 'gate: 90'],
]

const JSON_CASES: readonly Case[] = [
  ['a switch', '/enabled', click('/enabled', 'input'), '"enabled": true', '"enabled": false'],
  ['a number', '/hanging', type('/hanging', '30'), '"hanging": 24', '"hanging": 30'],
  ['a fraction of seconds', '/fadeSeconds', type('/fadeSeconds', '3.0'), '"fadeSeconds": 2.5', '"fadeSeconds": 3.0'],
  ['a time', '/lightAt', type('/lightAt', '16:30'), '"17:00"', '"16:30"'],
  ['a text', '/sign', type('/sign', 'Say "lamp"'), '"The lanterns"', '"Say \\"lamp\\""'],
  ['a list of items', '/kinds', pick('/kinds', 'wick'), '["lantern", "candle"]', '["lantern", "candle", "wick"]'],
  ['a colour', '/glow', field('/glow', 'Glow', '#abc'), '"#C9C6BE"', '"#AABBCC"'],
  ['a place in a section', '/pole', field('/pole', 'Pole x', '1200'), '"x": 1180', '"x": 1200'],
  ['a port', '/statusPort', type('/statusPort', '4150'), '4140', '4150'],
  ['a link', '/mapUrl', type('/mapUrl', 'https://fair.example/map'), 'https://fair.example/lanterns', 'https://fair.example/map'],
  ['a secret', '/accessToken', type('/accessToken', 'x'), '"row-lamps-9"', '"x"'],
  ['a node', '/node', pick('/node', 'nightfair.enter'), '"nightfair.keep"', '"nightfair.enter"'],
  ['slots', '/shelfSlots', labelled('/shelfSlots', 'slot 2'), '[0, 1, 4]', '[0, 1, 2, 4]'],
  ['a weight', '/lightChances/lantern', type('/lightChances/lantern', '4'), '"lantern": 3', '"lantern": 4'],
  ['times', '/hours', field('/hours', 'Add to Hours', '06:00'), '["18:00", "23:00"]', '["18:00", "23:00", "06:00"]'],
  ['a list of numbers', '/steps', field('/steps', 'Add to Steps', '4'), '[1, 2, 3]', '[1, 2, 3, 4]'],
  ['lines', '/lines', fillLines('/lines', 'Mind them.'), '["Mind the lamps.", "They are hot."]', '["Mind them."]'],
]

const LUA: readonly Case[] = [
  ['a switch', '/open', click('/open', 'input'), 'open = true', 'open = false'],
  ['a number', '/seats', keys('/seats', 'input', 'ArrowDown'), 'seats = 24', 'seats = 23'],
  ['a sum', '/act', field('/act', 'Act in minutes', '20'), 'act = 15 * 60', 'act = 1200'],
  ['a duration', '/pause', type('/pause', '60'), 'pause = 90', 'pause = 60'],
  ['a time in another zone', '/begins_at', type('/begins_at', '21:00'), '"19:30"', '"12:00"'],
  ['a text', '/title', type('/title', "Wenna's"), '"The stage"', '"Wenna\'s"'],
  ['a choice', '/music', choose('/music', 'drum'), 'music = "reed"', 'music = "drum"'],
  ['an item', '/prize_item', pick('/prize_item', 'tin_bell'), '"honeycomb"', '"tin_bell"'],
  ['a list of items', '/thrown', labelled('/thrown', 'Take out roe'), '{ "roe", "reed" }', '{ "reed" }'],
  ['a colour', '/curtain_colour', field('/curtain_colour', 'Curtain colour', '#112233'), '"#AE3B27"', '"#112233"'],
  [
    'a place',
    '/place',
    paste('/place', 'input', '1 2 3 4'),
    '{ x = 1190, y = 18, z = -352, heading = 180 }',
    '{ x = 1, y = 2, z = 3, heading = 4 }',
  ],
  ['an angle', '/heading', type('/heading', '45'), 'heading = 90', 'heading = 45'],
  ['a port', '/status_port', labelled('/status_port', 'Status port more'), '4141', '4142'],
  ['a secret', '/password', type('/password', 'c'), '"curtain"', '"c"'],
  ['a node', '/node', pick('/node', 'nightfair.keep'), '"nightfair.enter"', '"nightfair.keep"'],
  ['slots', '/slots', labelled('/slots', 'slot 1'), '{ 0, 1, 4 }', '{ 0, 4 }'],
  ['a weight', '/chances/roe', type('/chances/roe', '2'), 'roe = 1', 'roe = 2'],
  ['what was not set', '/bell_every', labelled('/bell_every', 'Set Bell every to 60'), '  --bell_every = 60,', '  bell_every = 60,'],
]

/** A field of several lines, filled and left. */
function fillLines(pointer: string, text: string) {
  return async (page: Page): Promise<void> => {
    const found = await page.waitForSelector(`${line(pointer)} textarea`)
    await found!.click()
    await page.keyboard.down('Control')
    await page.keyboard.press('a')
    await page.keyboard.up('Control')
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
  }
}

describe('the right control for every value', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const server = '/api/servers/lantern-row'
  const shown = (path: string): Promise<ShownFile> => ask(app, cookie, 'GET', `${server}/file?path=${encodeURIComponent(path)}`)

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
    await installNightfair(app, cookie)
    // five or six hours behind, and no change of clocks in it that a time of day would hang on
    await inZone('Etc/GMT-9')(page)
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  describe.each([
    ['YAML', 'extras/Nightfair/settings.yml', YAML],
    ['JSON', 'extras/Nightfair/lanterns.json', JSON_CASES],
    ['Lua', 'extras/Nightfair/stage.lua', LUA],
  ] as const)('in %s', (_format, path, cases) => {
    let before = ''
    beforeAll(async () => {
      await page.goto(`${app.origin}/s/lantern-row/settings/${path}`)
      await page.waitForSelector(line(cases[0]![1]))
      before = (await shown(path)).text
    })

    it.each(cases)('%s changes exactly its own bytes', async (_what, pointer, act, from, to) => {
      await page.waitForSelector(line(pointer))
      await act(page)
      expect(before.split(from)).toHaveLength(2)
      before = before.replace(from, () => to)
      await expect.poll(async () => (await shown(path)).draft?.text, { timeout: 8000 }).toBe(before)
    })

    it('nothing of the page is out of reach for assistive technology', async () => {
      await page.keyboard.press('Escape')
      expect(await axe(page)).toEqual([])
    })
  })

  it('twice a day on one’s own clocks, in three actions', async () => {
    const path = 'extras/Nightfair/settings.yml'
    await page.goto(`${app.origin}/s/lantern-row/settings/${path}`)
    const adding = await page.waitForSelector(`${line('/fair/quiet-from')} [aria-label="Add to Quiet from"]`)
    const before = (await shown(path)).draft!.text
    await adding!.click()
    await page.keyboard.type('06:00\n')
    await page.keyboard.type('18:00\n')
    const after = before.replace('["12:00", "23:30"]', '["12:00", "23:30", "21:00", "09:00"]')
    expect(after).not.toBe(before)
    await expect.poll(async () => (await shown(path)).draft?.text, { timeout: 8000 }).toBe(after)
  })

  it('what the author declares explains a file that has no comments, and is checked', async () => {
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Nightfair/lanterns.json`)
    await reads(page, 'How many hang over the quay')
    await setTo(page, '/hanging', '90')
    await reads(page, 'at most 40')
    await setTo(page, '/hanging', '30')
  })

  it('a picture of another size is made to fit, waits beside its setting, and is written with it', async () => {
    const path = 'extras/Nightfair/settings.yml'
    const pointer = '/access/picture'
    await page.goto(`${app.origin}/s/lantern-row/settings/${path}?at=${pointer}`)
    const picture = join(app.folder, 'Gate at night.png')
    writeFileSync(picture, pngOf(128, 96, 200))
    const before = (await shown(path)).draft!.text
    await (await page.waitForSelector<'input'>(`${line(pointer)} input[type="file"]` as 'input'))!.uploadFile(picture)
    await reads(page, 'as it is: 128 × 96')
    expect(await axe(page)).toEqual([])
    await press(page, 'Put it into the tray')
    await reads(page, '64 × 64 PNG, in the tray')
    await expect
      .poll(async () => (await shown(path)).draft?.text, { timeout: 8000 })
      .toBe(before.replace('picture: fair.png', 'picture: Gate-at-night.png'))
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'Gate-at-night.png')
    expect(await axe(page)).toEqual([])
    const drafts = (await ask<{ path: string; sha: string }[]>(app, cookie, 'GET', `${server}/tray`))
      .filter((draft) => draft.path.endsWith('.png'))
      .map((draft) => ({ path: draft.path, sha: draft.sha }))
    await ask(app, cookie, 'POST', `${server}/tray/apply`, { drafts })
    const written = readFileSync(join(app.folder, 'servers/lantern-row/extras/Nightfair/Gate-at-night.png'))
    // the header of a PNG (RFC 2083): its signature, then width and height
    expect([written.toString('latin1', 1, 4), written.readUInt32BE(16), written.readUInt32BE(20)]).toEqual(['PNG', 64, 64])
  })

  it('all that is done in a file is one history', async () => {
    const path = 'extras/Nightfair/lanterns.json'
    await page.goto(`${app.origin}/s/lantern-row/settings/${path}`)
    await page.waitForSelector(line('/hanging'))
    const before = (await shown(path)).draft!.text
    await setTo(page, '/hanging', '31')
    await click('/enabled', 'input')(page)
    await pick('/kinds', 'signal_lamp')(page)
    await expect.poll(async () => (await shown(path)).draft?.text, { timeout: 8000 }).toContain('signal_lamp')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    for (let i = 0; i < 3; i++) await page.keyboard.press('u')
    await expect.poll(async () => (await shown(path)).draft?.text, { timeout: 8000 }).toBe(before)
  })
})
