import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, type RunningApp } from './app'
import { openBrowser, press, reads, type OpenBrowser } from './browser'

const GROUPS = 'extras/Wardkeys/settings.yml'
const PLAYERS = 'extras/Wardkeys/players.yml'

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
  const hasGroup = (name: string): Promise<unknown> =>
    page.waitForFunction(
      (wanted: string) => [...document.querySelectorAll('.colhead .cut')].some((head) => head.textContent === wanted),
      {},
      name,
    )
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

  it('a group is copied, renamed with all that refers to it, and its players go along by command', async () => {
    await open()
    await focus('hampers.claim', 'ferryman')
    await (await page.waitForSelector('#group-copy'))!.type('boatman')
    await press(page, 'copy')
    await hasGroup('boatman')
    await apply()
    expect(onServer(GROUPS)).toMatch(/ {2}boatman:\n {4}prefix: [^\n]+\n {4}weight: 20\n {4}inherits: \[reedcutter\]/)
    await open()
    await focus('hampers.claim', 'ferryman')
    await press(page, 'another name …')
    await reads(page, 'Refers to it')
    const field = (await page.waitForSelector('#entry-name'))!
    await field.click({ count: 3 })
    await field.type('steersman')
    await page.keyboard.press('Enter')
    await hasGroup('steersman')
    await reads(page, 'rank isolde into steersman')
    await apply()
    expect(onServer(GROUPS)).not.toMatch(/\bferryman\b/)
    expect(onServer(GROUPS)).toContain('ladder: [mudlark, reedcutter, steersman, warden]')
    expect(onServer(PLAYERS)).not.toContain('ferryman')
    expect(onServer(PLAYERS)).toContain('steersman')
    expect(await rights('isolde')).toContain('hampers.skip-pause')
  })

  it('what is one player’s alone is said to the console with its term, and taken back the same way', async () => {
    await open()
    await page.select('select[aria-label="A player beside the groups"]', '77004418209365529')
    await focus('hampers.skip-pause', 'corley')
    await reads(page, 'corley is denied it')
    await (await page.waitForSelector('input[aria-label="For how long"]'))!.type('7')
    await press(page, 'Grant it to corley +')
    await reads(page, 'corley is granted it')
    expect(onServer(PLAYERS)).toContain('-hampers.skip-pause')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, '›_ rank corley +hampers.skip-pause 7d')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'The console took the command.')
    expect(onServer(PLAYERS)).toMatch(/node: hampers\.skip-pause, until: /)
    expect(await rights('corley')).toContain('hampers.skip-pause')
    expect(await page.$$eval('.console > div', (lines) => lines.map((line) => line.textContent!).join('\n'))).toContain(
      'rank: corley is granted hampers.skip-pause until',
    )
    await page.goto(`${app.origin}/s/lantern-row/history`)
    await reads(page, 'rank corley +hampers.skip-pause 7d')
    await press(page, 'Go back to before this')
    await reads(page, 'Back to before: 1 command')
    expect(onServer(PLAYERS)).toContain('-hampers.skip-pause')
    expect(await rights('corley')).not.toContain('hampers.skip-pause')
  })

  it('who inherits is drawn from point to point, and the order of promotion by hand or by keys', async () => {
    await open()
    await page.waitForSelector('.graph .point')
    const at = async (name: string): Promise<{ x: number; y: number }> => {
      const box = (await (await page.waitForSelector(`.graph .point[aria-label^="${name} inherits"] .dot`))!.boundingBox())!
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    }
    const [from, to] = [await at('boatman'), await at('mudlark')]
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(to.x, to.y, { steps: 6 })
    await page.mouse.up()
    await page.waitForSelector('.graph .point[aria-label="boatman inherits from reedcutter, mudlark"]')
    await page.evaluate(() => document.querySelector<SVGElement>('.graph .point[aria-label^="boatman inherits"]')!.focus())
    await page.keyboard.press('Enter')
    await reads(page, 'boatman: end inheriting from mudlark?')
    await page.keyboard.press('Enter')
    await page.waitForSelector('.graph .point[aria-label="boatman inherits from reedcutter"]')
    const line = await page.waitForSelector('ol[aria-label="Order of promotion"] li:nth-child(3) button')
    await line!.focus()
    await page.keyboard.down('Alt')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.up('Alt')
    await page.waitForFunction(() =>
      document.querySelector('ol[aria-label="Order of promotion"] li:nth-child(2)')?.textContent?.includes('steersman'),
    )
    await apply()
    expect(onServer(GROUPS)).toContain('ladder: [mudlark, steersman, reedcutter, warden]')
  })

  it('of another family stand in JSON, where any denial wins and staff are written to the same file', async () => {
    const market = (path: string): string => join(app.folder, 'servers/night-market', path)
    const desk = "settings/Wardens' Desk.json"
    writeFileSync(market("scripts/Wardens' Desk.tide"), readFileSync('packages/standin/demo/scripts/wardens-desk-2.1.tide'))
    const cookie = await cookieFor(app, 'maren')
    await ask(app, cookie, 'POST', '/api/servers/night-market/console', { line: "load Wardens' Desk" })
    await page.waitForFunction(
      async () => JSON.stringify(await (await fetch('/api/servers/night-market/permissions')).json()).includes('"warden"'),
      { polling: 200 },
    )
    await page.goto(`${app.origin}/s/night-market/permissions`)
    await reads(page, 'Why may')
    await focus('desk.crews', 'warden')
    // a crew's own word does not lift what its parent denies
    await reads(page, 'Why may warden not change crews?')
    await press(page, 'Take out mate’s denial')
    await reads(page, 'Why may warden change crews?')
    await page.select('select[aria-label="A player beside the groups"]', '77004418209365544')
    await focus('desk.ask', 'jory')
    await reads(page, 'jory is denied it')
    await page.keyboard.press('0')
    await reads(page, 'Why may jory ask the desk for help?')
    await page.select('select[aria-label="Into one more group"]', 'warden')
    await reads(page, 'May')
    await page.waitForSelector('button[aria-label="out of warden"]')
    await page.goto(`${app.origin}/s/night-market/review`)
    await press(page, 'Apply to night-market Ctrl Enter')
    await reads(page, 'Applied')
    const written = JSON.parse(readFileSync(market(desk), 'utf8')) as {
      crews: Record<string, { permissions: Record<string, boolean> }>
      staff: Record<string, unknown>
    }
    expect(written.crews['mate']!.permissions).toEqual({ 'desk.open': true, 'desk.move': true })
    expect(written.staff['77004418209365544']).toEqual({ name: 'jory', crews: ['hand', 'warden'], permissions: {} })
    await page.goto(`${app.origin}/s/night-market/permissions`)
    await reads(page, 'Why may')
    await page.select('select[aria-label="A player beside the groups"]', '77004418209365544')
    await focus('desk.crews', 'jory')
    await press(page, 'ask the server')
    await reads(page, 'it says: may, and so say its files')
  })
})
