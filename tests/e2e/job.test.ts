import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { linkFor, startApp, type RunningApp } from './app'
import { line, openBrowser, press, reads, readsNoMore, setTo, type OpenBrowser } from './browser'

/** The whole job, as an administrator does it, on a real process and real files. */
describe('from an empty pantry to an update that loses nothing', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  const settings = (): string => readFileSync(join(app.folder, 'servers/lantern-row/extras/Hampers/settings.yml'), 'utf8')

  /** What the game server answers a player who types a command: said to its console, read from its console. */
  async function asPlayer(player: string, command: string, expected: RegExp): Promise<string> {
    await page.goto(`${app.origin}/s/lantern-row/server`)
    const field = await page.waitForSelector('#console-line:not(:disabled)')
    await field!.type(`as ${player} ${command}`)
    await page.keyboard.press('Enter')
    const found = await page.waitForFunction(
      (source: string) => {
        const lines = [...document.querySelectorAll('.console > div')].map((item) => (item as HTMLElement).innerText)
        return lines.reverse().find((text) => new RegExp(source).test(text))
      },
      { timeout: 10_000 },
      expected.source,
    )
    return (await found.jsonValue()) as string
  }
  const openSheet = async (): Promise<void> => {
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Hampers/settings.yml`)
    await reads(page, 'Save every')
  }
  const set = (pointer: string, text: string): Promise<void> => setTo(page, pointer, text)

  beforeAll(async () => {
    app = await startApp({ bare: true })
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('1: refuses what is no package, and says what to do', async () => {
    const picker = await page.waitForSelector('input[type="file"]')
    const wrong = join(app.folder, 'Broken.pack')
    writeFileSync(wrong, 'not an archive')
    await picker!.uploadFile(wrong)
    await reads(page, 'Broken.pack is no package for this server')
  })

  it('1: takes a package by upload and by link, and says what installing will do', async () => {
    const picker = await page.waitForSelector('input[type="file"]')
    await picker!.uploadFile(join(app.folder, 'site/hampers-2.4.pack'))
    await reads(page, 'In the pantry now')
    await press(page, 'Plan installing it', 'link')
    // what it needs is at the plugin site, and fetched so that its files are in the plan
    await reads(page, 'because Hampers needs it')
    await reads(page, 'extras/Purse.pack')
    await press(page, 'Plugins 1', 'link')
    await press(page, 'Hampers 3.0.0 to the pantry')
    await reads(page, 'Plan installing it')
    await press(page, 'Hampers 2.4.0 install')
    await reads(page, 'extras/Purse.pack')
    await reads(page, 'extras/Hampers.pack')
    await reads(page, 'game 7.2')
    await reads(page, 'Restart lantern-row and read the console')
    // the newer build is shown beside it
    await reads(page, '3.0.0')
  })

  it('1, 2: installs it, restarts, reads the console, and keeps the factory copy', async () => {
    await press(page, 'Install and restart Ctrl Enter')
    await reads(page, 'Purse, Hampers are loaded.')
    expect(existsSync(join(app.folder, 'servers/lantern-row/extras/Hampers/settings.yml'))).toBe(true)
    expect(settings().split('\n').length).toBeGreaterThan(150)
    await openSheet()
    await page.waitForSelector('::-p-text(0 yours)')
    expect(await asPlayer('wenna', 'hamper claim kilnkeeper', /It cost/)).toContain('It cost 50 marks. You have 200 marks left.')
  })

  it('3: edits in the sheet, marks what is mine, and finds mistakes while typing', async () => {
    await openSheet()
    await set('/general/save-every', '120')
    await set('/claiming/pause', '2')
    await set('/hampers/kilnkeeper/price', 'soon')
    await reads(page, '“price” takes a number')
    await set('/hampers/kilnkeeper/price', '35')
    await readsNoMore(page, '“price” takes a number')
    await set('/hampers/mudlark/price', '90')
    await set('/claiming/message', '[amber]{player}[/] opens the [b]{hamper}[/b].')
    await (await page.waitForSelector(`${line('/general/log-claims')} input[type="checkbox"]`))!.click()
    await (await page.waitForSelector(`${line('/claiming/on-full')} [role="combobox"]`))!.click()
    await press(page, 'drop', 'option')
    const more = await page.waitForSelector('::-p-aria([name="Add to Aliases"])')
    await more!.type('kist')
    await page.keyboard.press('Enter')
    await reads(page, '8 yours')
  })

  it('3: duplicates a hamper under a new name and takes one out', async () => {
    await (await page.waitForSelector(`${line('/hampers/kilnkeeper')} h2`))!.click()
    await page.keyboard.press('d')
    const name = await page.waitForSelector('.naming input')
    await name!.click({ count: 3 })
    await name!.type('ropewalk')
    await page.keyboard.press('Enter')
    await page.waitForSelector(line('/hampers/ropewalk/price'))
    await (await page.waitForSelector(`${line('/hampers/angler')} h2`))!.click()
    await press(page, 'Remove')
    // ferrymen may claim it, which is said first
    await reads(page, 'hampers.claim.angler')
    await press(page, 'Take it out all the same')
    await reads(page, 'you took it out')
    await reads(page, '10 changes in 1 file')
  })

  it('3: the source view shows the same draft, and names the true line of a mistake', async () => {
    await press(page, 'Source')
    await page.waitForSelector('.cm-content')
    await page.evaluate(() => (document.querySelector('.cm-content') as HTMLElement).focus())
    await page.keyboard.down('Control')
    await page.keyboard.press('Home')
    await page.keyboard.up('Control')
    await reads(page, 'save-every: 120')
    const slip = 'broken "line\n'
    await page.keyboard.type(slip)
    await press(page, 'Sheet')
    await reads(page, 'Line 1')
    await reads(page, 'This line has no colon after its name')
    await page.click('h1')
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    for (const _letter of slip) await page.keyboard.press('u')
    await readsNoMore(page, 'This line has no colon after its name')
  })

  it('4: reviews, applies, and the server does what was set', async () => {
    await openSheet()
    await reads(page, '10 changes in 1 file')
    await page.click('h1')
    await page.keyboard.down('Control')
    await page.keyboard.press('Enter')
    await page.keyboard.up('Control')
    await reads(page, 'nothing is written yet')
    await page.waitForSelector('.diff .add')
    expect(settings()).toContain('save-every: 300')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied: 10 changes in Hampers')
    expect(settings()).toContain('save-every: 120')
    expect(await asPlayer('tobiah', 'hamper claim kilnkeeper', /tobiah reads: It cost/)).toContain(
      'It cost 35 marks. You have 215 marks left.',
    )
    expect(await asPlayer('tobiah', 'kist', /ropewalk/)).toContain('ropewalk')
  })

  it('4: shows a complaint of the server at its line, and goes back with one action', async () => {
    await openSheet()
    await set('/claiming/command', '/hampers')
    await set('/general/menu-title', 'A title that is far too long for the list of hampers')
    await reads(page, '2 changes in 1 file')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'The server complained')
    await page.click('::-p-text(Show line)')
    await reads(page, 'The server says: general.menu-title has 52 letters, more than 32')
    await press(page, 'Go back to before')
    await readsNoMore(page, 'The server complained')
    await reads(page, '2 changes in 1 file')
    expect(settings()).not.toContain('far too long')
    await press(page, 'Discard')
    await reads(page, 'Discard all of it?')
    await page.click('.confirm-acts .btn:not(.quiet)')
    await readsNoMore(page, '2 changes in 1 file')
  })

  /** Somebody else, with the same file open, keeps a draft of it. */
  const another = (from: string, to: string): Promise<number> =>
    page.evaluate(
      async (what, into) => {
        const path = 'extras/Hampers/settings.yml'
        const view = (await (await fetch(`/api/servers/lantern-row/file?path=${path}`)).json()) as { text: string; sha: string }
        const text = view.text.replace(what, into)
        const body = JSON.stringify({ path, text, baseSha: view.sha, draftSha: null })
        const headers = { 'content-type': 'application/json' }
        return (await fetch('/api/servers/lantern-row/draft', { method: 'PUT', body, headers })).status
      },
      from,
      to,
    )
  /** Waits until the draft of the file has it: what is on its way yet is made of the file as it stands when it comes. */
  const isKept = async (text: string): Promise<void> => {
    const has = async (wanted: string): Promise<boolean> => {
      const view = await (await fetch('/api/servers/lantern-row/file?path=extras/Hampers/settings.yml')).json()
      return (view as { draft: { text: string } | null }).draft?.text.includes(wanted) ?? false
    }
    await page.waitForFunction(has, { polling: 100 }, text)
  }
  const discardAll = async (): Promise<void> => {
    await press(page, 'Discard')
    await page.click('.confirm-acts .btn:not(.quiet)')
  }
  const saveEvery = (): string => /save-every: \d+/.exec(settings())![0]

  it('4: what two people change in one file comes together, where it is not the same', async () => {
    await openSheet()
    expect(await another('waiting: 6', 'waiting: 8')).toBe(200)
    await set('/general/save-every', '77')
    await reads(page, 'changed extras/Hampers/settings.yml too')
    await reads(page, '2 changes in 1 file')
    await discardAll()
    await readsNoMore(page, '2 changes in 1 file')
  })

  it('4: where it is the same, each sees both sides, and nothing is lost', async () => {
    await openSheet()
    expect(await another(saveEvery(), 'save-every: 55')).toBe(200)
    await set('/general/save-every', '77')
    await reads(page, 'changed this file while you did')
    await press(page, 'Show the difference')
    await reads(page, 'save-every: 55')
    await reads(page, 'save-every: 77')
    await press(page, 'Go on with theirs')
    await readsNoMore(page, 'changed this file while you did')
    await page.keyboard.press('u')
    await page.waitForFunction(
      (at: string) => document.querySelector<HTMLInputElement>(`${at} input`)?.value === '77',
      {},
      line('/general/save-every'),
    )
    await discardAll()
    await readsNoMore(page, '1 change in 1 file')
  })

  it('4: a file that changed on the server meanwhile is not overwritten', async () => {
    const path = join(app.folder, 'servers/lantern-row/extras/Hampers/settings.yml')
    const before = settings()
    await openSheet()
    await set('/claiming/loudness', '0.4')
    await isKept('loudness: 0.4')
    writeFileSync(path, before.replace('waiting: 6', 'waiting: 9'))
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'was changed on the server since this draft was begun')
    expect(settings()).toContain('waiting: 9')
    await press(page, 'Bring both together')
    await readsNoMore(page, 'was changed on the server since this draft was begun')
    // changed back there, which is a change as well
    writeFileSync(path, before)
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Bring both together')
    await readsNoMore(page, 'was changed on the server since this draft was begun')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied: 1 change in Hampers')
  })

  it('5: plans the update before anything is touched, and waits for decisions', async () => {
    const before = settings()
    await page.goto(`${app.origin}/s/lantern-row/updates`)
    await reads(page, 'Needs your decision')
    await reads(page, 'storage.save-every')
    await reads(page, 'it was in seconds and is now in ticks'.replace('it', 'It'))
    expect(await page.$eval('.tray .btn.go', (button) => (button as HTMLButtonElement).disabled)).toBe(true)
    expect(settings()).toBe(before)
    await page.click('::-p-text(keep the clear ones as shown)')
    for (let i = 0; i < 12; i++) {
      const open = await page.waitForFunction(
        () => /(\d+) decisions? open|every decision is made/.exec(document.querySelector('#page-tray')?.textContent ?? '')?.[0],
      )
      const text = (await open.jsonValue()) as string
      if (text.startsWith('every')) break
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await page.keyboard.press('.')
      await page.keyboard.press('Enter')
      await page.waitForFunction(
        (was: string) => !(document.querySelector('#page-tray')?.textContent ?? '').includes(was),
        { timeout: 10_000 },
        text,
      )
    }
    await reads(page, 'every decision is made')
  }, 60_000)

  it('5: applies it, and the server still does what was set', async () => {
    await press(page, 'Apply the update Ctrl Enter')
    await reads(page, 'Updated, and the server took it')
    const text = settings()
    expect(text).toContain('pause-ticks: 40')
    expect(text).toContain('claim-log: true')
    expect(text).toContain('other-names: [bundle, kist]')
    expect(text).toMatch(/kilnkeeper:[^]*?price: 35/)
    expect(text).toContain('ropewalk:')
    expect(text).not.toContain('angler:')
    expect(await asPlayer('corley', 'hamper claim kilnkeeper', /corley reads: It cost/)).toContain('It cost 36 marks')
    expect(await asPlayer('corley', 'hamper', /ropewalk/)).toContain('ropewalk')
    expect(
      execFileSync('unzip', ['-p', join(app.folder, 'servers/lantern-row/extras/Hampers.pack'), 'pack.yml'], { encoding: 'utf8' }),
    ).toContain('version: 3.0.0')
  })

  it('5: History shows both and can go back', async () => {
    await page.goto(`${app.origin}/s/lantern-row/history`)
    await reads(page, 'Update Hampers 2.4.0 to 3.0.0')
    await reads(page, 'Install Hampers 2.4.0')
    await press(page, 'Go back to before this')
    await reads(page, 'Back to before: Update Hampers')
    expect(settings()).toContain('save-every: 120')
    expect(settings()).toContain('pause: 2')
    expect(await asPlayer('nessa', 'hamper claim kilnkeeper', /nessa reads: It cost/)).toContain('It cost 35 marks')
  })

  it('lets a viewer look and not change', async () => {
    await page.goto(linkFor(app, 'isolde'))
    await reads(page, 'viewer')
    await openSheet()
    await reads(page, 'You may look at the settings')
    const status = await page.evaluate(
      async () =>
        (
          await fetch('/api/servers/lantern-row/control', {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: '{"action":"stop"}',
          })
        ).status,
    )
    expect(status).toBe(403)
  })

  it('no page threw an error', () => {
    expect(browser.errors).toEqual([])
  })
})
