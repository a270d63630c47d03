import { parse } from 'yaml'
import type { KeyInput, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieFor, startApp, textOf, type RunningApp } from './app'
import { axe, choose, line, openBrowser, press, pressHeld, reads, setTo, type OpenBrowser } from './browser'

interface Hamper {
  readonly name: string
  readonly node: string
  readonly price: number
}
const hampers = 'extras/Hampers/settings.yml'
const nodes = 'extras/Wardkeys/settings.yml'

describe('entries', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const fileOf = (path: string, server?: string): Promise<string> => textOf(app, cookie, path, server)
  const entriesIn = async (): Promise<Record<string, Hamper>> =>
    (parse(await fileOf(hampers)) as { hampers: Record<string, Hamper> }).hampers
  const at = async (path: string, pointer: string): Promise<void> => {
    await page.goto(`${app.origin}/s/lantern-row/settings/${path}?at=${pointer}`)
    await page.waitForSelector(`${line(pointer)}[aria-selected="true"]`)
  }
  const keys = async (...pressed: readonly KeyInput[]): Promise<void> => {
    for (const key of pressed) await page.keyboard.press(key)
  }
  const undo = (): Promise<void> => pressHeld(page, 'Control', 'z')

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('a priced one is made from an old one in six actions, named once, and marked where it should differ', async () => {
    await at(hampers, '/hampers/angler')
    const before = await entriesIn()
    // what somebody does: a key, a name, Enter, a click, a price, Tab
    await keys('d')
    await page.waitForSelector('.naming input:focus')
    await page.keyboard.type('eelman')
    await keys('Enter')
    await reads(page, 'its name put in 2 places instead of angler')
    await setTo(page, '/hampers/eelman/price', '75')
    await expect.poll(async () => (await entriesIn())['eelman']?.price, { timeout: 8000 }).toBe(75)
    const now = await entriesIn()
    expect(now['eelman']).toEqual({ ...before['angler'], name: "Eelman's hamper", node: 'hampers.claim.eelman', price: 75 })
    expect(Object.keys(now)).toEqual(Object.keys(before).flatMap((name) => (name === 'angler' ? ['angler', 'eelman'] : [name])))
    expect((await fileOf(hampers)).match(/# Only for those who earned it\./g)).toHaveLength(2)
    expect(await axe(page)).toEqual([])
  })

  it('one is renamed with what refers to it in another file, and one undo takes all back', async () => {
    const [before, away] = [await fileOf(hampers), await fileOf(nodes)]
    expect(away).toContain('hampers.claim.angler')
    await at(hampers, '/hampers/angler')
    await keys('r')
    await reads(page, 'Wardkeys/settings.yml, line')
    await page.waitForSelector('#entry-name')
    expect(await axe(page)).toEqual([])
    await page.locator('#entry-name').click({ count: 3 })
    await page.keyboard.type('lineman')
    await keys('Enter')
    await expect.poll(() => fileOf(nodes), { timeout: 8000 }).toBe(away.replaceAll('hampers.claim.angler', 'hampers.claim.lineman'))
    await expect.poll(async () => (await entriesIn())['lineman']?.node, { timeout: 8000 }).toBe('hampers.claim.lineman')
    await reads(page, 'instead of angler')
    await undo()
    await expect.poll(() => fileOf(nodes), { timeout: 8000 }).toBe(away)
    await expect.poll(() => fileOf(hampers), { timeout: 8000 }).toBe(before)
  })

  it('one that others refer to is taken out after a look at them, and moved by keys', async () => {
    await at(hampers, '/hampers/angler')
    await press(page, 'Remove')
    await reads(page, 'will name something that is not there')
    await reads(page, 'hampers.claim.angler')
    await press(page, 'Leave it')
    const names = Object.keys(await entriesIn())
    await page.waitForSelector(`${line('/hampers/angler')}[aria-selected="true"]`)
    await pressHeld(page, 'Alt', 'ArrowUp')
    const place = names.indexOf('angler')
    const moved = names.map((name, i) => (i === place - 1 ? 'angler' : i === place ? names[place - 1]! : name))
    await expect.poll(async () => Object.keys(await entriesIn()), { timeout: 8000 }).toEqual(moved)
    await undo()
    await expect.poll(async () => Object.keys(await entriesIn()), { timeout: 8000 }).toEqual(names)
  })

  it('one the plugin ships is added again under its name', async () => {
    const before = await entriesIn()
    await at(hampers, '/hampers/mudlark')
    await press(page, 'Remove')
    await expect.poll(async () => Object.keys(await entriesIn()), { timeout: 8000 }).not.toContain('mudlark')
    await at(hampers, '/hampers')
    await press(page, 'Add …')
    await choose(page, 'Made from', 'mudlark')
    expect(await axe(page)).toEqual([])
    await press(page, 'Add it')
    await expect.poll(async () => (await entriesIn())['mudlark'], { timeout: 8000 }).toEqual(before['mudlark'])
  })

  it('one is copied to another server, into another format, and what does not fit is said first', async () => {
    const lua = 'bundles/regatta/settings.lua'
    const before = await fileOf(lua, 'ferry-trials')
    await at(hampers, '/hampers/angler')
    await press(page, 'Copy to …')
    await choose(page, 'Server', 'ferry-trials')
    await choose(page, 'File', 'regatta/settings.lua')
    await reads(page, 'to look at there')
    expect(await fileOf(lua, 'ferry-trials')).toBe(before)
    await page.locator('#copy-name').click({ count: 3 })
    await page.keyboard.type('anglers_run')
    await reads(page, 'no entry there has it')
    expect(await axe(page)).toEqual([])
    await press(page, 'Copy it')
    await reads(page, 'It is in the tray of ferry-trials')
    const after = await fileOf(lua, 'ferry-trials')
    expect(after).toMatch(/anglers_run = \{/)
    expect(after).toContain('node = "hampers.claim.anglers_run"')
    // all else is as it was: without the copy's lines it is the file before
    const lines = after.split('\n')
    const from = lines.findIndex((one) => one.includes('anglers_run = {'))
    const kept = before.split('\n')
    expect(lines.slice(0, from)).toEqual(kept.slice(0, from))
    const rest = kept.length - from
    expect(lines.slice(-rest)).toEqual(kept.slice(-rest))
  })
})
