import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, until, type RunningApp } from './app'
import { openBrowser, press, reads, type OpenBrowser } from './browser'

/** Servers of other families, through the interface: from an empty server to plugins that do what was set. */
describe('servers of every family', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const call = <T = unknown>(method: string, path: string, body?: unknown): Promise<T> => ask<T>(app, cookie, method, path, body)
  const add = (slug: string, familyId: string): Promise<unknown> =>
    call('POST', '/api/servers', {
      slug,
      folder: join(app.folder, 'servers', slug),
      familyId,
      command: [process.execPath, join(process.cwd(), 'packages/standin/dist/server.mjs')],
      tried: null,
      untried: true,
    })
  const read = (slug: string, path: string): string => readFileSync(join(app.folder, 'servers', slug, path), 'utf8')
  const upload = async (slug: string, ...files: string[]): Promise<void> => {
    await page.goto(`${app.origin}/s/${slug}/plugins`)
    await reads(page, 'Add to the pantry')
    const picker = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>
    await picker.uploadFile(...files)
    await reads(page, files.length === 1 ? 'Plan installing it' : `Plan installing all ${files.length}`)
  }
  const fromSite = (name: string): string => join(app.folder, 'site', name)
  /** What a player reads who says something. */
  const asked = async (slug: string, command: string, expected: string): Promise<void> => {
    await call('POST', `/api/servers/${slug}/console`, { line: command })
    await page.goto(`${app.origin}/s/${slug}/server`)
    await reads(page, expected)
  }
  const edit = async (slug: string, path: string, from: string, to: string): Promise<void> => {
    const view = (await call('GET', `/api/servers/${slug}/file?path=${encodeURIComponent(path)}`)) as { text: string; sha: string }
    await call('PUT', `/api/servers/${slug}/draft`, { path, text: view.text.replace(from, to), baseSha: view.sha, draftSha: null })
    await page.goto(`${app.origin}/s/${slug}/review`)
    await press(page, `Apply to ${slug} Ctrl Enter`)
    await reads(page, 'Applied: 1 change')
  }

  beforeAll(async () => {
    app = await startApp({ bare: true })
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
    await add('night-market', 'script')
    await add('ferry-trials', 'bundle')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('scripts: two at once, with what loads them switched on', async () => {
    await upload('night-market', fromSite('satchels-1.3.tide'), fromSite('wardens-desk-2.0.tide'))
    await press(page, 'Plan installing all 2', 'link')
    await reads(page, 'Loading scripts is switched off')
    await press(page, 'switch it on')
    await reads(page, 'Switch on what loads plugins')
    await reads(page, 'nothing stands against it')
    await press(page, 'Install and start Ctrl Enter')
    await reads(page, 'are loaded.')
    await asked('night-market', 'as isolde satchel clay', '32 clay fit one slot')
    await edit('night-market', 'settings/Satchels.json', '"clay": 32', '"clay": 40')
    await asked('night-market', 'as isolde satchel clay', '40 clay fit one slot')
  })

  it('scripts: what is left to people is ticked off, and one is switched off', async () => {
    await page.goto(`${app.origin}/s/night-market/plugins/${encodeURIComponent("Wardens' Desk")}`)
    await reads(page, 'Grant desk.open to your wardens')
    await (await page.waitForSelector('input[type="checkbox"]'))!.click()
    await reads(page, 'done by maren')
    await press(page, 'Switch off')
    await reads(page, 'switched off')
    expect(existsSync(join(app.folder, "servers/night-market/scripts/off/Wardens' Desk.tide"))).toBe(true)
  })

  it('bundles: into a folder of one’s own choice, with lines, entries and files where they belong', async () => {
    await upload('ferry-trials', ...['ferrybook-1.0.zip', 'regatta-1.5.zip', 'lookouts-2.1.zip'].map(fromSite))
    await page.goto(`${app.origin}/s/ferry-trials/plugins`)
    await press(page, 'Lookouts 2.1.0 install')
    await reads(page, 'because Lookouts needs it')
    await press(page, 'switch it on')
    await reads(page, 'Switch on what loads plugins')
    const folder = (await page.waitForSelector('#folder-Lookouts'))!
    await folder.click({ count: 3 })
    await folder.type('regatta')
    await reads(page, 'bundles/regatta is the folder of Regatta')
    await folder.click({ count: 3 })
    await folder.type('glasses')
    await reads(page, 'berth glasses')
    await reads(page, 'Fetch a picture key')
    await press(page, 'Install and start Ctrl Enter')
    await reads(page, 'are loaded.')
    expect(read('ferry-trials', 'harbour.cfg')).toMatch(/set bundles on\nberth ferrybook\nberth regatta\nberth glasses\n$/)
    expect(read('ferry-trials', 'bundles/ferrybook/items.lua')).toContain('lookout_mast')
    await edit('ferry-trials', 'bundles/glasses/settings.lua', 'title = "The mole"', 'title = "The pier"')
    await asked('ferry-trials', 'as isolde lookout', 'mole: The pier, fair')
  })

  it('bundles: removed again, settings and all', async () => {
    await page.goto(`${app.origin}/s/ferry-trials/plugins/Lookouts`)
    await reads(page, 'Screens that show')
    await press(page, 'Remove')
    await reads(page, 'Files that go')
    await (await page.waitForSelector('::-p-text(Take them out, too)'))!.click()
    await press(page, 'Remove it')
    await press(page, 'Take it out')
    await until(async () => !existsSync(join(app.folder, 'servers/ferry-trials/bundles/glasses/settings.lua')))
    await until(async () => !read('ferry-trials', 'harbour.cfg').includes('glasses'))
    await until(async () => !read('ferry-trials', 'bundles/ferrybook/items.lua').includes('lookout_mast'))
  })

  it('a package of another family is told by its name, and hostile notes do nothing', async () => {
    await page.goto(`${app.origin}/s/ferry-trials/plugins`)
    await reads(page, 'Add to the pantry')
    const picker = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>
    await picker.uploadFile(fromSite('purse-1.8.pack'))
    await reads(page, 'it looks like a package for archive servers')
    const file = join(app.folder, 'notes.zip')
    const readme = '# Notes\n\n<img src=x onerror="document.title=1"><script>document.title=2</script>[go](javascript:alert(1)) **bold**'
    writeFileSync(file, zipSync({ 'bundle.lua': strToU8('return { name = "Notes", version = "1.0" }'), 'README.md': strToU8(readme) }))
    await upload('ferry-trials', file)
    await press(page, 'Plan installing it', 'link')
    await press(page, 'Read me')
    await reads(page, 'bold')
    const html = await page.evaluate(() => document.querySelector('.prose')!.innerHTML)
    for (const bad of ['onerror', '<script', 'javascript:', '<img']) expect(html).not.toContain(bad)
    expect(html).toContain('<strong>bold</strong>')
  })

  it('a family is changed at its line, tried, and never while a server runs by it', async () => {
    await page.goto(`${app.origin}/families/bundle`)
    await reads(page, 'Made known')
    await press(page, 'Look')
    await reads(page, '2 plugins found')
    await page.evaluate(() => document.querySelector<HTMLElement>('.cm-content')!.focus())
    await page.keyboard.down('Control')
    await page.keyboard.press('End')
    await page.keyboard.up('Control')
    await page.keyboard.type('\nstrange: 1')
    await reads(page, 'strange is no part of a description')
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.keyboard.type('# ours')
    await press(page, 'Save')
    await reads(page, 'ferry-trials is running by this description')
  })

  it('no page threw an error, or broke the policy', () => {
    expect(browser.errors).toEqual([])
  })
})
