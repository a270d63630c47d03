import { cpSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, it } from 'vitest'
import { ask, cookieFor, startApp, type RunningApp } from './app'
import { installWharfside } from './demo-packs'
import { shootSurfaces } from './surfaces-picture'
import { fill, line, openBrowser, press, reads, setTo, type OpenBrowser } from './browser'

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
    await page.goto(`${app.origin}/s/lantern-row/plugins`)
    await reads(page, 'At the plugin site')
    const set = (pointer: string, text: string): Promise<void> => setTo(page, pointer, text)
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
    await picker('lantern-row', 'nightfair-1.3.pack')
    await press(page, 'Install and restart Ctrl Enter')
    await reads(page, 'Nightfair is loaded.')
    await page.evaluate(() => localStorage.setItem('pasticcio-zone', 'Europe/Paris'))
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Nightfair/settings.yml`)
    await set('/fair/last-call', '1800')
    await set('/prizes/chances/eel', '60')
    await page.locator(`${line('/prizes/main')} [role="combobox"]`).click()
    await page.keyboard.type('rope')
    await page.waitForSelector('[role="option"][aria-selected="true"]')
    await shoot('controls')
    await page.keyboard.press('Escape')
    await page.evaluate(() => localStorage.removeItem('pasticcio-zone'))
    await sheet()
    await set('/claiming/keep-for', '14')
    await set('/hampers/kilnkeeper/cooldown', 'soon')
    await set('/claiming/message', '[amber]{player}[/] opens the [b]{hamper}[/b].')
    await page.evaluate(() => document.querySelector('.scroll')?.scrollTo(0, 0))
    await page.click(`${line('/claiming/message')} .lb`)
    await reads(page, 'takes a number')
    // the margin has what was typed to its end
    await reads(page, 'opens the [b]{hamper}[/b].')
    await shoot('settings')
    await page.click(`${line('/claiming/keep-for')} .lb`)
    await press(page, 'say what it is')
    await page.waitForSelector('.margin-note form, aside form, .note form')
    await press(page, 'never mind')
    await press(page, 'Side by side')
    await page.waitForSelector('.cm-content')
    await press(page, 'Sheet')
    await set('/claiming/loudness', '0.4')
    // the last edit must reach the server although the page is left at once
    await set('/hampers/kilnkeeper/cooldown', '720')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'nothing is written yet')
    await page.waitForFunction(() => document.querySelectorAll('.diff').length === 3)
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
    await installWharfside(app, await cookieFor(app, 'maren'))
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Wharfside/goods/quay.yml?table=/goods&over=files`)
    await page.waitForSelector('[role="grid"]:focus .td')
    await reads(page, 'as clay: 8')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.type('16')
    await page.keyboard.press('Enter')
    await page.keyboard.down('Shift')
    for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowDown')
    await page.keyboard.up('Shift')
    await page.keyboard.press('*')
    await page.waitForSelector('form.reckoning input:focus')
    await page.keyboard.type('1.2')
    await reads(page, 'follow their category and stay')
    await shoot('ledger')
    await undoAll(app)
    await plant(app)
    await page.goto(`${app.origin}/s/lantern-row/messages`)
    await reads(page, 'When somebody joins')
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.book .line')]
        .find((item) => item.textContent!.includes('Night market tonight'))!
        .click(),
    )
    await page.waitForSelector('.margin textarea')
    await shoot('messages')
    await press(page, 'Languages')
    await reads(page, 'the others follow it')
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.cell')].find((cell) => cell.textContent!.includes('Eins nach dem anderen'))!.click(),
    )
    await shoot('languages')
    await shootSurfaces(app, page, join(target, 'surfaces.png'))
    await page.goto(`${app.origin}/s/lantern-row/permissions?node=hampers.skip-pause`)
    await reads(page, 'Why may')
    await page.waitForSelector('.graph')
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.colhead')].find((head) => head.textContent!.includes('ferryman'))!.click(),
    )
    await (await page.waitForSelector('#group-copy'))!.type('lamplight')
    await press(page, 'copy')
    await page.waitForSelector('.point[aria-label^="lamplight"]')
    await page.select('select[aria-label="A player beside the groups"]', '77004418209365529')
    await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[id="right-hampers.skip-pause"] .right')].at(-1)!.click())
    await reads(page, 'Why may corley not')
    await (await page.waitForSelector('input[aria-label="For how long"]'))!.type('7')
    await press(page, 'Grant it to corley +')
    await page.waitForFunction(() => document.querySelector('.right .said')?.textContent === '›_7d')
    await reads(page, 'rank corley +hampers.skip-pause 7d')
    await shoot('permissions')
    await page.goto(`${app.origin}/s/lantern-row/economy`)
    await reads(page, 'from seed')
    const look = (title: string): Promise<void> =>
      page.evaluate(
        (wanted: string) =>
          [...document.querySelectorAll<HTMLElement>('.flow .label')].find((label) => label.textContent!.includes(wanted))!.click(),
        title,
      )
    await look('Payouts')
    await (await page.waitForSelector('[aria-label="How much: Run ferry"]'))!.click({ count: 3 })
    await page.keyboard.type('5')
    await page.keyboard.press('Tab')
    await reads(page, 'in the draft')
    await look('Payouts')
    await page.waitForFunction(() => document.querySelectorAll('.lived thead th').length === 3 && !document.querySelector('.lived .stale'))
    await shoot('economy')
    await page.goto(`${app.origin}/s/lantern-row/findings`)
    await reads(page, 'There is no group')
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('li .who')]
        .find((item) => item.closest('li')!.textContent!.includes('fired_brik 40'))!
        .click(),
    )
    await reads(page, 'one undo takes all back')
    await page.waitForSelector('.margin .place')
    await shoot('findings')
  }, 180_000)
})

const S = '/api/servers/lantern-row'

/** Takes everything out of the tray. */
async function undoAll(app: RunningApp): Promise<void> {
  await ask(app, await cookieFor(app, 'maren'), 'DELETE', `${S}/tray`)
}

/** Mistakes as people make them, in drafts of four plugins. */
async function plant(app: RunningApp): Promise<void> {
  const cookie = await cookieFor(app, 'maren')
  const changes: Readonly<Record<string, readonly (readonly [string, string])[]>> = {
    'extras/Hampers/settings.yml': [
      ['- fired_brick 40', '- fired_brik 40'],
      ['- tin_bell 1', '- fired_brik 1'],
    ],
    'extras/Stallholder/settings.yml': [['icon: honeycomb', 'icon: fired_brik']],
    'extras/Clayworks/settings.yml': [['fired_brick: 25', 'fired_brik: 25']],
    'extras/Signboard/settings.yml': [['refresh: 40', 'refresh: 2']],
    'extras/Wardkeys/settings.yml': [
      ['inherits: [reedcutter]', 'inherits: [reedcuter]'],
      ['      - purse.look\n', '      - purse.look\n      - purse.admin\n'],
    ],
  }
  for (const [path, list] of Object.entries(changes)) {
    const view = await ask<{ text: string; sha: string }>(app, cookie, 'GET', `${S}/file?path=${encodeURIComponent(path)}`)
    const text = list.reduce((now, [from, to]) => now.replace(from, to), view.text)
    await ask(app, cookie, 'PUT', `${S}/draft`, { path, text, baseSha: view.sha, draftSha: null })
  }
}
