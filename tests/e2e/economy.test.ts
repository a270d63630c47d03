import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { ask, cookieFor, startApp, textOf, type RunningApp } from './app'
import { openBrowser, press, reads, readsNoMore, type OpenBrowser } from './browser'
import { installNightfair, installWharfside } from './demo-packs'

const PURSE = 'extras/Purse/settings.yml'
const PRICES = 'extras/Stallholder/prices.yml'
const LANTERNS = 'extras/Nightfair/lanterns.json'
const CLAYWORKS = 'extras/Clayworks/settings.yml'

describe('economy', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const onServer = (path: string): string => readFileSync(join(app.folder, 'servers/lantern-row', path), 'utf8')
  const open = async (): Promise<void> => {
    await page.goto(`${app.origin}/s/lantern-row/economy`)
    await reads(page, 'an hour')
    await reads(page, 'from seed')
  }
  /** Types into a field as somebody does who comes by it, and leaves it. */
  async function type(label: string, text: string): Promise<void> {
    const field = await page.waitForSelector(`[aria-label="${label}"]:not(:disabled)`)
    await field!.click({ count: 3 })
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
  }
  const hasDraft = (path: string, text: string): Promise<void> =>
    expect.poll(() => textOf(app, cookie, path), { timeout: 20_000 }).toContain(text)
  /** Looks at a place of the flow, by its label. */
  const lookAt = (title: string): Promise<void> =>
    page.evaluate(
      (wanted: string) =>
        [...document.querySelectorAll<HTMLElement>('.flow .label')].find((label) => label.textContent!.includes(wanted))!.click(),
      title,
    )

  const chances = (): Promise<void> =>
    page.evaluate(() =>
      [...document.querySelectorAll('button')].find((button) => button.textContent!.trim().startsWith('Chances'))!.click(),
    )

  beforeAll(async () => {
    app = await startApp()
    cookie = await cookieFor(app, 'maren')
    await installNightfair(app, cookie)
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('a price, a payout and a weight go through one tray, in three plugins and two formats', async () => {
    await open()
    await lookAt('Payouts')
    await type('How much: Run ferry', '11')
    await hasDraft(PURSE, 'run-ferry: 11')
    await reads(page, 'in the draft')
    await press(page, 'Prices')
    await type('What players buy clay for at Stallholder', '7')
    await hasDraft(PRICES, '  clay: 7\n')
    await chances()
    await type('Weight of lantern in Light Chances', '5')
    await hasDraft(LANTERNS, '"lantern": 5')
    expect(
      [onServer(PURSE), onServer(PRICES), onServer(LANTERNS)].map((text) => /run-ferry: 11|\n {2}clay: 7\n|"lantern": 5/.test(text)),
    ).toEqual([false, false, false])
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
    expect(onServer(PURSE)).toContain('run-ferry: 11')
    expect(onServer(PRICES)).toContain('  clay: 7\n')
    expect(JSON.parse(onServer(LANTERNS))).toMatchObject({ lightChances: { lantern: 5, candle: 1 } })
  })

  it('what pits give is told in true percents, as weights in the file have it', async () => {
    await open()
    await chances()
    const { pits } = parse(onServer(CLAYWORKS)) as { pits: Record<string, { yields: Record<string, number> }> }
    for (const [pit, { yields }] of Object.entries(pits)) {
      const sum = Object.values(yields).reduce((all, weight) => all + weight, 0)
      const shown = await page.$$eval(
        'section',
        (sections, name) =>
          [...(sections.find((section) => section.getAttribute('aria-label') === name)?.querySelectorAll('tbody tr') ?? [])].map((row) => [
            row.querySelector('code')!.textContent!,
            row.querySelector('.share')!.textContent!,
          ]),
        pit.charAt(0).toUpperCase() + pit.slice(1).replace('-', ' '),
      )
      expect(shown.map(([item, share]) => [item, Number.parseFloat(share!).toFixed(0)])).toEqual(
        Object.entries(yields).map(([item, weight]) => [item, ((100 * weight) / sum).toFixed(0)]),
      )
    }
  })

  it('days are lived in a worker, with what updates would do beside them, and are ended when somebody says so', async () => {
    await open()
    await reads(page, 'A typical balance')
    const heads = (): Promise<string[]> => page.$$eval('.lived thead th', (all) => all.map((head) => head.textContent!.trim()))
    expect(await heads()).toEqual(['after 30 days', 'today'])
    await page.evaluate(() => document.querySelector<HTMLElement>('.lived input[type="checkbox"]')!.click())
    await page.waitForFunction(() => document.querySelectorAll('.lived thead th').length === 3)
    expect(await heads()).toEqual(['after 30 days', 'today', 'update'])
    await page.select('select[aria-label="How many days"]', '90')
    await reads(page, 'run ')
    await press(page, 'cancel')
    await readsNoMore(page, 'cancel')
    // what was lived before stays, and says that it is of other numbers
    await reads(page, 'of other numbers')
    expect(await heads()).toEqual(['after 90 days', 'today', 'update'])
  })

  it('the same numbers are a table, and the flow is gone through by keys', async () => {
    await open()
    await page.focus('.flow .label')
    await page.keyboard.press('ArrowRight')
    expect(await page.evaluate(() => document.activeElement!.className)).toContain('kind')
    await page.keyboard.press('ArrowDown')
    expect(await page.evaluate(() => document.activeElement!.textContent)).toContain('Regulars')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await reads(page, 'all of it')
    await press(page, 'Table')
    await reads(page, 'Stays in purses')
    const numbers = await page.$$eval('.numbers tbody tr:not(.head), .numbers .head, .numbers tfoot tr', (rows) =>
      rows.map((row) => ({
        isHead: row.className === 'head',
        today: Number(
          row.querySelectorAll('td')[row.querySelectorAll('td').length - 2]!.textContent!.replaceAll(',', '').replace('−', '-'),
        ),
      })),
    )
    const [comesIn, goesOut] = numbers.filter(({ isHead }) => isHead).map(({ today }) => today)
    expect(Math.abs(comesIn! - goesOut! - numbers.at(-1)!.today)).toBeLessThanOrEqual(2)
    const at = numbers.findLastIndex(({ isHead }) => isHead)
    const sum = numbers.slice(1, at).reduce((all, { today }) => all + today, 0)
    expect(Math.abs(sum - comesIn!)).toBeLessThanOrEqual(numbers.length)
  })

  it('what is assumed stays for all who come later', async () => {
    await open()
    await type('Players of Traders, read from records', '31')
    await page.waitForSelector('[aria-label="Players of Traders, typed"]')
    await readsNoMore(page, 'keeping …')
    await open()
    expect(await page.$eval('[aria-label="Players of Traders, typed"]', (field) => (field as HTMLInputElement).value)).toBe('31')
    await page.focus('[aria-label="Players of Traders, typed"]')
    await page.keyboard.press('f')
    await page.waitForSelector('[aria-label="Players of Traders, read from records"]')
  })

  it('a loop that pays is found over two plugins, and mended where it stands', async () => {
    await installWharfside(app, cookie)
    await open()
    await reads(page, 'a round')
    type Gathered = { readonly facts: { readonly offers: readonly { item: string; way: string; amount: number; plugin: string }[] } }
    // reckoned anew from what each plugin says: the worst of all items that cost less than they bring
    const gainOf = (offers: Gathered['facts']['offers'], item: string): number => {
      const of = (way: string): number[] =>
        offers.filter((one) => one.item === item && one.way === way && one.amount > 0).map(({ amount }) => amount)
      return Math.max(...of('sell'), 0) - Math.min(...of('buy'), Number.POSITIVE_INFINITY)
    }
    const offers = async (): Promise<Gathered['facts']['offers']> =>
      (await ask<Gathered>(app, cookie, 'GET', '/api/servers/lantern-row/economy')).facts.offers
    const before = await offers()
    const item = await page.$eval('.book .opens[aria-expanded="true"] + code', (code) => code.textContent!)
    const worst = Math.max(...new Set(before.map((one) => gainOf(before, one.item))))
    expect(gainOf(before, item)).toBeCloseTo(worst, 6)
    expect(worst).toBeGreaterThan(0)
    await page.evaluate(() => document.querySelector<HTMLElement>('.mends input')!.click())
    await page.waitForFunction((name: string) => document.querySelector('.book .opens + code')?.textContent !== name, {}, item)
    expect(gainOf(await offers(), item)).toBeLessThanOrEqual(1e-9)
    await reads(page, 'in the draft')
    await page.keyboard.press('u')
    await page.waitForFunction((name: string) => document.querySelector('.book .opens + code')?.textContent === name, {}, item)
    expect(gainOf(await offers(), item)).toBeCloseTo(worst, 6)
  })

  it('many prices are reckoned with as one, and held against how they were', async () => {
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
    await open()
    await press(page, 'Prices')
    await page.select('select[aria-label="Plugin"]', 'Stallholder')
    await page.select('select[aria-label="Category"]', 'light')
    await press(page, '× 1.2, round to 5 …')
    await type('By how much', '1.2')
    await page.focus('[placeholder="any"]')
    await page.keyboard.type('5')
    await reads(page, 'changes')
    await press(page, 'Put in the tray Enter')
    const prices = parse(onServer(PRICES)) as Record<string, Record<string, number>>
    await expect
      .poll(async () => (parse(await textOf(app, cookie, PRICES)) as typeof prices)['light']!['lantern'], { timeout: 20_000 })
      .not.toBe(prices['light']!['lantern'])
    const after = parse(await textOf(app, cookie, PRICES)) as typeof prices
    for (const [name, was] of Object.entries(prices['light']!))
      if (was > 0) expect([name, after['light']![name]]).toEqual([name, Math.max(5, Math.round((was * 1.2) / 5) * 5)])
    expect(after['clay']).toEqual(prices['clay'])
  })
})
