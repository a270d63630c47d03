import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, textOf, type RunningApp } from './app'
import { axe, fill, openBrowser, press, pressHeld, reads, type OpenBrowser } from './browser'

const S = '/api/servers/lantern-row'
const hampers = 'extras/Hampers/settings.yml'
const stalls = 'extras/Stallholder/settings.yml'
const groups = 'extras/Wardkeys/settings.yml'

interface Answer {
  readonly findings: readonly {
    readonly file: string
    readonly line: number
    readonly code: string
    readonly severity: string
    readonly aside: unknown
  }[]
  readonly files: number
}

describe('findings', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const found = (): Promise<Answer> => ask<Answer>(app, cookie, 'GET', `${S}/findings`)
  const told = async (): Promise<string[]> =>
    (await found()).findings
      .filter(({ severity }) => severity !== 'note')
      .map(({ file, line, code }) => `${file.replace('extras/', '')}:${line} ${code}`)
  /** Drafts with mistakes in them, as somebody makes them in the source. */
  async function edit(path: string, ...changes: readonly (readonly [string, string])[]): Promise<void> {
    const view = await ask<{ text: string; sha: string; draft: { text: string; sha: string; baseSha: string } | null }>(
      app,
      cookie,
      'GET',
      `${S}/file?path=${encodeURIComponent(path)}`,
    )
    const text = changes.reduce((now, [from, to]) => now.replace(from, to), view.draft?.text ?? view.text)
    await ask(app, cookie, 'PUT', `${S}/draft`, { path, text, baseSha: view.draft?.baseSha ?? view.sha, draftSha: view.draft?.sha ?? null })
  }
  const open = async (): Promise<void> => {
    await page.goto(`${app.origin}/s/lantern-row/findings`)
    await page.waitForSelector('li[aria-current="true"]')
  }
  const inFocus = (): Promise<string> => page.$eval('li[aria-current="true"]', (item) => item.textContent!)

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

  it('of the untouched demo are exactly those that were planted', async () => {
    expect(await told()).toEqual([
      'Clayworks/settings.yml:12 number-expected',
      'Hampers/settings.yml:51 out-of-range',
      'Tideclear/settings.yml:103 out-of-range',
      'Clayworks/settings.yml:51 node-of-no-group',
      'Stallholder/settings.yml:69 node-of-no-group',
    ])
  })

  it('are none once what was planted is mended', async () => {
    await edit('extras/Clayworks/settings.yml', ['  bonus: two', '  bonus: 2'])
    await edit(hampers, ['  rows: 8', '  rows: 6'])
    await edit('extras/Tideclear/settings.yml', ['  keep-for: 120', '  keep-for: 60'])
    await edit(groups, [
      '      - wardkeys.admin\n',
      '      - wardkeys.admin\n      - clayworks.dig.kiln\n      - stallholder.stall.lamps\n',
    ])
    expect(await told()).toEqual([])
    await ask(app, cookie, 'DELETE', `${S}/tray`)
  })

  it('of one mistake in several plugins are mended together, with the keys alone, and one undo takes all back', async () => {
    await edit(hampers, ['- fired_brick 40', '- fired_brik 40'], ['- tin_bell 1', '- fired_brik 1'])
    await edit(stalls, ['icon: honeycomb', 'icon: fired_brik'])
    await edit(groups, ['inherits: [reedcutter]', 'inherits: [reedcuter]'])
    await open()
    expect(await inFocus()).toContain('There is no group reedcuter. Did you mean reedcutter?')
    expect(await axe(page)).toEqual([])
    // from finding to mended value: the next one, into the margin, mended
    await page.waitForSelector('.margin .do .btn:not([disabled])')
    await page.keyboard.press('Enter')
    await page.waitForSelector('.margin .do .btn:focus')
    await page.keyboard.press('Enter')
    await expect.poll(() => textOf(app, cookie, groups), { timeout: 8000 }).toContain('inherits: [reedcutter]')
    await reads(page, 'Mended in the draft.')
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('.')
    await reads(page, 'one undo takes all back')
    await pressHeld(page, 'Shift', 'Enter')
    await expect
      .poll(async () => (await textOf(app, cookie, hampers)) + (await textOf(app, cookie, stalls)), { timeout: 8000 })
      .not.toContain('fired_brik ')
    // whatever else ends meanwhile, as what a server that starts is told of
    const mended = (): Promise<string[]> => page.$$eval('li.mended', (all) => all.map((item) => item.textContent!.replaceAll(/\s+/g, ' ')))
    await expect.poll(async () => (await mended()).filter((item) => /fired_brik|reedcuter/.test(item)), { timeout: 20_000 }).toHaveLength(4)
    expect((await told()).join()).not.toContain('unknown-id')
    await page.keyboard.press('u')
    await expect.poll(() => textOf(app, cookie, stalls), { timeout: 8000 }).toContain('icon: fired_brik')
    await expect.poll(() => textOf(app, cookie, hampers), { timeout: 8000 }).toContain('- fired_brik 40')
  })

  it('are mended by their setting in the margin, too', async () => {
    await open()
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('li .who')].find((item) => item.closest('li')!.textContent!.includes('rows: 8'))!.click(),
    )
    await page.waitForFunction(() => document.querySelector('.margin .place')?.textContent?.includes('Rows'))
    await page.locator('.margin .place input').fill('6')
    await page.keyboard.press('Tab')
    await expect.poll(() => textOf(app, cookie, hampers), { timeout: 8000 }).toContain('  rows: 6')
    await page.waitForFunction(() => [...document.querySelectorAll('li.mended')].some((item) => item.textContent!.includes('rows')))
  })

  it('are set aside with a reason, and taken up again', async () => {
    await open()
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('li .who')].find((item) => item.closest('li')!.textContent!.includes('keep-for'))!.click(),
    )
    await reads(page, 'Set aside with a reason')
    await page.keyboard.press('x')
    await fill(page, 'Why it may stay', 'The disk is large.')
    await page.keyboard.press('Enter')
    await reads(page, '“The disk is large.” maren')
    expect((await found()).findings.filter(({ aside }) => aside).map(({ code }) => code)).toEqual(['out-of-range'])
    await press(page, 'Take up again')
    await expect.poll(async () => (await found()).findings.filter(({ aside }) => aside).length).toBe(0)
  })

  it('that are errors hold the tray until they are overruled by their name', async () => {
    await edit(groups, ['inherits: [reedcutter]', 'inherits: [reedcuter]'])
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'Errors hold this back.')
    const apply = (): Promise<boolean> => page.$eval('.tray .btn.go', (item) => (item as HTMLButtonElement).disabled)
    expect(await apply()).toBe(true)
    await press(page, 'Overrule …')
    await fill(page, 'Its name, which is unknown-group', 'unknown-group')
    await fill(page, 'Why it may be written', 'It is made in an hour.')
    expect(await axe(page)).toEqual([])
    await press(page, 'Let it through')
    await reads(page, 'let through: It is made in an hour.')
    expect(await apply()).toBe(false)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await page.waitForFunction(() => /Applied|complained/.test(document.querySelector('.state h2')?.textContent ?? ''))
    expect(await textOf(app, cookie, groups)).toContain('reedcuter')
  })

  it('answer why something does not work, question by question', async () => {
    await open()
    await page.keyboard.press('w')
    await page.waitForSelector('.why select:focus')
    await page.select('.why select[aria-label="Plugin"]', 'Clayworks')
    await page.waitForFunction(() => document.querySelectorAll('.why li').length === 9)
    await page.select('.why select[aria-label="What of it"]', 'extras/Clayworks/settings.yml#/pits/kiln')
    await reads(page, 'it asks for clayworks.dig.kiln, which no group holds')
    expect(await axe(page)).toEqual([])
    await press(page, 'Evening')
    expect(await axe(page)).toEqual([])
  })
})
