import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { ask, cookieFor, startApp, textOf, until, type RunningApp } from './app'
import { axe, openBrowser, press, reads, type OpenBrowser } from './browser'

/** Plugins nobody prepared anything for: nested prices, percents in texts, commands that pay, bounds, and names that say little. */
const SLOOPS = `# Sloops 1.2
tax: 5%   # of all that is paid here
boats:
  skiff:
    cost: { money: 500 }
    race: { reward: 40 }
  punt:
    cost: { money: 90 }
    race: { reward: 60 }
bank:
  interest:
    rate: 2.5
    interval: 24h
`
const FAIR = `# Fairground 2.0
stalls:
  eels:
    item: eel
    buy: { price: 30, amount: 16 }
    sell: { price: 100, amount: 64 }
  nets:
    item: net
    buy: { price: 250, amount: 1 }
    sell: { price: 90, amount: 1 }
prizes:
  - { item: fired_brick, amount: 8, chance: 40% }
  - { item: tin_bell, amount: 1, chance: 5% }
tasks:
  wake:
    commands: ["purse give {player} 30"]
jobs:
  eeler: { pay: { min: 2, max: 6 } }
  potter: { pay: { min: 3, max: 9 } }
`
/** Capitals, signs of money, and pay from one amount to another. */
const SKIPPERS = `# Skippers 1.0
wares:
  EEL: { buy: $1, sell: 0.5 marks }
  TIN_BELL: { buy: "$1,250", sell: $2 }
crew:
  pilot: { pay: 5-15 }
  stoker: { pay: 20 }
`
/** No sections but the points of its names. */
const JETTY = `# Jetty 1.0
sell.eel = 3
sell.tin_bell = 4
keep.open = true
`
const PLUGINS: Readonly<Record<string, string>> = { Sloops: SLOOPS, Fairground: FAIR, Skippers: SKIPPERS, Jetty: JETTY }
const fileOf = (plugin: string): string => (plugin === 'Jetty' ? 'settings.properties' : 'settings.yml')
const pathOf = (plugin: string): string => `extras/${plugin}/${fileOf(plugin)}`

interface Answer {
  readonly facts: {
    readonly streams: readonly { readonly plugin: string; readonly name: string; readonly amount: number; readonly pointer: string }[]
    readonly maybe: readonly { readonly plugin: string; readonly path: string; readonly file: string }[]
  }
}

