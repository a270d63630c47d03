import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { NOTHING_ASSUMED, economyOf as reckon, withPart, type EconomyFacts } from '@pasticcio/core'
import type { Server } from '../../server/services/context'
import { assume, economyBefore, economyOf, economyOfUpdates } from '../../server/services/economy'
import { itemRegistry } from '../../packages/standin/src/server/items'
import { addPackage, applyAll, draft, makeWorld, repacked, type World } from './world'

const PURSE = 'extras/Purse/settings.yml'
const PRICES = 'extras/Stallholder/prices.yml'
const now = Math.floor(Date.parse('2026-11-23T12:00:00Z') / 1000)

describe('the economy of a server', () => {
  let world: World
  let server: Server
  const put = (at: string, text: string): void => {
    mkdirSync(dirname(world.path(at)), { recursive: true })
    writeFileSync(world.path(at), text)
    server.inventory.forget()
  }
  const shipped = (path: string): string => readFileSync(`packages/standin/demo/${path}`, 'utf8')
  const payout = ({ streams }: EconomyFacts, name: string): number | undefined => streams.find((one) => one.name === name)?.amount
  const price = ({ offers }: EconomyFacts, item: string): number | undefined =>
    offers.find((one) => one.item === item && one.way === 'buy')?.amount
  beforeEach(async () => {
    world = await makeWorld()
    server = await world.server()
    for (const name of ['stallholder-2.1', 'hampers-2.4']) {
      const plugin = name.startsWith('s') ? 'Stallholder' : 'Hampers'
      writeFileSync(world.path(`extras/${plugin}.pack`), world.pack(name))
      put(`extras/${plugin}/settings.yml`, shipped(`${name}/defaults/settings.yml`))
    }
    put('registry/items.json', JSON.stringify(itemRegistry()))
    put(PURSE, shipped('purse-1.8/defaults/settings.yml'))
    put(PRICES, shipped('stallholder-2.1/defaults/prices.yml'))
  })
  afterEach(() => world.close())

  it('is gathered from all plugins, with lines and what its money is called', async () => {
    const told = await economyOf(world.context, server)
    expect(told).toMatchObject({ money: 'marks', standing: null, assumed: null, unread: [] })
    expect([payout(told.facts, 'fire-kiln'), price(told.facts, 'crock')]).toEqual([4, 9])
    expect(told.facts.deals.map(({ name, items, money }) => [name, items.length, money?.amount ?? null])).toEqual([
      ['welcome', 4, null],
      ['kilnkeeper', 2, 50],
      ['angler', 3, 30],
      ['mudlark', 1, 120],
    ])
    const { facts, lines } = told
    // all that prices.yml has, each to buy and to sell
    const listed = world.read(PRICES).match(/^  \w+: \d+/gm)!.length
    const listedOffers = facts.offers.filter(({ by }) => by !== 'deal')
    expect([listedOffers.length, told.kinds['crock']]).toEqual([2 * listed, 'clay'])
    // the bundle of one bell is a place to buy one
    expect(facts.offers.filter(({ by }) => by === 'deal').map(({ item, way, amount }) => [item, way, amount])).toEqual([
      ['tin_bell', 'buy', 120],
    ])
    for (const { file, pointer, amount, by } of facts.offers.filter((one) => one.by === 'item').slice(0, 40))
      expect([by, world.read(file).split('\n')[lines[`${file}#${pointer}`]! - 1]]).toEqual([
        'item',
        expect.stringContaining(String(amount)),
      ])
    expect(world.read(PURSE).split('\n')[lines[`${PURSE}#/payouts/fire-kiln`]! - 1]).toContain('fire-kiln: 4')
  })

  it('is as the drafts have it, with the plugins they change as they stand', async () => {
    await draft(world, PURSE, (text) => text.replace('fire-kiln: 4', 'fire-kiln: 6\n  keep-watch: 5'))
    const { facts, standing } = await economyOf(world.context, server)
    expect([payout(facts, 'fire-kiln'), payout(facts, 'keep-watch')]).toEqual([6, 5])
    expect(standing!.plugins).toEqual(['Purse'])
    const before = withPart(facts, standing!)
    expect([payout(before, 'fire-kiln'), payout(before, 'keep-watch'), price(before, 'crock')]).toEqual([4, undefined, 9])
  })

  it('is as an update would have it, with what was set here carried along', async () => {
    put(PRICES, shipped('stallholder-2.1/defaults/prices.yml').replace('  crock: 9\n', '  crock: 11\n'))
    await addPackage(world.context, server, world.pack('stallholder-2.2'), 'stallholder.pack', 'test', 'maren')
    const { facts } = await economyOf(world.context, server)
    const update = await economyOfUpdates(world.context, server)
    expect(update!.plugins).toEqual(['Stallholder'])
    const after = withPart(facts, update!)
    // ours stays, and what the new version ships in another way comes
    expect(price(after, 'crock')).toBe(11)
    expect(reckon(after).book.rows.length).toBeGreaterThan(200)
    expect(payout(after, 'fire-kiln')).toBe(4)
  })

  it('knows settings that an update has elsewhere as what they are today', async () => {
    const pack = repacked(world.pack('hampers-2.4'), (files) => ({
      ...files,
      'pack.yml': files['pack.yml']!.replace(/version: .*/, 'version: 9.0.0'),
      'defaults/settings.yml': files['defaults/settings.yml']!.replace(/^hampers:$/m, 'bundles:'),
    }))
    put('extras/Hampers/settings.yml', shipped('hampers-2.4/defaults/settings.yml').replace('    price: 50\n', '    price: 35\n'))
    await addPackage(world.context, server, pack, 'hampers.pack', 'test', 'maren')
    const { facts } = await economyOf(world.context, server)
    const update = await economyOfUpdates(world.context, server)
    const was = update!.facts.streams.filter(({ plugin }) => plugin === 'Hampers').map(({ name, amount, was: old }) => [name, amount, old])
    for (const [name, amount] of [
      ['kilnkeeper', 35],
      ['angler', 30],
      ['mudlark', 120],
    ] as const)
      expect(was).toContainEqual([name, amount, `extras/Hampers/settings.yml#/hampers/${name}/price`])
    const activities = (of: EconomyFacts): string[] =>
      reckon(of)
        .streams.filter(({ doing }) => doing === 'price')
        .map(({ activity }) => activity)
        .sort()
    expect(activities(withPart(facts, update!))).toEqual(activities(facts))
  })

  it('leaves out an update of settings that do not read, and one that has nothing to do with money', async () => {
    put(PRICES, 'clay:\n  clay: [2\n')
    await addPackage(world.context, server, world.pack('stallholder-2.2'), 'stallholder.pack', 'test', 'maren')
    await addPackage(world.context, server, world.pack('wardkeys-5.1'), 'wardkeys.pack', 'test', 'maren')
    const { facts } = await economyOf(world.context, server)
    expect(await economyOfUpdates(world.context, server)).toBeNull()
    expect(payout(facts, 'fire-kiln')).toBe(4)
  })

  it('has files that are only staged, and is without those that a draft would empty', async () => {
    await draft(world, PRICES, () => '# nothing is for sale\n')
    const { facts, standing } = await economyOf(world.context, server)
    expect([facts.offers.filter(({ plugin }) => plugin === 'Stallholder'), standing!.plugins]).toEqual([[], ['Stallholder']])
    expect(withPart(facts, standing!).offers.length).toBeGreaterThan(600)
  })

  it('is without plugins that are switched off, also where a draft changes their files', async () => {
    mkdirSync(world.path('extras/off'), { recursive: true })
    renameSync(world.path('extras/Stallholder.pack'), world.path('extras/off/Stallholder.pack'))
    server.inventory.forget()
    const { facts } = await economyOf(world.context, server)
    expect([facts.offers.filter(({ plugin }) => plugin === 'Stallholder'), payout(facts, 'fire-kiln')]).toEqual([[], 4])
    await draft(world, PRICES, (text) => text.replace('  crock: 9\n', '  crock: 15\n'))
    const drafted = await economyOf(world.context, server)
    expect([price(drafted.facts, 'crock'), drafted.standing]).toEqual([undefined, null])
  })

  it('can be had as it was before a change of the history', async () => {
    await draft(world, PRICES, (text) => text.replace('  crock: 9\n', '  crock: 15\n'))
    const { id } = await applyAll(world)
    await draft(world, PRICES, (text) => text.replace('  crock: 15\n', '  crock: 30\n'))
    const later = await applyAll(world)
    await draft(world, PRICES, (text) => text.replace('  crock: 30\n', '  crock: 40\n'))
    expect(price(await economyBefore(world.context, server, id), 'crock')).toBe(9)
    expect(price(await economyBefore(world.context, server, later.id), 'crock')).toBe(15)
    expect(price((await economyOf(world.context, server)).facts, 'crock')).toBe(40)
    await expect(economyBefore(world.context, server, 999)).rejects.toMatchObject({ code: 'not-found' })
  })

  it('knows from accounts, claims and measures how many players there are, what they have and do', async () => {
    expect((await economyOf(world.context, server)).seen).toEqual({ players: null, balance: null, online: null, times: {} })
    put('extras/Purse/accounts.yml', 'accounts: { maren: 10, tobiah: 30, isolde: 50, wenna: 90, corley: 70 }\n')
    put('extras/Hampers/claims.yml', `maren/angler: ${now}\nwenna/angler: ${now - 3600}\ncorley/kilnkeeper: ${now - 200_000}\n`)
    for (let i = 0; i < 80; i++)
      await world.context.samples.add(
        server.row.id,
        { at: now - i * 60, seconds: 60, players: i % 2 === 0 ? 2 : 4, ticks: 20, memory: null },
        [],
      )
    const at = (name: string): string => `extras/Hampers/settings.yml#/hampers/${name}/price`
    expect((await economyOf(world.context, server)).seen).toEqual({
      players: 5,
      balance: 50,
      online: 3,
      times: { [at('angler')]: 0.4, [at('kilnkeeper')]: 0 },
    })
  })

  it('tells which files could not be looked into, and reckons with the rest', async () => {
    writeFileSync(world.path(PRICES), Buffer.from([0x61, 0x3a, 0x20, 0xff, 0xfe, 0x0a]))
    server.inventory.forget()
    const { unread, facts } = await economyOf(world.context, server)
    expect(unread).toEqual([{ file: PRICES, problem: expect.stringContaining(PRICES) as string }])
    expect([facts.offers.filter(({ plugin }) => plugin === 'Stallholder'), payout(facts, 'fire-kiln')]).toEqual([[], 4])
  })

  it('keeps what is assumed of its players, and nobody’s is written over unseen', async () => {
    const mine = { ...NOTHING_ASSUMED, rates: { 'buys Stallholder': { regular: 3 } } }
    expect(await assume(world.context, server, mine, 0, 'tobiah')).toMatchObject({ revision: 1, by: 'tobiah' })
    await expect(assume(world.context, server, NOTHING_ASSUMED, 0, 'maren')).rejects.toMatchObject({
      code: 'assumptions-changed',
      status: 409,
    })
    expect(await assume(world.context, server, { ...mine, goals: [] }, 1, 'maren')).toMatchObject({ revision: 2 })
    await expect(assume(world.context, server, mine, 1, 'tobiah')).rejects.toThrow(/maren changed what is assumed meanwhile/)
    expect((await economyOf(world.context, server)).assumed).toMatchObject({ revision: 2, by: 'maren', assumed: { ...mine, goals: [] } })
  })
})
