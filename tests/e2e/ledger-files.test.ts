import { parse } from 'yaml'
import type { KeyInput, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ask, cookieFor, startApp, textOf, until, type RunningApp } from './app'
import { axe, choose, openBrowser, pasteText, press, pressHeld, reads, type OpenBrowser } from './browser'
import { installWharfside } from './demo-packs'

interface Good {
  readonly category: string
  readonly buy?: number
  readonly stock?: number
}
const WHARVES = ['ferry', 'kiln', 'night', 'quay', 'salt', 'upriver'] as const
const folder = 'extras/Wharfside'
const pathOf = (wharf: string): string => `${folder}/goods/${wharf}.yml`

describe('a ledger over files and records', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const fileOf = (path: string, server?: string): Promise<string> => textOf(app, cookie, path, server)
  const goodsOf = async (wharf: string): Promise<Record<string, Good>> =>
    (parse(await fileOf(pathOf(wharf))) as { goods: Record<string, Good> }).goods
  const all = (): Promise<string[]> => Promise.all(WHARVES.map((wharf) => fileOf(pathOf(wharf))))
  const keys = async (...pressed: readonly KeyInput[]): Promise<void> => {
    for (const key of pressed) await page.keyboard.press(key)
  }
  const cells = (selector: string): Promise<string[]> =>
    page.$$eval(selector, (found) => found.map((cell) => cell.textContent!.replaceAll(/\s+/g, ' ').trim()))

  beforeAll(async () => {
    app = await startApp()
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    cookie = await cookieFor(app, 'maren')
    await installWharfside(app, cookie)
    await page.goto(`${app.origin}/s/lantern-row/settings/${pathOf('quay')}`)
    await press(page, 'Ledger')
    await page.waitForSelector('[role="grid"]:focus .td')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('has the goods of all six wharves in one, and what the categories say above them', async () => {
    await choose(page, 'What the ledger shows', 'goods in all 6 files here')
    const goods = await Promise.all(WHARVES.map(goodsOf))
    const count = goods.reduce((sum, one) => sum + Object.keys(one).length, 0)
    expect(count).toBeGreaterThan(420)
    await reads(page, `${count} of ${count}`)
    const { categories } = parse(await fileOf(`${folder}/settings.yml`)) as { categories: Record<string, { buy: number; stock: number }> }
    await reads(page, 'clay for')
    // the first rows are those of the first file; one that says no price has that of its category
    const [first, ...others] = Object.entries(goods[0]!)
    const [id, good] = [first!, ...others].find(([, one]) => one.buy === undefined)!
    const row = await page.$$eval(
      '.tr',
      (rows, name) => rows.find((one) => one.querySelector('.id')?.textContent === name)?.textContent,
      id,
    )
    expect(row).toContain(`as ${good.category}: ${categories[good.category]!.buy}`)
    expect(await axe(page)).toEqual([])
    await page.evaluate(() => (document.documentElement.dataset['theme'] = 'evening'))
    expect(await axe(page)).toEqual([])
    await page.evaluate(() => (document.documentElement.dataset['theme'] = 'day'))
  })

  it('takes 37 rows from a spreadsheet, three of them with unknown ids, into the files they belong to', async () => {
    const before = await all()
    const goods = await Promise.all(WHARVES.map(goodsOf))
    // one place each: what stands at two wharves is told by its file
    const places = goods.flatMap((one, at) => Object.keys(one).map((id) => ({ id, at })))
    const alone = places.filter(({ id }) => places.filter((other) => other.id === id).length === 1)
    const twice = places.filter(({ id }) => places.filter((other) => other.id === id).length === 2).slice(0, 4)
    const picked = [...alone.slice(0, 300).filter((_one, i) => i % 10 === 0), ...twice]
    expect(picked).toHaveLength(34)
    const unknown = ['lampoill', 'rope_coli', 'zzzzzzzzzzz']
    const lines = [...picked.map(({ id, at }, i) => [id, WHARVES[at]!, String(1001 + i)]), ...unknown.map((id) => [id, 'quay', '1'])]
    await page.focus('[role="grid"]')
    await pasteText(page, ['id\tfile\tbuy', ...lines.map((line) => line.join('\t'))].join('\n'))
    await reads(page, '37 rows read')
    await reads(page, '34 matched by id, 3 unknown ids')
    expect(await all()).toEqual(before)
    await press(page, 'Put 34 new values in the tray')
    for (const [i, { id, at }] of picked.entries())
      await expect.poll(async () => (await goodsOf(WHARVES[at]!))[id]?.buy, { timeout: 8000 }).toBe(1001 + i)
    // whatever was not named is as it was
    const changed = (await all()).map((text, at) => text.split('\n').filter((one) => !before[at]!.split('\n').includes(one)))
    expect(changed.flat().every((one) => /^ {4}buy: 10[0-3]\d$/.test(one))).toBe(true)
    await page.focus('[role="grid"]')
    await pressHeld(page, 'Control', 'z')
    await expect.poll(all, { timeout: 8000 }).toEqual(before)
  })

  it('reckons with a column over several files, with what follows a category only when asked', async () => {
    const before = await all()
    await choose(page, 'Which of them', 'kiln')
    await page.focus('[role="grid"]')
    await pressHeld(page, 'Control', 'Home')
    const heads = await cells('[role="columnheader"] code')
    const defaults = (await page.$$('.tr.default')).length
    for (let i = 0; i < defaults; i++) await keys('ArrowDown')
    for (let i = 0; i < heads.indexOf('buy') - heads.indexOf('category'); i++) await keys('ArrowRight')
    await pressHeld(page, 'Shift', ...Array<KeyInput>(11).fill('ArrowDown'))
    const ids = (await cells('.tr:has(.td.picked) .id')).slice(0, 12)
    const goods = await goodsOf('kiln')
    await keys('*')
    await page.waitForSelector('form.reckoning input:focus')
    await page.keyboard.type('1.5')
    const follow = ids.filter((id) => goods[id]!.buy === undefined).length
    const said = ids.filter((id) => goods[id]!.buy === -1).length
    await reads(page, `${counted(ids.length - follow - said, 'change')}; ${follow} follow their category and stay`)
    expect(await axe(page)).toEqual([])
    await keys('Enter')
    const expected = (id: string): number | undefined => {
      const { buy } = goods[id]!
      return buy === undefined || buy === -1 ? buy : buy * 1.5
    }
    const shown = async (): Promise<(number | undefined)[]> => {
      const now = await goodsOf('kiln')
      return ids.map((id) => now[id]!.buy)
    }
    await expect.poll(shown, { timeout: 8000 }).toEqual(ids.map(expected))
    await pressHeld(page, 'Control', 'z')
    await expect.poll(all, { timeout: 8000 }).toEqual(before)
  })

  it('changes what a category says, and shows it in all that follow it', async () => {
    await choose(page, 'Which of them', 'all of them')
    await page.focus('[role="grid"]')
    await pressHeld(page, 'Control', 'Home')
    const heads = await cells('[role="columnheader"] code')
    for (let i = 0; i < heads.indexOf('buy') - heads.indexOf('category'); i++) await keys('ArrowRight')
    const [category] = await cells('.tr.on .id')
    const name = category!.split(' ')[0]!
    await page.keyboard.type('77')
    await keys('Enter')
    await expect
      .poll(
        async () =>
          (parse(await fileOf(`${folder}/settings.yml`)) as { categories: Record<string, { buy: number }> }).categories[name]!.buy,
        {
          timeout: 8000,
        },
      )
      .toBe(77)
    await reads(page, `as ${name}: 77`)
  })

  it('edits records of a running server: written out first, then read, written, taken anew, and seen to have moved', async () => {
    const market = '/api/servers/night-market'
    const say = (line: string): Promise<unknown> => ask(app, cookie, 'POST', `${market}/console`, { line })
    const record = 'records/Satchels.json'
    await until(async () =>
      (await ask<{ plugins: { files: { path: string }[] }[] }>(app, cookie, 'GET', `${market}/overview`)).plugins.some(({ files }) =>
        files.some(({ path }) => path === record),
      ),
    )
    // nothing is recorded yet, and yet all items are there to be given something
    await page.goto(`${app.origin}/s/night-market/settings/${record}`)
    await press(page, 'Ledger')
    await reads(page, '432 of 432')
    await reads(page, 'as clay: 32')
    for (const [id, fits] of [
      ['reed', 48],
      ['eel', 12],
      ['clay', 40],
      ['map', 1],
    ] as const)
      await say(`satchel set ${id} ${fits}`)
    const recorded = async (): Promise<unknown> => JSON.parse(await fileOf(record, 'night-market'))
    await expect.poll(recorded, { timeout: 8000 }).toEqual({ reed: 48, eel: 12, clay: 40, map: 1 })
    await page.goto(`${app.origin}/s/night-market/settings/${record}?table=`)
    await page.waitForSelector('[role="grid"]:focus .td')
    // what the server knew and had not written is there, and so are all other items with what their category says
    await reads(page, 'as clay: 32')
    await reads(page, '432 of 432')
    await page.focus('[role="grid"]')
    await pasteText(page, 'roof_tile\t7\nreed\t50')
    await reads(page, '2 matched by id')
    await press(page, 'Put 2 new values in the tray')
    await expect.poll(recorded, { timeout: 8000 }).toEqual({ reed: 50, eel: 12, clay: 40, map: 1, roof_tile: 7 })
    // meanwhile the server learns of another, which is not lost
    await say('satchel set oar 3')
    await say('flush')
    const applyAll = async (): Promise<unknown> => {
      const tray = await ask<{ path: string; sha: string }[]>(app, cookie, 'GET', `${market}/tray`)
      return ask(app, cookie, 'POST', `${market}/tray/apply`, { drafts: tray.map(({ path, sha }) => ({ path, sha })) })
    }
    await expect(applyAll()).rejects.toThrow('was changed on the server since you began')
    await ask(app, cookie, 'POST', `${market}/tray/rebase`, { path: record })
    await until(() => applyAll().catch(() => null))
    await expect.poll(recorded, { timeout: 20_000 }).toEqual({ reed: 50, eel: 12, clay: 40, map: 1, roof_tile: 7, oar: 3 })
    // the running plugin goes by it
    await say('satchel set map 2')
    await say('flush')
    await expect.poll(recorded, { timeout: 20_000 }).toEqual({ reed: 50, eel: 12, clay: 40, map: 2, roof_tile: 7, oar: 3 })
  })
})

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`
