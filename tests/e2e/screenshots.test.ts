import { mkdirSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, describe, it } from 'vitest'
import { startApp, type RunningApp } from './app'
import { line, openBrowser, press, reads, type OpenBrowser } from './browser'

const target = join(dirname(fileURLToPath(import.meta.url)), '../../docs/screenshots')

/** Takes the pictures of docs/screenshots/ anew, from the demo world: `npm run screenshots`. */
describe.runIf(process.env['SCREENSHOTS'])('screenshots', () => {
  let app: RunningApp
  let browser: OpenBrowser
  const shoot = async (name: string): Promise<void> => {
    await browser.page.evaluate(() => document.fonts.ready)
    await browser.page.screenshot({ path: join(target, `${name}.png`) as `${string}.png` })
  }
  beforeAll(async () => {
    mkdirSync(target, { recursive: true })
    app = await startApp()
    browser = await openBrowser()
    await browser.page.goto(app.link)
    await reads(browser.page, 'At the plugin site')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('all main views', async () => {
    const { page } = browser
    const set = async (pointer: string, text: string): Promise<void> => {
      const field = await page.waitForSelector(`${line(pointer)} input`)
      await field!.click({ count: 3 })
      await page.keyboard.type(text)
      await page.keyboard.press('Tab')
    }
    const sheet = async (): Promise<void> => {
      await page.goto(`${app.origin}/s/lantern-row/settings/extras/Hampers/settings.yml`)
      await reads(page, 'Save every')
    }
    await press(page, 'Purse 1.8.0 to the pantry')
    await reads(page, 'Purse 1.8.0 to')
    await press(page, 'Hampers 2.4.0 to the pantry')
    await reads(page, 'because Hampers needs it')
    await shoot('plugins')
    await press(page, 'Install and restart')
    await reads(page, 'Hampers 2.4.0 is loaded.')
    await sheet()
    await set('/general/save-every', '120')
    await set('/general/menu-title', '[b]Hampers[/b] on the Row')
    await set('/claiming/sound', 'tin_bell.soft')
    await set('/claiming/pause', '2')
    await set('/claiming/tax', '0.05')
    await set('/hampers/kilnkeeper/price', '35')
    await set('/hampers/mudlark/price', '90')
    await (await page.waitForSelector(`${line('/claiming/on-full')} [role="combobox"]`))!.click()
    await press(page, 'drop', 'option')
    await reads(page, '8 changes in 1 file')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'nothing is written yet')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied: 8 changes')
    await page.goto(`${app.origin}/s/lantern-row/plugins`)
    await press(page, 'Hampers 3.0.0 to the pantry')
    await reads(page, 'Plan the update')
    await sheet()
    await set('/claiming/keep-for', '14')
    await set('/hampers/kilnkeeper/cooldown', 'soon')
    await set('/claiming/message', '[amber]{player}[/] opens the [b]{hamper}[/b].')
    await page.evaluate(() => document.querySelector('.scroll')?.scrollTo(0, 0))
    await page.click(`${line('/claiming/message')} .lb`)
    await reads(page, '1 error')
    await shoot('settings')
    await press(page, 'Evening')
    await shoot('settings-evening')
    await press(page, 'Day')
    await press(page, 'Side by side')
    await page.waitForSelector('.cm-content')
    await shoot('side-by-side')
    await press(page, 'Sheet')
    await set('/claiming/loudness', '0.4')
    // the last edit must reach the server although the page is left at once
    await set('/hampers/kilnkeeper/cooldown', '720')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'nothing is written yet')
    await shoot('review')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
    await page.goto(`${app.origin}/s/lantern-row/updates`)
    await reads(page, 'Needs your decision')
    await page.keyboard.press('j')
    await page.keyboard.press('j')
    await shoot('update')
    await sheet()
    await set('/general/menu-title', 'A title that is far too long for the list of hampers')
    await reads(page, '1 change in 1 file')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'The server complained')
    await page.click('::-p-text(Show line)')
    await reads(page, 'The server says')
    await shoot('complaint')
    await press(page, 'Go back to before')
    await page.goto(`${app.origin}/s/lantern-row/history`)
    await reads(page, 'Steps')
    await shoot('history')
    await page.goto(`${app.origin}/s/lantern-row/server`)
    await reads(page, 'sign-in link')
    await shoot('server')
  }, 180_000)
})
