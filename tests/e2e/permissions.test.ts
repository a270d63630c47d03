import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, type RunningApp } from './app'
import { openBrowser, press, reads, type OpenBrowser } from './browser'

const GROUPS = 'extras/Wardkeys/settings.yml'

describe('permissions', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  const onServer = (path: string): string => readFileSync(join(app.folder, 'servers/lantern-row', path), 'utf8')
  const open = async (): Promise<void> => {
    await page.goto(`${app.origin}/s/lantern-row/permissions`)
    await reads(page, 'Why may')
  }
  /** Puts the focus on a node and a group, as somebody does who clicks there. */
  async function focus(node: string, group: string): Promise<void> {
    await page.waitForSelector(`[id="right-${node}"]`)
    await page.evaluate(
      (id: string, name: string) => {
        const heads = [...document.querySelectorAll('.colhead .cut')].map((head) => head.textContent)
        document.querySelectorAll<HTMLElement>(`[id="right-${id}"] .right`)[heads.indexOf(name)]!.click()
      },
      node,
      group,
    )
  }
  async function apply(): Promise<void> {
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
  }
  /** What the console says of a player's nodes. */
  async function rights(player: string): Promise<string> {
    await page.goto(`${app.origin}/s/lantern-row/server`)
    const field = await page.waitForSelector('#console-line:not(:disabled)')
    const wanted = `may: ${player}:`
    // what was said before is still there
    await page.waitForSelector('.console > div')
    const said = (await page.$$eval('.console > div', (lines) => lines.map((line) => line.textContent!))).filter((line) =>
      line.includes(wanted),
    )
    await field!.type(`may ${player}`)
    await page.keyboard.press('Enter')
    const found = await page.waitForFunction(
      (text: string, before: number) => {
        const lines = [...document.querySelectorAll('.console > div')]
          .map((line) => line.textContent!)
          .filter((line) => line.includes(text))
        return lines.length > before ? lines.at(-1)! : null
      },
      { timeout: 10_000 },
      wanted,
      said.length,
    )
    return (await found.jsonValue())!
  }

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    await ask(app, await cookieFor(app, 'maren'), 'DELETE', '/api/servers/lantern-row/tray')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('are given and taken by keys, shown with what changes for whom, and the server says so afterwards', async () => {
    await open()
    await focus('clayworks.dig.kiln', 'reedcutter')
    await reads(page, 'Why may reedcutter not dig in the kiln pit?')
    await page.keyboard.press('+')
    await reads(page, 'reedcutter is granted it')
    await focus('hampers.claim', 'mudlark')
    await page.keyboard.press('-')
    await reads(page, 'mudlark is denied it')
    await press(page, 'Try')
    await reads(page, 'may no longer')
    // brannoc is a reedcutter, and emmet had the kiln by himself
    const gained = await page.$$eval('.try > ul > li', (lines) => lines.map((line) => line.textContent!.replace(/\s+/g, ' ')))
    expect(gained.find((line) => line.startsWith('brannoc'))).toContain('may dig in the kiln pit')
    expect(gained.some((line) => line.startsWith('emmet') && line.includes('dig in the kiln'))).toBe(false)
    expect(onServer(GROUPS)).not.toContain('clayworks.dig.kiln')
    await apply()
    expect(onServer(GROUPS)).toContain('      - clayworks.dig.kiln\n')
    expect(onServer(GROUPS)).toContain('      - -hampers.claim\n')
    expect(await rights('brannoc')).toContain('clayworks.dig.kiln')
    expect(await rights('jory')).not.toContain('hampers.claim')
  })

  it('a player is shown beside the groups, and the server asked', async () => {
    await open()
    await page.select('select[aria-label="A player beside the groups"]', '77004418209365531')
    await focus('clayworks.dig.kiln', 'emmet')
    await reads(page, 'Why may emmet dig in the kiln pit?')
    await press(page, 'ask the server')
    await reads(page, 'it says: may, and so say its files')
  })

  it('a denial is found by its trace, and mended there', async () => {
    await open()
    await focus('hampers.claim', 'warden')
    await reads(page, 'Why may warden not claim hampers')
    await press(page, 'Take out mudlark’s denial')
    await page.waitForFunction(() => document.querySelector('.steps')?.textContent?.includes('mudlark: nothing said'))
    await focus('hampers.claim', 'mudlark')
    await page.keyboard.press('+')
    await reads(page, 'mudlark is granted it')
    await apply()
    expect(onServer(GROUPS)).toContain('      - hampers.claim\n')
    expect(onServer(GROUPS)).not.toContain('-hampers.claim\n      - stall')
  })

  it('what a setting opens is given from its own margin', async () => {
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Hampers/settings.yml?at=/hampers/angler/node`)
    await reads(page, 'Who may')
    await reads(page, 'ferryman, warden')
    await page.select('select[aria-label="Give it to a group"]', 'mudlark')
    await reads(page, 'mudlark, reedcutter, ferryman, warden')
    await apply()
    expect(await rights('jory')).toContain('hampers.claim.angler')
  })

  it('a group is copied with what it has', async () => {
    await open()
    await focus('hampers.claim', 'ferryman')
    await (await page.waitForSelector('#group-copy'))!.type('boatman')
    await press(page, 'copy')
    await page.waitForFunction(() => [...document.querySelectorAll('.colhead .cut')].some((head) => head.textContent === 'boatman'))
    await apply()
    expect(onServer(GROUPS)).toMatch(/ {2}boatman:\n {4}prefix: [^\n]+\n {4}weight: 20\n {4}inherits: \[reedcutter\]/)
  })
})
