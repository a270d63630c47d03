import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieFor, startApp, textOf, type RunningApp } from './app'
import { axe, openBrowser, pasteText, press, pressHeld, reads, type OpenBrowser } from './browser'

const path = 'extras/Stallholder/prices.yml'

describe('like things as a ledger', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const draft = (): Promise<string> => textOf(app, cookie, path)
  const becomes = (text: string): Promise<void> => expect.poll(draft, { timeout: 8000 }).toBe(text)

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
    await page.goto(`${app.origin}/s/lantern-row/settings/${path}`)
    await press(page, 'Ledger')
    await page.waitForSelector('[role="grid"]:focus .td')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  /** Prices of the file as another reader finds them: by lines, not by our own. */
  const priceLines = (text: string): RegExpMatchArray[] => [...text.matchAll(/^( {2}[a-z_]+: .*)$/gm)]

  it('shows all of them, and has no fault that axe finds, also by evening', async () => {
    const text = await draft()
    const shown = await page.$eval('[role="grid"]', (grid) => Number(grid.getAttribute('aria-rowcount')) - 1)
    expect(shown).toBeGreaterThan(20)
    expect(priceLines(text).length).toBeGreaterThanOrEqual(shown)
    expect(await axe(page)).toEqual([])
    await page.evaluate(() => (document.documentElement.dataset['theme'] = 'evening'))
    expect(await axe(page)).toEqual([])
  })

  it('a cell is edited in place by keys, and one undo takes it back', async () => {
    const before = await draft()
    await page.keyboard.press('ArrowDown')
    const cell = await page.$eval('.td.cursor', (element) => element.textContent!.trim())
    const id = await page.$eval('.tr.on .id', (element) => element.textContent!.trim())
    await page.keyboard.type('777')
    await page.keyboard.press('Enter')
    await expect.poll(draft, { timeout: 8000 }).not.toBe(before)
    const changed = (await draft()).split('\n').filter((line, i) => line !== before.split('\n')[i])
    expect(changed).toHaveLength(1)
    expect(changed[0]).toContain(id)
    expect(changed[0]).toContain('777')
    expect(cell).not.toBe('777')
    await pressHeld(page, 'Control', 'z')
    await becomes(before)
  })

  it('rows from a spreadsheet are matched by id, with three that are unknown, and written in one step', async () => {
    const before = await draft()
    const ids = await page.$$eval('.tr .id', (cells) => cells.map((cell) => cell.textContent!.trim()))
    const known = ids.slice(0, 34)
    const [first, second, third] = known as [string, string, string]
    // a letter too few, a letter too many, and one that is like none
    const slips = [first.slice(0, -1), `${second}x`, 'zzzzzzzzzzzz']
    await page.focus('[role="grid"]')
    await pasteText(page, [...known.slice(2), ...slips].map((id) => `${id}\t4321`).join('\n'))
    await reads(page, `${known.length - 2} matched by id, 3 unknown ids`)
    expect(await draft()).toBe(before)
    await press(page, 'Use all 2')
    await reads(page, `${known.length} matched by id, 1 unknown id`)
    await press(page, `Put ${known.length} new values in the tray`)
    await expect.poll(async () => (await draft()).match(/4321/g)?.length, { timeout: 8000 }).toBe(known.length)
    const now = await draft()
    for (const id of [first, second, third]) expect(now).toMatch(new RegExp(`${id}\\b.*4321`))
    expect(now.split('\n').length).toBe(before.split('\n').length)
    await page.focus('[role="grid"]')
    await pressHeld(page, 'Control', 'z')
    await becomes(before)
  })

  it('arithmetic over a selection is previewed, and staged with Enter', async () => {
    const before = await draft()
    await page.focus('[role="grid"]')
    await pressHeld(page, 'Control', 'Home')
    await page.keyboard.down('Shift')
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown')
    await page.keyboard.up('Shift')
    const amounts = await page.$$eval('.td.picked', (cells) => cells.map((cell) => cell.textContent!.trim()))
    await page.keyboard.press('*')
    await page.waitForSelector('form.reckoning input:focus')
    await page.keyboard.type('3')
    await reads(page, `${amounts[0]} → ${Number(amounts[0]) * 3}`)
    expect(await draft()).toBe(before)
    expect(await axe(page)).toEqual([])
    await page.keyboard.press('Enter')
    await expect.poll(draft, { timeout: 8000 }).not.toBe(before)
    const shown = await page.$$eval('.td.picked', (cells) => cells.map((cell) => cell.textContent!.trim()))
    expect(shown.map(Number)).toEqual(amounts.map((amount) => Number(amount) * 3))
  })
})
