import type { KeyInput, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieFor, startApp, textOf, type RunningApp } from './app'
import { openBrowser, reads, type OpenBrowser } from './browser'
import { installNightfair } from './demo-packs'

/**
 * One setting of each kind: how it is found, which keys change it once its control is entered, and what of the file they
 * change. Keys of more than one letter are pressed, `Alt+…` with Alt held; anything after `=` is typed.
 */
type Walk = readonly [kind: string, pointer: string, keys: readonly string[], from: string, to: string]

const ALL = 'Control+a'
const YAML: readonly Walk[] = [
  ['a switch', '/fair/fireworks', ['Space'], 'fireworks: false', 'fireworks: true'],
  ['a time', '/fair/opens-at', [ALL, '=19:00', 'Enter'], '"17:30"', '"10:00"'],
  ['times', '/fair/quiet-from', ['Tab', 'Tab', '=06:00', 'Enter'], '"23:30"]', '"23:30", "21:00"]'],
  ['a duration', '/fair/last-call', [ALL, '=2400', 'Tab'], 'last-call: 1200', 'last-call: 2400'],
  ['a duration, in minutes', '/fair/pause', ['Tab', ALL, '=3', 'Tab'], 'pause: 1d', 'pause: 3d'],
  ['a place', '/fair/centre', [ALL, '=1204.5', 'Tab'], '"1180 18', '"1204.5 18'],
  ['a colour', '/fair/lantern', ['Tab', ALL, '=#e8b04a', 'Tab'], '"#C9C6BE"', '"#E8B04A"'],
  ['an item', '/prizes/main', ['=fired_br', 'Enter'], 'main: reed', 'main: fired_brick'],
  ['items in another order', '/prizes/goods', ['Alt+ArrowRight'], '[saltfish, honeycomb,', '[honeycomb, saltfish,'],
  ['a slot', '/prizes/slots', ['ArrowRight', 'Shift+ArrowRight'], '[0, 1, 4,', '[0, 2, 4,'],
  ['a weight', '/prizes/chances/eel', [ALL, '=60', 'Tab'], 'eel: 50', 'eel: 60'],
  ['a number', '/prizes/tax', ['ArrowUp'], 'tax: 5\n', 'tax: 6\n'],
  ['a node', '/access/node', ['=nightfair.keep', 'Enter'], 'node: nightfair.enter', 'node: nightfair.keep'],
  ['a port', '/access/port', [ALL, '=4200', 'Tab'], 'port: 4130', 'port: 4200'],
  ['a host', '/access/host', [ALL, '=0.0.0.0', 'Tab'], 'host: 127.0.0.1', 'host: 0.0.0.0'],
  ['a link', '/access/page', [ALL, '=https://fair.example/x', 'Tab'], 'https://fair.example/tonight', 'https://fair.example/x'],
  ['a picture', '/access/picture', [ALL, '=row.png', 'Enter'], 'picture: fair.png', 'picture: row.png'],
  ['a secret', '/access/token', [ALL, '=new-4', 'Enter'], 'token: row-lamps-9', 'token: new-4'],
  ['a text', '/access/title', [ALL, '=The fair', 'Tab'], '"[amber]The fair[/]"', '"The fair"'],
  ['lines', '/access/rules', [ALL, '=Pay first.', 'Tab'], '"Pay before you draw."\n    - "One prize a night, {player}."', '"Pay first."'],
  ['a choice', '/access/entry', ['Space', 'ArrowDown', 'Enter'], 'entry: open', 'entry: paid'],
  ['an angle', '/access/gate', [ALL, '=90', 'Tab'], 'gate: 135', 'gate: 90'],
]

/** Presses keys, one after the other, as a person without a mouse would. */
async function pressAll(page: Page, keys: readonly string[]): Promise<void> {
  for (const key of keys) {
    const held = /^(Alt|Control|Shift)\+/.exec(key)?.[1] as KeyInput | undefined
    if (key.startsWith('=')) await page.keyboard.type(key.slice(1))
    else {
      if (held) await page.keyboard.down(held)
      await page.keyboard.press((held ? key.slice(held.length + 1) : key) as KeyInput)
      if (held) await page.keyboard.up(held)
    }
  }
}

describe('with the keyboard alone', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const path = 'extras/Nightfair/settings.yml'
  const draft = (): Promise<string> => textOf(app, cookie, path)

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
    await installNightfair(app, cookie)
    await page.evaluate(() => localStorage.setItem('pasticcio-zone', 'Etc/GMT-9'))
    await page.goto(`${app.origin}/s/lantern-row/plugins`)
    await reads(page, 'Nightfair')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it.each(YAML)('%s is found from anywhere, entered and changed', async (_kind, pointer, keys, from, to) => {
    const before = await draft()
    const after = before.replace(from, () => to)
    expect(after).not.toBe(before)
    // out of the field that was left last
    await pressAll(page, ['Escape', 'Escape', '/'])
    await page.waitForSelector('[role="dialog"] input')
    const dotted = pointer.slice(1).replaceAll('/', '.')
    await page.keyboard.type(`${dotted} nightfair/settings`)
    await page.waitForFunction(
      (at) => document.querySelector('[role="dialog"] [aria-selected="true"] code')?.textContent === at,
      {},
      dotted,
    )
    await page.keyboard.press('Enter')
    await page.waitForFunction(() => !document.querySelector('[role="dialog"]'))
    await page.waitForSelector(`[data-pointer="${pointer}"].focus`)
    await page.keyboard.press('Enter')
    await page.waitForFunction((at) => document.activeElement?.closest('[data-pointer]')?.getAttribute('data-pointer') === at, {}, pointer)
    await pressAll(page, keys)
    await expect.poll(draft, { timeout: 8000 }).toBe(after)
  })
})
