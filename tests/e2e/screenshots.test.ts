import { cpSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, it } from 'vitest'
import { startApp, type RunningApp } from './app'
import { fill, line, openBrowser, press, reads, type OpenBrowser } from './browser'

const standin = join(dirname(fileURLToPath(import.meta.url)), '../../packages/standin/dist')
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
    await page.goto(`${app.origin}/servers`)
    await page.waitForFunction(() => document.querySelectorAll('.js-plotly-plot path.js-line').length >= 6)
    for (let i = 0; i < 3; i++) await page.keyboard.press(']')
    await reads(page, 'and before c')
    await shoot('servers')
    await page.goto(`${app.origin}/sites`)
    await press(page, 'Lookouts 2.2.0 look')
    await reads(page, 'Pictures may be taken')
    await shoot('sites')
    await page.goto(`${app.origin}/s/lantern-row/plugins`)
    await reads(page, 'At the plugin site')
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
    await press(page, 'Errands 1.0.3 to the pantry')
    await reads(page, 'In the pantry now')
    await page.evaluate(() => document.querySelector('.scroll')?.scrollTo(0, 0))
    await page.mouse.move(600, 60)
    await shoot('plugins')
    await press(page, 'Plan installing it', 'link')
    await press(page, 'Install and restart Ctrl Enter')
    await reads(page, 'Errands is loaded.')
    const picker = async (slug: string, file: string): Promise<void> => {
      await page.goto(`${app.origin}/s/${slug}/plugins`)
      await reads(page, 'Add to the pantry')
      await ((await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>).uploadFile(
        join(app.folder, 'site', file),
      )
      await press(page, 'Plan installing it', 'link')
    }
    await picker('ferry-trials', 'lookouts-2.1.zip')
    await reads(page, 'Only you can do these')
    await page.mouse.move(600, 60)
    await shoot('install')
    await picker('night-market', 'wardens-desk-2.0.tide')
    await press(page, 'Install and load Ctrl Enter')
    await reads(page, 'is loaded.')
    await press(page, 'About it', 'link')
    await reads(page, 'Grant desk.open')
    await shoot('plugin')
    await page.goto(`${app.origin}/families/bundle`)
    await reads(page, 'Made known')
    await press(page, 'Look')
    await reads(page, 'plugins found')
    await shoot('family')
    await sheet()
    await set('/claiming/keep-for', '14')
    await set('/hampers/kilnkeeper/cooldown', 'soon')
    await set('/claiming/message', '[amber]{player}[/] opens the [b]{hamper}[/b].')
    await page.evaluate(() => document.querySelector('.scroll')?.scrollTo(0, 0))
    await page.click(`${line('/claiming/message')} .lb`)
    await reads(page, '2 errors')
    await shoot('settings')
    await press(page, 'Evening')
    await shoot('settings-evening')
    await press(page, 'Evening')
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
    await page.goto(`${app.origin}/s/lantern-row/updates/Hampers`)
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
    await reads(page, 'About this server')
    await shoot('server')
    const folder = join(app.folder, 'servers/low-bank')
    cpSync(join(app.folder, 'servers/lantern-row'), folder, { recursive: true })
    rmSync(join(folder, 'extras/Purse/settings.yml'))
    writeFileSync(join(folder, 'extras/Signboard/our-own.yml'), 'lines: []\n')
    await page.goto(`${app.origin}/servers/new`)
    await fill(page, 'Folder', folder)
    await press(page, 'Look')
    await fill(page, 'Command', `${process.execPath} ${join(standin, 'server.mjs')}`)
    await press(page, 'Try it')
    await reads(page, 'It stopped when it was asked to')
    await shoot('add-server')
    await page.goto(`${app.origin}/people`)
    await press(page, 'Make a link')
    await reads(page, 'It is shown only now')
    await shoot('people')
    await page.goto(`${app.origin}/storage`)
    await reads(page, 'on the disk')
    await shoot('storage')
  }, 180_000)
})
