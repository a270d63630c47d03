import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startApp, type RunningApp } from './app'
import { openBrowser, press, reads, readsNoMore, setTo, type OpenBrowser } from './browser'

/** The tour of docs/guide.md, step by step, on the demo as it is lived in. */
describe('the tour of the guide', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  const extras = (path: string): string => join(app.folder, 'servers/lantern-row/extras', path)
  const read = (path: string): string => readFileSync(extras(path), 'utf8')
  const go = (path: string): Promise<unknown> => page.goto(`${app.origin}/s/lantern-row/${path}`)
  const set = (pointer: string, text: string): Promise<void> => setTo(page, pointer, text)
  const asPlayer = async (command: string, expected: string): Promise<void> => {
    await go('server')
    const field = await page.waitForSelector('#console-line:not(:disabled)')
    await field!.type(`as wenna ${command}`)
    await page.keyboard.press('Enter')
    await reads(page, `wenna reads: ${expected}`)
  }

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('0: the link opens a server that is lived in', async () => {
    await page.goto(app.link)
    for (const name of ['Clayworks', 'Gangway', 'Hampers', 'Purse', 'Signboard', 'Stallholder', 'Tideclear', 'Wardkeys'])
      await reads(page, name)
    await reads(page, '2.0.0 in the pantry')
    await reads(page, '3.0.0 in the pantry')
    await reads(page, '2.2.0 in the pantry')
    await reads(page, 'At the plugin site')
    await reads(page, '2 changes in 1 file')
    await go('history')
    await reads(page, 'taken back')
    await reads(page, 'tobiah')
  })

  it('1: install Errands from the plugin site', async () => {
    await go('plugins')
    await press(page, 'Errands 1.0.3 to the pantry')
    await press(page, 'Plan installing it', 'link')
    await reads(page, 'extras/Errands.pack')
    await press(page, 'Install and restart Ctrl Enter')
    await reads(page, 'Errands is loaded.')
    expect(existsSync(extras('Errands/settings.yml'))).toBe(true)
    await asPlayer('errand', 'Errands')
  })

  it('2: edit it', async () => {
    await go('settings/extras/Errands/settings.yml')
    await set('/rules/title', '[amber]Errands of the Row[/]')
    await set('/errands/eel-run/marks', '60')
    await reads(page, '4 changes in 2 files')
    await reads(page, '2 yours')
  })

  it('3: mend what is found in Clayworks and Tideclear', async () => {
    await go('settings/extras/Clayworks/settings.yml')
    await reads(page, '“bonus” takes a number')
    await set('/pits-in-common/bonus', '2')
    await readsNoMore(page, '“bonus” takes a number')
    await go('settings/extras/Tideclear/settings.yml')
    await reads(page, 'the author says at most 90')
    await set('/log/keep-for', '90')
    await readsNoMore(page, 'the author says at most 90')
    await reads(page, '6 changes in 4 files')
  })

  it('4: review and apply all of it', async () => {
    await go('review')
    await reads(page, 'nothing is written yet')
    expect(read('Errands/settings.yml')).toContain('marks: 45')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied: 6 changes')
    await readsNoMore(page, 'nothing is written yet')
    expect(read('Errands/settings.yml')).toContain('marks: 60')
    expect(read('Clayworks/settings.yml')).toContain('bonus: 2\n')
    await asPlayer('errand', 'Errands of the Row')
  })

  it('5: update Gangway: two decisions, one look, nothing lost', async () => {
    await go('updates/Gangway')
    await reads(page, '2 decisions open')
    await reads(page, 'Worth a look')
    for (const open of ['2 decisions open', '1 decision open']) {
      await reads(page, open)
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await page.keyboard.press('.')
      await page.keyboard.press('Enter')
      await readsNoMore(page, open)
    }
    await reads(page, 'every decision is made')
    await press(page, 'Apply the update Ctrl Enter')
    await reads(page, 'Updated, and the server took it')
    const text = read('Gangway/settings.yml')
    expect(text).toContain('protected-ticks: 6000')
    expect(text).toContain('loudness: 0.3')
    expect(text).toMatch(/notes:\n(\s+- .*\n)*\s+- "Ask a warden for a berth\."/)
    expect(text).toContain('The lanterns are lit.')
    expect(text).toContain('quiet:')
    await asPlayer('gangway', 'The tide turns at delta.')
  })

  it('5: update Stallholder, which holds for nothing', async () => {
    await go('updates/Stallholder')
    await reads(page, 'every decision is made')
    await press(page, 'Apply the update Ctrl Enter')
    await reads(page, 'Updated, and the server took it')
    expect(read('Stallholder/settings.yml')).toContain('round-prices-to: 5')
    expect(read('Stallholder/settings.yml')).toContain("Wenna's hives")
    expect(read('Stallholder/prices.yml')).toContain('  lantern: 20\n')
    expect(read('Stallholder/prices.yml')).toContain('  signal_lamp: 64\n'.replace('64', '80'))
  })

  it('6: go back to before it', async () => {
    await go('history')
    await reads(page, 'Update Stallholder 2.1.0 to 2.2.0')
    await press(page, 'Go back to before this')
    await reads(page, 'Back to before: Update Stallholder')
    expect(read('Stallholder/settings.yml')).toContain('round-to: 5')
    await asPlayer('stall', 'Night market on the Row')
  })

  it('no page threw an error, or broke the policy', () => {
    expect(browser.errors).toEqual([])
  })
})
