import { cpSync, existsSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startApp, type RunningApp } from './app'
import { axe, fill, line, openBrowser, press, reads, readsNoMore, type OpenBrowser } from './browser'

const standin = join(dirname(fileURLToPath(import.meta.url)), '../../packages/standin/dist')
const OWNER = 'reed and clay at high tide'
const EDITOR = 'a kiln of saltfish at dusk'

/** The first minutes of an installation of one's own: nobody has an account, and there is no server. */
describe('from an empty data folder to a server and people', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let other: OpenBrowser
  let page: Page
  let invitation = ''
  const folder = (): string => join(app.folder, 'servers/lantern-row')

  beforeAll(async () => {
    app = await startApp({ own: true })
    execFileSync(process.execPath, [join(standin, 'demo.mjs'), app.folder])
    browser = await openBrowser()
    other = await openBrowser()
    page = browser.page
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await other?.close()
    await app?.stop()
  })
  const noSeriousFinding = async (at: Page = page): Promise<void> => expect(await axe(at)).toEqual([])

  it('says what to do to somebody who comes without the link', async () => {
    await page.goto(app.origin)
    await reads(page, 'Nobody has an account here yet')
    await noSeriousFinding()
    for (const path of ['/api/me', '/api/servers', '/api/people']) expect((await fetch(app.origin + path)).status).toBe(401)
  })

  it('creates the owner by the link that was printed, once', async () => {
    await page.goto('about:blank')
    await page.goto(app.link)
    await reads(page, 'Create the owner')
    await noSeriousFinding()
    await fill(page, 'Name', 'maren')
    await fill(page, 'Password', OWNER)
    await fill(page, 'Once more', OWNER + '!')
    await reads(page, 'The two differ')
    await fill(page, 'Once more', OWNER)
    await press(page, 'Create the account')
    await reads(page, 'Add a server')
    await other.page.goto(app.link)
    await reads(other.page, 'This link does not work')
    await noSeriousFinding(other.page)
  })

  it('says what is wrong with a folder, and what is in the right one', async () => {
    await fill(page, 'Folder', '/no/such/folder')
    await press(page, 'Look')
    await reads(page, 'there is no such folder on the machine')
    await fill(page, 'Folder', folder())
    await press(page, 'Look')
    await reads(page, 'What is there')
    await reads(page, 'Archive plugins')
    await reads(page, 'brackwater.yml is there')
    await reads(page, 'Purse 1.8.0')
    await reads(page, '7.2')
    await noSeriousFinding()
  })

  it('tries how it is started: a wrong command is told, and the right one passes', async () => {
    await fill(page, 'Command', 'no-such-program-here')
    await press(page, 'Try it')
    await reads(page, 'there is no program “no-such-program-here”')
    await noSeriousFinding()
    await fill(page, 'Command', `"${process.execPath}" ${join(standin, 'server.mjs')}`)
    await press(page, 'Try it')
    await reads(page, 'with 8 plugins loaded')
    await reads(page, 'It stopped when it was asked to')
    await press(page, 'Add lantern-row')
    await reads(page, 'On this server')
    await reads(page, 'Stallholder')
  })

  it('works on it as on any: starts it, and shows its settings with what is theirs', async () => {
    await page.goto(`${app.origin}/s/lantern-row/server`)
    await press(page, 'Start')
    await reads(page, 'ready, 8 plugins running')
    await page.goto(`${app.origin}/s/lantern-row/settings/extras/Purse/settings.yml`)
    await reads(page, 'Save every')
    await reads(page, '5 yours')
  })

  it('invites an editor, who comes in once by the link and may not invite', async () => {
    await page.goto(`${app.origin}/people`)
    await reads(page, 'Invite somebody')
    await press(page, 'Make a link')
    await reads(page, 'It is shown only now')
    invitation = await page.$eval('.made code', (code) => code.textContent!.trim())
    await noSeriousFinding()
    await other.page.goto('about:blank')
    await other.page.goto(invitation)
    await reads(other.page, 'maren invites you as editor')
    await fill(other.page, 'Name', 'tobiah')
    await fill(other.page, 'Password', EDITOR)
    await fill(other.page, 'Once more', EDITOR)
    await press(other.page, 'Create the account')
    await reads(other.page, 'On this server')
    const status = await other.page.evaluate(async () => (await fetch('/api/people')).status)
    expect(status).toBe(403)
    await page.reload()
    await reads(page, '2 with an account')
    expect(await page.evaluate(() => document.body.innerText)).not.toContain('Open invitations')
  })

  it('signs somebody out everywhere: the page that is open notices', async () => {
    await other.page.goto(`${app.origin}/s/lantern-row/server`)
    await reads(other.page, 'Console')
    await press(page, 'Sign out tobiah')
    await reads(page, 'tobiah is signed out everywhere')
    await reads(other.page, 'You were signed out')
    await fill(other.page, 'Name', 'tobiah')
    await fill(other.page, 'Password', 'a wrong guess')
    await press(other.page, 'Sign in')
    await reads(other.page, 'Name and password do not fit')
    await noSeriousFinding(other.page)
    await fill(other.page, 'Password', EDITOR)
    await press(other.page, 'Sign in')
    // where it was
    await readsNoMore(other.page, 'You were signed out')
    await reads(other.page, 'Say to the console')
  })

  it('keeps what was typed when the session ends: one signs in where one is, and goes on', async () => {
    const at = `${line('/bank/most')} input`
    await other.page.goto(`${app.origin}/s/lantern-row/settings/extras/Purse/settings.yml`)
    await other.page.waitForSelector(at)
    // the session ends before the draft is saved
    await other.page.evaluate(async (selector) => {
      const field = document.querySelector<HTMLInputElement>(selector)!
      field.value = '77'
      for (const name of ['input', 'change']) field.dispatchEvent(new Event(name, { bubbles: true }))
      await fetch('/api/sign-out', { method: 'POST', body: '{}', headers: { 'content-type': 'application/json' } })
    }, at)
    await reads(other.page, 'You were signed out')
    await noSeriousFinding(other.page)
    await fill(other.page, 'Password', EDITOR)
    await press(other.page, 'Sign in')
    await readsNoMore(other.page, 'You were signed out')
    await reads(other.page, '1 change in 1 file')
    expect(await other.page.$eval(at, (field) => (field as HTMLInputElement).value)).toBe('77')
    const kept = await other.page.evaluate(async () => {
      const view = (await (await fetch('/api/servers/lantern-row/file?path=extras/Purse/settings.yml')).json()) as {
        draft: { text: string }
      }
      return view.draft.text
    })
    expect(kept).toContain('most: 77')
    await press(other.page, 'Discard')
    await other.page.click('.confirm-acts .btn:not(.quiet)')
    await readsNoMore(other.page, '1 change in 1 file')
  })

  it('signs oneself out everywhere, on all devices', async () => {
    const mine = await openBrowser()
    try {
      await mine.page.goto(`${app.origin}/sign-in`)
      await fill(mine.page, 'Name', 'maren')
      await fill(mine.page, 'Password', OWNER)
      await press(mine.page, 'Sign in')
      await reads(mine.page, 'On this server')
      await mine.page.goto(`${app.origin}/account`)
      await reads(mine.page, 'Signed in')
      await noSeriousFinding(mine.page)
      await press(mine.page, 'Sign out everywhere')
      await reads(mine.page, 'Forgot it?')
      await page.goto(`${app.origin}/servers`)
      await reads(page, 'Forgot it?')
      expect(await page.evaluate(async () => (await fetch('/api/me')).status)).toBe(401)
    } finally {
      await mine.close()
    }
  })

  it('forgets a server without touching its files', async () => {
    await fill(page, 'Name', 'maren')
    await fill(page, 'Password', OWNER)
    await press(page, 'Sign in')
    await reads(page, '1 running, 0 not')
    await noSeriousFinding()
    await press(page, 'Forget lantern-row')
    await page.click('.confirm-acts .btn:not(.quiet)')
    await reads(page, 'lantern-row is running. Stop it first')
    await page.goto(`${app.origin}/s/lantern-row/server`)
    await press(page, 'Stop')
    await reads(page, 'the server is stopped'.replace('the server is ', ''))
    cpSync(folder(), join(app.folder, 'kept'), { recursive: true })
    await page.goto(`${app.origin}/servers`)
    await reads(page, '0 running, 1 not')
    await press(page, 'Forget lantern-row')
    await page.click('.confirm-acts .btn:not(.quiet)')
    await reads(page, 'No server is connected yet')
    expect(existsSync(join(folder(), 'extras/Purse/settings.yml'))).toBe(true)
    await noSeriousFinding()
  })

  it('no page threw an error, or broke the policy', () => {
    expect([...browser.errors, ...other.errors]).toEqual([])
  })
})
