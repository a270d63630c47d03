import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { linkFor, startApp, type RunningApp } from './app'
import { axe, line, openBrowser, press, reads, type OpenBrowser } from './browser'

const S = '/s/lantern-row'
const HAMPERS = `${S}/settings/extras/Hampers/settings.yml`

/** A page in one of its states: where it is, what is to be read there first, and what is done to get there. */
interface State {
  readonly name: string
  readonly path: string
  readonly reads: string
  readonly then?: (page: Page) => Promise<unknown>
}
const key = (name: string) => (page: Page) => page.keyboard.press(name as 'j')

const STATES: readonly State[] = [
  { name: 'plugins', path: `${S}/plugins`, reads: 'At the plugin site' },
  {
    name: 'plugins, what installing does',
    path: `${S}/plugins`,
    reads: 'At the plugin site',
    then: async (page) => {
      await press(page, 'Errands 1.0.3 install')
      await reads(page, 'Put in its place')
    },
  },
  { name: 'one plugin', path: `${S}/plugins/Hampers`, reads: 'Switched on' },
  {
    name: 'one plugin, removing it',
    path: `${S}/plugins/Purse`,
    reads: 'Switched on',
    then: async (page) => {
      await press(page, 'Remove')
      await reads(page, 'Files that go')
    },
  },
  { name: 'findings', path: `${S}/findings`, reads: 'A permission that shuts everyone out' },
  { name: 'messages', path: `${S}/messages`, reads: 'When somebody joins' },
  {
    name: 'messages, replacing words',
    path: `${S}/messages`,
    reads: 'When somebody joins',
    then: async (page) => {
      await press(page, 'Replace')
      await (await page.waitForSelector('#replace-words'))!.type('tide')
      await reads(page, 'Change')
    },
  },
  {
    name: 'messages in languages',
    path: `${S}/messages`,
    reads: 'When somebody joins',
    then: async (page) => {
      await press(page, 'Languages')
      await reads(page, 'the others follow it')
    },
  },
  {
    name: 'messages, one more language',
    path: `${S}/messages`,
    reads: 'When somebody joins',
    then: async (page) => {
      await press(page, 'Languages')
      await press(page, 'add a language …')
      await reads(page, 'begins as a copy of')
    },
  },
  {
    name: 'messages, a picture',
    path: `${S}/messages`,
    reads: 'Pictures and books',
    then: async (page) => {
      await page.evaluate(() => document.querySelector<HTMLElement>('.spine button:has(img)')!.click())
      await reads(page, 'put another in its place')
    },
  },
  {
    name: 'messages, a book',
    path: `${S}/messages`,
    reads: 'Pictures and books',
    then: async (page) => {
      await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('.spine .plugins button')].at(-1)!.click())
      await reads(page, 'page 1 of')
    },
  },
  { name: 'permissions', path: `${S}/permissions`, reads: 'Why may' },
  {
    name: 'permissions, a player with a command that waits',
    path: `${S}/permissions`,
    reads: 'Why may',
    then: async (page) => {
      await press(page, 'Players')
      await page.waitForSelector('.who')
      await page.evaluate(() => document.querySelector<HTMLElement>('tbody tr:nth-child(3) .who')!.click())
      await reads(page, 'Grant it to isolde')
      await (await page.waitForSelector('#pasted-ids'))!.type('77004418209365561\n7700')
      await reads(page, 'and ids have 17')
    },
  },
  {
    name: 'permissions, what asks for no node',
    path: `${S}/permissions`,
    reads: 'Why may',
    then: async (page) => {
      await page.evaluate(() => document.querySelector<HTMLElement>('.also button')!.click())
      await reads(page, 'so everyone may')
    },
  },
  {
    name: 'permissions, two compared',
    path: `${S}/permissions`,
    reads: 'Why may',
    then: async (page) => {
      await press(page, 'Compare')
      await reads(page, 'difference')
    },
  },
  {
    name: 'economy, what is looked at',
    path: `${S}/economy`,
    reads: 'from seed',
    then: async (page) => {
      await page.evaluate(() => document.querySelector<HTMLElement>('.flow .label')!.click())
      await reads(page, 'all of it')
    },
  },
  {
    name: 'economy, as a table, with other kinds of players',
    path: `${S}/economy`,
    reads: 'from seed',
    then: async (page) => {
      await press(page, 'Table')
      await press(page, 'other kinds of players')
      await reads(page, 'Stays in purses')
    },
  },
  {
    name: 'economy, prices that are reckoned with',
    path: `${S}/economy`,
    reads: 'from seed',
    then: async (page) => {
      await press(page, '× 1.2, round to 5 …')
      await reads(page, 'Put in the tray')
    },
  },
  {
    name: 'economy, chances',
    path: `${S}/economy`,
    reads: 'from seed',
    then: async (page) => {
      await press(page, 'Chances 3')
      await reads(page, 'times an hour')
    },
  },
  {
    name: 'economy, goals',
    path: `${S}/economy`,
    reads: 'from seed',
    then: async (page) => {
      await press(page, 'Goals 2')
      await reads(page, 'A first day')
    },
  },
  { name: 'families', path: '/families', reads: 'as it came' },
  { name: 'a family', path: '/families/bundle', reads: 'Made known' },
  { name: 'storage', path: '/storage', reads: 'on the disk' },
  { name: 'sheet', path: HAMPERS, reads: 'Save every' },
  { name: 'sheet, an entry in focus', path: `${HAMPERS}?at=/hampers/kilnkeeper`, reads: 'Duplicate' },
  { name: 'sheet, a finding in focus', path: `${HAMPERS}?at=/menu/rows`, reads: 'the author says at most 6' },
  {
    name: 'sheet, only mine',
    path: HAMPERS,
    reads: 'Save every',
    then: async (page) => {
      await (await page.waitForSelector('::-p-aria([name="Only mine"])'))!.click()
      await page.waitForFunction(() => !document.body.innerText.includes('Ask first'))
    },
  },
  {
    name: 'sheet without its margin',
    path: HAMPERS,
    reads: 'Save every',
    then: key('m'),
  },
  {
    name: 'source',
    path: HAMPERS,
    reads: 'Save every',
    then: async (page) => {
      await press(page, 'Source')
      await page.waitForSelector('.cm-content')
    },
  },
  {
    name: 'side by side',
    path: HAMPERS,
    reads: 'Save every',
    then: async (page) => {
      await press(page, 'Side by side')
      await page.waitForSelector('.cm-content')
    },
  },
  { name: 'a properties file', path: `${S}/settings/extras/Hampers/texts.properties`, reads: 'claim.pause' },
  { name: 'a file of many settings', path: `${S}/settings/extras/Stallholder/prices.yml`, reads: 'Fired brick' },
  { name: 'a file that is not there', path: `${S}/settings/extras/Hampers/none.yml`, reads: 'This file cannot be shown' },
  { name: 'a file with a slip', path: `${S}/settings/extras/Purse/broken.yml`, reads: 'Line 2' },
  { name: 'a plugin without settings', path: `${S}/settings?plugin=Bare`, reads: 'has no settings file' },
  { name: 'review', path: `${S}/review`, reads: 'nothing is written yet' },
  {
    name: 'discarding',
    path: `${S}/plugins`,
    reads: '2 changes in 1 file',
    then: async (page) => {
      await press(page, 'Discard')
      await reads(page, 'Discard all of it?')
    },
  },
  { name: 'plan of an update', path: `${S}/updates/Hampers`, reads: 'Needs your decision' },
  {
    name: 'files of an update',
    path: `${S}/updates/Hampers`,
    reads: 'Needs your decision',
    then: async (page) => {
      await press(page, 'Files 4')
      await reads(page, 'today and after')
    },
  },
  {
    name: 'changelog of an update',
    path: `${S}/updates/Hampers`,
    reads: 'Needs your decision',
    then: async (page) => {
      await press(page, 'Changelog')
      await reads(page, 'on-full is gone')
    },
  },
  { name: 'history', path: `${S}/history`, reads: 'Steps' },
  { name: 'server', path: `${S}/server`, reads: 'Say to the console' },
  {
    name: 'all keys',
    path: `${S}/server`,
    reads: 'Say to the console',
    then: async (page) => {
      await page.keyboard.press('?')
      await reads(page, 'All keys')
    },
  },
  {
    name: 'finding a setting',
    path: `${S}/server`,
    reads: 'Say to the console',
    then: async (page) => {
      await page.keyboard.press('/')
      await page.waitForSelector('.find-in')
      await page.keyboard.type('price')
      await page.waitForSelector('[role="option"]')
    },
  },
  {
    name: 'the menu of the account',
    path: `${S}/server`,
    reads: 'Say to the console',
    then: async (page) => {
      await page.click('.who')
      await page.waitForSelector('[role="menuitem"]')
    },
  },
  {
    name: 'the menu of servers',
    path: `${S}/server`,
    reads: 'Say to the console',
    then: async (page) => {
      await page.click('.switch')
      await page.waitForSelector('[role="menuitem"]')
    },
  },
  { name: 'a server that is not there', path: '/s/no-such-row/plugins', reads: 'There is no server no-such-row' },
  { name: 'servers', path: '/servers', reads: 'What did it cost us?' },
  { name: 'plugin sites', path: '/sites', reads: 'Lookouts' },
  { name: 'adding a server', path: '/servers/new', reads: 'The full path' },
  { name: 'people', path: '/people', reads: '3 with an account' },
  { name: 'account', path: '/account', reads: 'Signed in' },
]

