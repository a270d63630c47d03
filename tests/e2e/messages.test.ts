import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, textOf, type RunningApp } from './app'
import { axe, openBrowser, press, reads, type OpenBrowser } from './browser'

interface Shown {
  readonly messages: readonly { readonly file: string; readonly pointer: string; readonly texts: readonly string[] }[]
}

describe('messages', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const onServer = (path: string, server = 'lantern-row'): string => readFileSync(join(app.folder, 'servers', server, path), 'utf8')
  const open = async (server = 'lantern-row'): Promise<void> => {
    await page.goto(`${app.origin}/s/${server}/messages`)
    await page.waitForSelector('.book .line')
  }
  /** Finds a text by its words, and writes another over it. */
  async function write(words: string, text: string): Promise<void> {
    const search = await page.waitForSelector('input[type="search"]')
    await search!.click({ count: 3 })
    await page.keyboard.type(words)
    await page.waitForFunction(
      (wanted: string) => [...document.querySelectorAll('.book .line')].every((line) => line.textContent!.includes(wanted)),
      {},
      words,
    )
    await (await page.waitForSelector('.book .line'))!.click()
    await page.waitForFunction(
      (wanted: string) => document.querySelector<HTMLTextAreaElement>('.margin textarea')?.value.includes(wanted),
      {},
      words,
    )
    const field = await page.waitForSelector('.margin textarea')
    await field!.click({ count: 3 })
    await page.keyboard.type(text)
    await page.waitForFunction(
      (wanted: string) => document.querySelector('.margin .reading')?.textContent?.includes(wanted),
      {},
      text
        .replace(/\[[^\]]*\]|<[^>]*>/g, '')
        .split(/%?\{/)[0]!
        .trim(),
    )
    // it is in the draft before somebody goes on
    await page.waitForFunction(
      (wanted: string) => document.querySelector('.tray')?.textContent?.includes('change') && wanted !== '',
      {},
      text,
    )
  }
  /** Waits until the console tells a player something who types a command. */
  async function tells(server: string, command: string, wanted: string): Promise<void> {
    await page.goto(`${app.origin}/s/${server}/server`)
    const field = await page.waitForSelector('#console-line:not(:disabled)')
    await field!.type(`as nessa ${command}`)
    await page.keyboard.press('Enter')
    await page.waitForFunction(
      (text: string) => [...document.querySelectorAll('.console > div')].some((line) => line.textContent!.includes(text)),
      { timeout: 10_000 },
      wanted,
    )
  }

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

  it('of three plugins in two formats are written in one place, and go to the server through one tray', async () => {
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
    await open()
    expect(await axe(page)).toEqual([])
    await write('There is no hamper', '[amber]Nobody packs {hamper}[/] here.')
    await write('goes with the tide', '{player} leaves with the ebb.')
    await write('are on the banks', '{players} walk the banks')
    const drafts = ['extras/Hampers/texts.properties', 'extras/Gangway/settings.yml', 'extras/Signboard/settings.yml']
    const wanted = ['claim.none=[amber]Nobody packs {hamper}[/] here.', 'leaves with the ebb.', 'walk the banks']
    for (const [i, path] of drafts.entries()) {
      await page.waitForFunction(
        async (address: string, text: string) => JSON.stringify(await (await fetch(address)).json()).includes(text),
        { polling: 200 },
        `/api/servers/lantern-row/file?path=${encodeURIComponent(path)}`,
        JSON.stringify(wanted[i]).slice(1, -1),
      )
      expect(onServer(path)).not.toContain(wanted[i])
    }
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'in 3 files')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
    for (const [i, path] of drafts.entries()) expect(onServer(path)).toContain(wanted[i])
    // what was to be seen is what the server tells
    await tells('lantern-row', 'hamper claim ghost', 'Nobody packs ghost here.')
  })

  it('of another family are written in its own codes', async () => {
    await open('night-market')
    const { messages } = await ask<Shown>(app, cookie, 'GET', '/api/servers/night-market/messages')
    const [first] = messages.filter(({ texts }) => texts.some((text) => text.includes('%{player}')))
    await write('%{player}', 'Well met, %{player}.')
    await page.waitForSelector('.margin [aria-label="<amber>"]')
    await (await page.waitForSelector('.margin textarea'))!.click({ count: 3 })
    await press(page, '<amber>')
    await page.waitForFunction(
      async (address: string) => JSON.stringify(await (await fetch(address)).json()).includes('<amber>Well met, %{player}.</>'),
      { polling: 200 },
      `/api/servers/night-market/file?path=${encodeURIComponent(first!.file)}`,
    )
    expect(await textOf(app, cookie, first!.file, 'night-market')).toContain('<amber>Well met, %{player}.</>')
  })

  it('hold words that are changed in all of them after a look, with one undo', async () => {
    await open()
    await press(page, 'Replace')
    await (await page.waitForSelector('#replace-words'))!.type('tide')
    await (await page.waitForSelector('#replace-by'))!.type('water')
    await page.waitForSelector('.hits li')
    const count = await page.$$eval('.hits li', (hits) => hits.length)
    expect(count).toBeGreaterThan(3)
    await press(page, `Change ${count} texts`)
    await reads(page, 'in the tray now')
    const texts = async (): Promise<string> =>
      JSON.stringify((await ask<Shown>(app, cookie, 'GET', '/api/servers/lantern-row/messages')).messages.flatMap((one) => one.texts))
    const changed = await texts()
    expect(changed).toContain('The water clears the banks')
    // names of placeholders are no words
    expect(changed).toContain('{tide}')
    await press(page, 'take it back')
    await page.waitForFunction(
      async () => JSON.stringify(await (await fetch('/api/servers/lantern-row/messages')).json()).includes('The tide clears the banks'),
      { polling: 200 },
    )
  })

  it('stand in languages side by side: one is added from another, written, taken in as a table, and applied', async () => {
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
    await open()
    await press(page, 'Languages')
    await press(page, 'add a language …')
    await (await page.waitForSelector('#language-code'))!.type('fr')
    await press(page, 'Add it to the tray')
    await page.waitForFunction(() => [...document.querySelectorAll('thead th')].some((one) => one.textContent!.trim().startsWith('fr')))
    // what it begins with is the text of the language it comes from
    await reads(page, 'not translated')
    await page.waitForSelector('.cell')
    await page.evaluate(() => {
      const rows = [...document.querySelectorAll('tbody tr')]
      const at = [...document.querySelectorAll('thead th')].findIndex((one) => one.textContent!.trim().startsWith('fr'))
      const row = rows.find((one) => one.textContent!.includes('claim.closed'))!
      ;(row.children[at]!.querySelector('.cell') as HTMLElement).click()
    })
    // both languages say the same still: the margin must be that of the new one
    await page.waitForFunction(
      () =>
        document.querySelector('.margin')?.textContent?.includes('texts_fr') &&
        document.querySelector<HTMLTextAreaElement>('.margin textarea')?.value.includes('Nobody opens'),
    )
    await (await page.waitForSelector('.margin textarea'))!.click({ count: 3 })
    await page.keyboard.type('Personne ne les ouvre ici.')
    const path = 'extras/Hampers/texts_fr.properties'
    const inDraft = (text: string): Promise<unknown> =>
      page.waitForFunction(
        async (address: string, wanted: string) => JSON.stringify(await (await fetch(address)).json()).includes(wanted),
        { polling: 200 },
        `/api/servers/lantern-row/file?path=${encodeURIComponent(path)}`,
        text,
      )
    await inDraft('claim.closed=Personne ne les ouvre ici.')
    const table = join(app.folder, 'languages.csv')
    writeFileSync(table, 'text,fr\n/claim.done,"{hamper} est ouvert."\n')
    await ((await page.$('.languages input[type="file"]')) as ElementHandle<HTMLInputElement>).uploadFile(table)
    await press(page, 'Take in 1 text')
    await inDraft('claim.done={hamper} est ouvert.')
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await reads(page, 'in 1 file')
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
    const written = onServer(path)
    expect(written).toContain('claim.closed=Personne ne les ouvre ici.\n')
    expect(written).toContain('claim.done={hamper} est ouvert.\n')
    expect(written.split('\n').length).toBe(onServer('extras/Hampers/texts.properties').split('\n').length)
  })

  it('a book is written page by page as a player turns it, and lies on the server once it is applied', async () => {
    await open()
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.spine button')].find((one) => one.textContent!.includes('book.txt'))!.click(),
    )
    await reads(page, 'page 1 of 1')
    const field = await page.waitForSelector('.margin textarea')
    await field!.focus()
    await page.keyboard.down('Control')
    await page.keyboard.press('End')
    await page.keyboard.up('Control')
    await page.keyboard.type('Lamps are lit at dusk, and put out with the first ferry. '.repeat(6))
    await reads(page, 'page 1 of 2')
    const text = await field!.evaluate((one) => (one as HTMLTextAreaElement).value)
    await page.waitForFunction(
      async (wanted: string) =>
        JSON.stringify(await (await fetch('/api/servers/lantern-row/messages')).json()).includes(JSON.stringify(wanted)),
      { polling: 200 },
      text,
    )
    await page.goto(`${app.origin}/s/lantern-row/review`)
    await press(page, 'Apply to lantern-row Ctrl Enter')
    await reads(page, 'Applied')
    expect(onServer('extras/Gangway/book.txt')).toBe(text)
  })
})