describe('the economy of plugins nobody has seen', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let page: Page
  let cookie = ''
  const economy = (): Promise<Answer> => ask<Answer>(app, cookie, 'GET', '/api/servers/lantern-row/economy')
  const draftOf = (plugin: string): Promise<string> => textOf(app, cookie, pathOf(plugin))
  async function type(label: string, text: string): Promise<void> {
    const field = await page.waitForSelector(`[aria-label="${label}"]:not(:disabled)`)
    await field!.click({ count: 3 })
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
  }
  beforeAll(async () => {
    app = await startApp()
    cookie = await cookieFor(app, 'maren')
    const extras = join(app.folder, 'servers/lantern-row/extras')
    for (const [name, settings] of Object.entries(PLUGINS)) {
      const descriptor = `name: ${name}\nversion: 1.2.0\nsummary: Nobody has seen it.\ngame: ">=7.0 <8"\nrequires: { Purse: ">=1.6" }\n`
      writeFileSync(
        join(extras, `${name}.pack`),
        zipSync({ 'pack.yml': strToU8(descriptor), [`defaults/${fileOf(name)}`]: strToU8(settings) }),
      )
      mkdirSync(join(extras, name), { recursive: true })
      writeFileSync(join(extras, name, fileOf(name)), settings)
    }
    browser = await openBrowser()
    page = browser.page
    await page.goto(app.link)
    await reads(page, 'On this server')
    await ask(app, cookie, 'DELETE', '/api/servers/lantern-row/tray')
    await until(async () => (await economy()).facts.streams.some(({ plugin }) => plugin === 'Fairground'))
    await page.goto(`${app.origin}/s/lantern-row/economy`)
    await reads(page, 'from seed')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  it('a percent in a text, and an amount in a command, are typed where they are told, and all around them stays', async () => {
    await press(page, 'Table')
    await press(page, 'Wake')
    await type('How much: Wake', '45')
    await expect.poll(() => draftOf('Fairground'), { timeout: 20_000 }).toBe(FAIR.replace('{player} 30', '{player} 45'))
    await page.goto(`${app.origin}/s/lantern-row/economy?view=chances`)
    await reads(page, 'tries')
    await type('Chance of tin_bell in Prizes', '8')
    await expect
      .poll(() => draftOf('Fairground'), { timeout: 20_000 })
      .toBe(FAIR.replace('{player} 30', '{player} 45').replace('chance: 5%', 'chance: 8%'))
    // eight bricks at once count eight times
    const worths = await page.$$eval('tbody tr', (rows) => rows.map((row) => row.textContent!.replaceAll(/\s+/g, ' ').trim()))
    expect(worths.find((row) => row.startsWith('fired_brick × 8'))).toMatch(/40 %.*tries ?22$/)
  })

  it('a loop over capitals in one plugin and points in another is found, told in numbers, and ended in the way of the file', async () => {
    const { prices } = await ask<{ prices: { item: string; loop: unknown; buys: { amount: number }[]; sells: { amount: number }[] }[] }>(
      app,
      cookie,
      'GET',
      '/api/servers/lantern-row/economy/reckoned',
    )
    const eel = prices.find(({ item }) => item === 'eel')!
    expect([eel.buys[0]!.amount, eel.sells[0]!.amount]).toEqual([1, 3])
    expect(eel.loop).toMatchObject({
      gainARound: 2,
      mends: [
        { file: pathOf('Skippers'), pointer: '/wares/EEL/buy', amount: 3 },
        { file: pathOf('Jetty'), pointer: '/sell.eel', amount: 1 },
      ],
    })
    await page.goto(`${app.origin}/s/lantern-row/economy?view=prices`)
    await type('What players sell eel for at Jetty', '2')
    await expect.poll(() => draftOf('Jetty'), { timeout: 20_000 }).toBe(JETTY.replace('sell.eel = 3', 'sell.eel = 2'))
    await type('What players buy eel for at Skippers', '2.5')
    await expect.poll(() => draftOf('Skippers'), { timeout: 20_000 }).toBe(SKIPPERS.replace('buy: $1,', 'buy: $2.5,'))
    // pay from one amount to another is paid by the middle, and each of both is typed by itself
    await page.goto(`${app.origin}/s/lantern-row/economy`)
    await press(page, 'Table')
    await reads(page, 'Skippers, 2 payouts')
    await press(page, 'Crew')
    await type('How much: Pilot, at most', '25')
    await expect
      .poll(() => draftOf('Skippers'), { timeout: 20_000 })
      .toBe(SKIPPERS.replace('buy: $1,', 'buy: $2.5,').replace('5-15', '5-25'))
  })

  it('what may be money is said once for all entries, and counts from then on', async () => {
    await page.goto(`${app.origin}/s/lantern-row/economy`)
    await reads(page, 'What may be money')
    expect(await axe(page)).toEqual([])
    await page.select('select[aria-label="What Reward of Sloops is"]', 'payout')
    await until(
      async () => (await economy()).facts.streams.filter(({ plugin, name }) => plugin === 'Sloops' && /skiff|punt/.test(name)).length === 4,
    )
    const { streams, maybe } = (await economy()).facts
    expect(streams.filter(({ pointer }) => pointer.endsWith('/race/reward')).map(({ name, amount }) => [name, amount])).toEqual([
      ['skiff', 40],
      ['punt', 60],
    ])
    expect(maybe.filter(({ plugin }) => plugin === 'Sloops').map(({ path }) => path)).toEqual([])
    // what was said is taken back with the rule, and is then not known again
    await ask(
      app,
      cookie,
      'DELETE',
      `/api/servers/lantern-row/rules?${new URLSearchParams({ path: pathOf('Sloops'), pointer: '/boats/*/race/reward' })}`,
    )
    await until(async () => (await economy()).facts.maybe.some(({ plugin }) => plugin === 'Sloops'))
  })

  it('goes through the tray to the server, and the files read as they should', async () => {
    const tray = await ask<{ path: string; sha: string }[]>(app, cookie, 'GET', '/api/servers/lantern-row/tray')
    await ask(app, cookie, 'POST', '/api/servers/lantern-row/tray/apply', { drafts: tray.map(({ path, sha }) => ({ path, sha })) })
    const onServer = parse(readFileSync(join(app.folder, 'servers/lantern-row', pathOf('Fairground')), 'utf8')) as {
      prizes: { chance: string }[]
      tasks: { wake: { commands: string[] } }
    }
    expect([onServer.prizes[1]!.chance, onServer.tasks.wake.commands]).toEqual(['8%', ['purse give {player} 45']])
  })
})