describe('every page and state, as axe-core sees it', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  beforeAll(async () => {
    app = await startApp()
    const purse = join(app.folder, 'servers/lantern-row/extras/Purse')
    mkdirSync(purse, { recursive: true })
    writeFileSync(join(purse, 'broken.yml'), 'a: 1\nb: "no end\nc: 2\n')
    const bare = zipSync({ 'pack.yml': strToU8('name: Bare\nversion: 1.0.0\n') })
    writeFileSync(join(app.folder, 'servers/lantern-row/extras/Bare.pack'), bare)
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await press(page, 'Errands 1.0.3 to the pantry')
    await reads(page, 'In the pantry now')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  for (const theme of ['', 'evening'])
    it.each(STATES)(`$name${theme ? ' by evening' : ''}`, async ({ path, reads: first, then }) => {
      await page.evaluate((value) => localStorage.setItem('pasticcio-theme', value), theme)
      await page.goto(app.origin + path)
      await reads(page, first)
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await then?.(page)
      expect(await axe(page)).toEqual([])
    })

  it('two people on one file', async () => {
    await page.goto(`${app.origin}${HAMPERS}`)
    await reads(page, 'Save every')
    const status = await page.evaluate(async () => {
      const path = 'extras/Hampers/settings.yml'
      const view = (await (await fetch(`/api/servers/lantern-row/file?path=${path}`)).json()) as { text: string; sha: string }
      const text = view.text.replace(/save-every: .*/, 'save-every: 55')
      const body = JSON.stringify({ path, text, baseSha: view.sha, draftSha: null })
      return (await fetch('/api/servers/lantern-row/draft', { method: 'PUT', body, headers: { 'content-type': 'application/json' } }))
        .status
    })
    expect(status).toBe(200)
    await (await page.waitForSelector(`${line('/general/save-every')} input`))!.click({ count: 3 })
    await page.keyboard.type('77')
    await page.keyboard.press('Tab')
    await press(page, 'Show the difference')
    expect(await axe(page)).toEqual([])
    await press(page, 'Go on with theirs')
  })

  it('what a viewer sees', async () => {
    await page.goto(linkFor(app, 'isolde'))
    await reads(page, 'On this server')
    await page.goto(`${app.origin}${HAMPERS}`)
    await reads(page, 'You may look at the settings')
    expect(await axe(page)).toEqual([])
  })

  it('no page threw an error, or broke the policy', () => {
    expect(browser.errors).toEqual([])
  })
})
