import { createServer, type Server as HttpServer, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, until, type RunningApp } from './app'
import { fill, line, openBrowser, press, reads, readsNoMore, setTo, type OpenBrowser } from './browser'

/** Several servers: how they run and ran, what their plugins do to files, and what comes from plugin sites. */
describe('seen to run', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const call = <T = unknown>(method: string, path: string, body?: unknown): Promise<T> => ask<T>(app, cookie, method, path, body)
  const go = (path: string): Promise<unknown> => page.goto(app.origin + path)
  const onDisk = (slug: string, path: string): string => join(app.folder, 'servers', slug, path)
  const read = (slug: string, path: string): string => readFileSync(onDisk(slug, path), 'utf8')
  const set = (pointer: string, text: string): Promise<void> => setTo(page, pointer, text)

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

  it('three servers on one page, each with its picture; a mark tells what it cost, before and after', async () => {
    await go('/servers')
    for (const name of ['lantern-row', 'night-market', 'ferry-trials']) await page.waitForSelector(`section[aria-label="${name}"]`)
    // lines are drawn, and where the tide came too often the slow one
    await page.waitForFunction(() => document.querySelectorAll('.js-plotly-plot path.js-line').length >= 6)
    await reads(page, '1 change in Tideclear')
    for (let i = 0; i < 3; i++) await page.keyboard.press(']')
    await reads(page, 'and before c')
    const row = await page.$eval('.cost tr.now', (element) => element.textContent!)
    expect(row).toMatch(/1 change in Tideclear.*−\d\.\d/)
    await reads(page, 'Tideclear')
    await press(page, 'Table')
    await reads(page, 'Fewest')
    await press(page, 'Look at c in History', 'link')
    await reads(page, '1 change in Tideclear')
  })

  it('a plugin that fails at the start is shown with its line, and mended from there', async () => {
    const path = onDisk('lantern-row', 'extras/Purse/settings.yml')
    writeFileSync(path, readFileSync(path, 'utf8').replace('start: 300', 'start: many'))
    await go('/s/lantern-row/server')
    await press(page, 'Restart')
    // two others need it
    await reads(page, '3 failed')
    await go('/s/lantern-row/plugins')
    await reads(page, 'Not loaded: accounts.start must be a number, not "many"')
    const link = await page.waitForSelector('::-p-text(settings.yml line)')
    await link!.click()
    await reads(page, 'The server says')
    await set('/accounts/start', '320')
    await go('/s/lantern-row/review')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied:')
    await go('/s/lantern-row/server')
    await press(page, 'Restart')
    await reads(page, '8 loaded')
    expect(read('lantern-row', 'extras/Purse/settings.yml')).toContain('start: 320')
  })

  it('a record is written by the server before it is read, edited, and taken anew', async () => {
    await call('POST', '/api/servers/night-market/console', { line: 'satchel set clay 5' })
    await go('/s/night-market/settings/records/Satchels.json')
    await reads(page, 'and did just now')
    await set('/clay', '9')
    await reads(page, '1 change in 1 file')
    await go('/s/night-market/review')
    await press(page, 'Apply to night-market Ctrl Enter')
    await reads(page, 'Applied: 1 change')
    await call('POST', '/api/servers/night-market/console', { line: 'as isolde satchel clay' })
    await go('/s/night-market/server')
    await reads(page, '9 clay fit one slot')
  })

  it('a file that the server writes under a draft is seen, and the draft carried onto it', async () => {
    const path = onDisk('night-market', 'settings/Satchels.json')
    await go('/s/night-market/settings/settings/Satchels.json')
    await set('/by-category/clay', '44')
    await reads(page, '1 change in 1 file')
    writeFileSync(path, readFileSync(path, 'utf8').replace('"reed": 64', '"reed": 60'))
    await reads(page, 'was written on the server')
    await page.waitForFunction(
      (selector: string) => (document.querySelector(selector) as HTMLInputElement | null)?.value === '60',
      {},
      `${line('/by-category/reed')} input`,
    )
    expect(await page.$eval(`${line('/by-category/clay')} input`, (field) => (field as HTMLInputElement).value)).toBe('44')
    // the same setting on both sides: all three are shown
    writeFileSync(path, readFileSync(path, 'utf8').replace(/"clay": \d+/, '"clay": 11'))
    await reads(page, 'The same was changed here and on the server')
    await press(page, 'Look at all three, and choose', 'link')
    await reads(page, 'was changed on the server since this draft was begun')
    await press(page, 'Keep mine, and write over theirs')
    await press(page, 'Apply to night-market Ctrl Enter')
    await reads(page, 'Applied: 1 change')
    expect(JSON.parse(readFileSync(path, 'utf8'))).toMatchObject({ 'by-category': { clay: 44, reed: 60 } })
  })

  it('a server that may only be edited while it is stopped is stopped, written and started', async () => {
    const { text } = await call<{ text: string }>('GET', '/api/families/bundle')
    await call('PUT', '/api/families', { text: text.replace('after-change: reload', 'after-change: stopped') })
    await go('/s/ferry-trials/server')
    await press(page, 'Start')
    await reads(page, '3 loaded')
    await go('/s/ferry-trials/settings/bundles/regatta/settings.lua')
    await set('/round/laps', '5')
    await reads(page, 'stop, write, start')
    await go('/s/ferry-trials/review')
    await reads(page, 'is stopped first, and started again')
    await press(page, 'Apply to ferry-trials Ctrl Enter')
    await reads(page, 'Applied: 1 change')
    await call('POST', '/api/servers/ferry-trials/console', { line: 'as isolde regatta' })
    await go('/s/ferry-trials/server')
    await reads(page, '5 laps around')
    await reads(page, 'stopped')
  })

  describe('a plugin site of our own', () => {
    let site: HttpServer
    let origin = ''
    let waiting: ServerResponse | null = null
    beforeAll(async () => {
      const bytes = readFileSync(join(app.folder, 'site/moorings-1.2.pack'))
      const offer = { name: 'Moorings', summary: 'Places.', family: 'archive', game: '>=7.1 <8', requires: {} }
      const list = [
        { ...offer, version: '9.0.0', link: 'slow.pack', size: 5_000_000 },
        { ...offer, version: '8.0.0', link: 'other.pack', sha256: '0'.repeat(64) },
      ]
      site = createServer((request, response) => {
        if (request.url === '/index.json') return void response.end(JSON.stringify({ packages: list }))
        if (request.url === '/other.pack') return void response.end(bytes)
        response.writeHead(200, { 'content-length': 5_000_000 }).write(Buffer.alloc(1_000_000))
        waiting = response
      })
      await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve))
      origin = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
    })
    afterAll(() => {
      site.closeAllConnections()
      site.close()
    })

    it('is refused while nobody allowed it, then added; a download is cancelled, and one with a wrong hash refused', async () => {
      await go('/sites')
      await fill(page, 'Add a site', origin)
      await press(page, 'Add')
      await reads(page, 'which is not asked unless an owner allows it')
      await press(page, `Remove ${origin}`)
      await press(page, 'Remove it')
      await readsNoMore(page, origin)
      await fill(page, 'Add a site', origin)
      await (await page.waitForSelector('.private input'))!.click()
      await press(page, 'Add')
      await press(page, 'Moorings 9.0.0 look')
      await reads(page, '4.8 MB')
      await go('/s/lantern-row/plugins')
      await press(page, 'Moorings 9.0.0 to the pantry')
      await reads(page, 'of 4.8 MB')
      await press(page, 'cancel')
      await reads(page, 'It was cancelled, and nothing was kept.')
      await until(async () => waiting?.destroyed === true)
      await press(page, 'Moorings 8.0.0 to the pantry')
      await reads(page, 'is not the file it should be')
      const { packages } = await call<{ packages: { name: string }[] }>('GET', '/api/servers/lantern-row/pantry')
      expect(packages.some(({ name }) => name === 'Moorings')).toBe(false)
      expect(existsSync(onDisk('lantern-row', 'extras/Moorings.pack'))).toBe(false)
    })
  })

  it('no page threw an error, or broke the policy', () => {
    expect(browser.errors).toEqual([])
  })
})
