import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, textOf, type RunningApp } from './app'
import { line, openBrowser, reads, type OpenBrowser } from './browser'

const HAMPERS = 'extras/Hampers/settings.yml'

/** Pages are left while what was typed last is still being worked out, or on its way. */
describe('a page that is left at once', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const at = (path: string): string => `${app.origin}/s/lantern-row/${path}`
  /** Changes a field and goes elsewhere before anything else can happen. */
  const typeAndLeave = async (field: string, value: string, to: string): Promise<void> => {
    await page.waitForSelector(field)
    const gone = page.waitForNavigation()
    await page.evaluate(
      (selector, text, url) => {
        const input = document.querySelector<HTMLInputElement>(selector)!
        input.focus()
        input.value = text
        input.dispatchEvent(new Event('input', { bubbles: true }))
        input.dispatchEvent(new Event('change', { bubbles: true }))
        location.assign(url)
      },
      field,
      value,
      to,
    )
    await gone
  }

  beforeAll(async () => {
    app = await startApp()
    cookie = await cookieFor(app, 'maren')
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

  it('keeps what was typed last, and shows it where one went', async () => {
    for (const minutes of ['701', '702', '703']) {
      await page.goto(at(`settings/${HAMPERS}`))
      await reads(page, 'Save every')
      await typeAndLeave(`${line('/hampers/kilnkeeper/cooldown')} input`, minutes, at('review'))
      await reads(page, minutes)
      expect(await textOf(app, cookie, HAMPERS)).toContain(`cooldown: ${minutes}`)
    }
  })

  it('does it once, whatever page is opened next, and however often', async () => {
    await page.goto(at('economy?view=prices'))
    await reads(page, 'item')
    await typeAndLeave('[aria-label="What players buy clay for at Stallholder"]', '9', `${app.origin}/`)
    // a page that is about no server leaves it to the next that is
    await page.goto(at('history'))
    await expect.poll(() => textOf(app, cookie, 'extras/Stallholder/prices.yml'), { timeout: 20_000 }).toContain('  clay: 9\n')
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
    await page.goto(at('review'))
    await reads(page, 'Nothing')
    expect(await ask(app, cookie, 'GET', '/api/servers/lantern-row/tray')).toEqual([])
  })
})
