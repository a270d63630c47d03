import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { economyOf, type EconomyFacts, type GatheredOffer } from '@pasticcio/core'
import ChanceTables from '../../app/components/economy/ChanceTables.vue'
import DealList from '../../app/components/economy/DealList.vue'
import DoingTable from '../../app/components/economy/DoingTable.vue'
import EconomyDays from '../../app/components/economy/EconomyDays.vue'
import MaybeMoney from '../../app/components/economy/MaybeMoney.vue'
import StreamNote from '../../app/components/economy/StreamNote.vue'
import EconomyGoals from '../../app/components/economy/EconomyGoals.vue'
import FindPrice from '../../app/components/economy/FindPrice.vue'
import FlowPicture from '../../app/components/economy/FlowPicture.vue'
import MoversList from '../../app/components/economy/MoversList.vue'
import PriceBook from '../../app/components/economy/PriceBook.vue'
import PriceReckoning from '../../app/components/economy/PriceReckoning.vue'
import PriceSpread from '../../app/components/economy/PriceSpread.vue'
import PriceTools from '../../app/components/economy/PriceTools.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useEconomyStore } from '../../app/stores/economy'
import { useEconomyDaysStore } from '../../app/stores/economy-days'
import { useKnownStore } from '../../app/stores/known'
import { usePriceBookStore } from '../../app/stores/price-book'
import { ALL_PRICES, alsoIn, byItem, filterPrices, isOther, reckonPrices, type PriceFilter } from '../../app/utils/price-rows'
import { PITS, PURSE, STALLS, economyWorld, factsFrom } from './economy-world'
import { button, show, text } from './pages'
import { until } from './world'

beforeEach(() => localStorage.clear())
afterEach(async () => {
  await useDraftsStore().flushAll()
  await useDraftsStore().leaveBeside()
  vi.unstubAllGlobals()
})
const KITS = 'extras/Kits/settings.yml'
const LISTED = '# What items cost, in marks.\nprices:\n  rope: 10\n  lamp: 20\n  clay: 2\n  brick: 6\n  net: 12\n'
const PAID = 'accounts:\n  # What a newcomer starts with, in marks.\n  start: 100\npayouts:\n  fire-kiln: 4\n  run-ferry: 8\n'
/** A server with other files, loaded. */
async function world(
  files: Readonly<Record<string, string>>,
  more: Parameters<typeof economyWorld>[0] = {},
  part: { readonly plugins: readonly string[]; readonly facts: EconomyFacts } | null = null,
) {
  const made = economyWorld(more, files)
  if (part) made.answers['GET /economy/update'] = { part }
  await Promise.all([useEconomyStore().load(), useEconomyStore().loadUpdates()])
  return made
}
const field = (label: string): HTMLInputElement => document.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!
function type(label: string, value: string, event = 'change'): void {
  field(label).value = value
  field(label).dispatchEvent(new Event(event, { bubbles: true }))
}

describe('rows of the price book', () => {
  const facts: EconomyFacts = factsFrom({
    [STALLS]: LISTED,
    'extras/Wharf/a.yml': 'goods:\n  rope: { buy: 15, sell: 13 }\n  eel: { buy: 4, sell: 4 }\n',
    [KITS]: 'kits:\n  a: { items: [rope 2, clay 1], price: 12 }\n  b: { items: [rope 1], price: 9 }\n',
    [PITS]: 'bank:\n  yields:\n    clay: 3\n    rope: 1\n',
  })
  const { book } = economyOf(facts, { rope: 'ropes', lamp: 'light' })
  it.each<[Partial<PriceFilter>, string[]]>([
    [{}, ['rope', 'brick', 'clay', 'eel', 'lamp', 'net']],
    [{ only: 'loops' }, ['rope']],
    [{ only: 'no-loss' }, ['eel']],
    [{ plugin: 'Wharf' }, ['rope', 'eel']],
    [{ category: 'light' }, ['lamp']],
    [{ words: 'L a' }, ['clay', 'eel', 'lamp'].filter((item) => item.includes('l') && item.includes('a'))],
    [{ words: 'xyz' }, []],
    [{ only: 'changed' }, ['brick', 'clay', 'eel', 'lamp', 'net', 'rope']],
  ])('%j leaves %j', (filter, items) => {
    const rows = filterPrices(book.rows, { ...ALL_PRICES, ...filter }, filter.only === 'changed' ? new Map() : null)
    expect(rows.map(({ item }) => item).sort()).toEqual([...items].sort())
  })
  it('tell in how many bundles and tables an item is', () => {
    expect(Object.fromEntries(alsoIn(facts))).toEqual({ rope: '2 bundles, 1 table', clay: '1 bundle, 1 table' })
  })
  it('differ from how they were by either of their prices', () => {
    const before = byItem(economyOf(factsFrom({ [STALLS]: LISTED.replace('clay: 2', 'clay: 3') })).book)
    expect(book.rows.filter((row) => isOther(row, before)).map(({ item }) => item)).toEqual(['rope', 'clay', 'eel'])
    expect(book.rows.some((row) => isOther(row, null))).toBe(false)
  })
  it('are reckoned with where an item says its price itself, in the money of the server', () => {
    const [rope] = facts.offers as [GatheredOffer]
    const offers = [
      rope,
      { ...rope, item: 'b', by: 'category' as const },
      { ...rope, item: 'c', currency: 'pearls' },
      { ...rope, item: 'd', amount: 0.25 },
    ]
    expect(reckonPrices(offers, { does: 'times', by: '1.5' }).map(({ item, to }) => `${item} ${to}`)).toEqual(['rope 15', 'd 0.375'])
    expect(reckonPrices(offers, { does: 'times', by: '1.5', most: '12' }).map(({ to }) => to)).toEqual(['12', '0.375'])
    expect(reckonPrices(offers, { does: 'times', by: '1' })).toEqual([])
    expect(() => reckonPrices(offers, { does: 'add', by: 'x' })).toThrow(/“x” is none/)
  })
})

describe('a price among its kind', () => {
  it.each<[number, boolean, string]>([
    [12, false, 'circle'],
    [90, true, 'path'],
  ])('%d, far: %s, is drawn as a %s within the picture', (price, isFar, shape) => {
    const wrapper = show(PriceSpread, { box: { low: 8, quarter: 10, middle: 12, threeQuarters: 15, high: 20 }, price, isFar })
    expect(wrapper.find(shape).exists()).toBe(true)
    expect(wrapper.attributes('aria-label')).toContain(isFar ? 'Far from its kind' : '12, half of its kind between 10 and 15')
    const numbers = [...wrapper.html().matchAll(/(?:x1|x2|x|cx)="([\d.]+)"/g)].map(([, at]) => Number(at))
    const width = Number(wrapper.attributes('width'))
    for (const at of numbers) expect(at >= 0 && at <= width).toBe(true)
  })
})

describe('the price book as it is shown', () => {
  it('opens everywhere an item is bought and sold, and each is typed there', async () => {
    const { drafts } = await world({
      [STALLS]: LISTED,
      'extras/Wharf/a.yml': 'goods:\n  rope: { buy: 15, sell: 3 }\n  eel: { buy: 4, sell: 1 }\n',
    })
    show(PriceBook)
    await until(() => expect(text()).toContain('rope'))
    button('rope: everywhere it is bought and sold').click()
    await until(() => expect(text()).toContain('Wharf/a.yml'))
    type('What players buy rope for at Wharf', '16')
    await until(() => expect(drafts['extras/Wharf/a.yml']).toContain('buy: 16'))
  })
  it('a price that its category says, or a share, leads to what says it', async () => {
    await world({
      'extras/Wharf/a.yml':
        'categories:\n  ropes: { buy: 8 }\ngoods:\n  rope: { category: ropes }\n  net: { category: ropes, buy: 9 }\n# What is paid for goods, as a share of their price.\nbuys-for: 0.5\n',
    })
    show(PriceBook)
    await until(() => expect(text()).toContain('rope'))
    const links = [...document.querySelectorAll('a')].map((link) => link.getAttribute('aria-label'))
    expect(links).toContain('What players buy rope for at Wharf: 8. Its category ropes says it')
    expect(links.some((label) => label?.endsWith('A share of 9'))).toBe(true)
  })
  it('a loop over a category is mended for all of it', async () => {
    const { drafts } = await world({
      [STALLS]: LISTED,
      'extras/Wharf/a.yml': 'categories:\n  ropes: { buy: 8, sell: 14 }\ngoods:\n  rope: { category: ropes }\n  net: { category: ropes }\n',
    })
    usePriceBookStore().open = 'rope'
    show(PriceBook)
    await until(() => expect(text()).toContain('buy for 14 for all of ropes'))
    document.querySelector<HTMLInputElement>('.mends input')!.dispatchEvent(new Event('change'))
    await until(() => expect(drafts['extras/Wharf/a.yml']).toContain('buy: 14'))
  })
  it('thousands of rows are there, and only those in sight are drawn', async () => {
    const many = Array.from({ length: 3000 }, (_x, i) => `item_${i}`)
    const offer = factsFrom({ [STALLS]: LISTED }).offers[0]!
    const facts = { ...factsFrom({}), offers: many.map((item, i) => ({ ...offer, item, pointer: `/prices/${item}`, amount: i + 1 })) }
    await world({ [STALLS]: LISTED }, { facts })
    show(PriceBook)
    await until(() => expect(document.querySelectorAll('.lines .pb').length).toBeGreaterThan(10))
    expect(document.querySelectorAll('.lines .pb').length).toBeLessThan(80)
    expect(document.querySelector<HTMLElement>('.lines')!.style.height).toBe(`${3000 * 24}px`)
  })
  it('is filtered, held against another, and reckoned with by its tools', async () => {
    await world({ [STALLS]: LISTED })
    show(PriceTools)
    const prices = usePriceBookStore()
    button('× 1.2, round to 5 …').click()
    await until(() => expect(prices.reckoning).not.toBeNull())
    show(PriceReckoning)
    await until(() => expect(field('By how much')).not.toBeNull())
    type('By how much', '2', 'input')
    await until(() => expect(prices.reckoned.changes).toHaveLength(5))
    button('Leave').click()
    await until(() => expect(prices.reckoning).toBeNull())
    prices.filter = { ...ALL_PRICES, words: 'rope' }
    await until(() => button('all'))
    button('all').click()
    expect(prices.filter).toEqual(ALL_PRICES)
  })
})

describe('bundles and rewards', () => {
  it('are told with what they bring, cost and gain, how often, and what has no price', async () => {
    const known = {
      registries: { items: [{ id: 'eel', name: null, group: null }] },
      nodes: [],
      ports: [],
      placeholders: [],
      texts: { placeholder: ['{', '}'], lineBreak: null, codes: null, marks: [] },
    }
    const made = economyWorld(
      {},
      {
        [STALLS]: `${LISTED}# What is paid for goods, as a share of their price.\nbuys-for: 0.5\n`,
        [KITS]:
          'kits:\n  angler:\n    items: [rope 4, eel 2]\n    price: 12\n    cooldown: 7200\n  lamps:\n    items: [lamp 2]\n    price: 30\n    cooldown: 604800\n  now:\n    items: [lamp 2]\n    price: 3\n    cooldown: 0\n',
      },
    )
    made.answers['GET /known'] = known
    await Promise.all([useKnownStore().ready(), useEconomyStore().load()])
    show(DealList)
    await until(() => expect(text()).toContain('3 entries'))
    expect(text()).toMatch(/Angler.*4 rope, 2 eel, eel without a price\s*costs 12\s*20\s*40\s*\+8\s*each 2 h/)
    expect(text()).toMatch(/Lamps.*costs 30\s*20\s*40\s*−10\s*each 7 d/)
    expect(text()).toMatch(/Now.*costs 3\s*20\s*40\s*\+17\s*any time/)
    expect(text()).toContain('bought and sold nowhere: eel')
  })
})

describe('tables of chances', () => {
  it('within tables say what comes in the end, and those that go round in a circle say so', async () => {
    await world({
      [STALLS]: LISTED,
      [PITS]:
        'loot:\n  chances:\n    rare: 1\n    clay: 3\nrare:\n  chances:\n    lamp: 1\n    net: 4\nround:\n  chances:\n    about: 1\n    clay: 1\nabout:\n  chances:\n    round: 1\n    net: 1\n',
    })
    show(ChanceTables)
    await until(() => expect(text()).toContain('draws from Rare'))
    expect(text()).toMatch(/In the end lamp 5 %, 45 tries\s*net 20 %, 11 tries\s*clay 75 %, 2 tries/)
    expect(text()).toContain('Round → About → Round goes round in a circle')
    type('Weight of clay in Loot', 'some')
    await until(() => expect(useEconomyStore().problem).toContain('“some” is no weight. Clay keeps 3.'))
  })
  it('are none where nothing is drawn', async () => {
    await world({ [STALLS]: LISTED })
    show(ChanceTables)
    await until(() => expect(text()).toContain('Nothing is drawn here'))
  })
})

describe('what moves most, and one setting for a goal', () => {
  it('bars lie on both sides of the same line, the longest for what moves most', async () => {
    await world({ [STALLS]: LISTED, [PURSE]: PAID })
    show(MoversList)
    await until(() => expect(text()).toContain('Everything at Stalls'))
    const bars = [...document.querySelectorAll('rect')].map((bar) => ({
      x: Number(bar.getAttribute('x')),
      width: Number(bar.getAttribute('width')),
    }))
    const zero = Number(/M([\d.]+)/.exec(document.querySelector('.zero')!.getAttribute('d')!)![1])
    for (const { x, width } of bars) expect(Math.min(Math.abs(x - zero), Math.abs(x + width - zero))).toBeLessThan(1)
    expect(Math.max(...bars.map(({ width }) => width))).toBe(bars[0]!.width)
  })
  it('is found, comes to what was wanted, and goes into the draft', async () => {
    const { drafts } = await world({ [STALLS]: LISTED, [PURSE]: PAID })
    show(FindPrice)
    await until(() => expect(text()).toContain('Find the price'))
    type('How many of it', '100', 'input')
    type('After how many hours of play', '6', 'input')
    await until(() => expect(text()).toMatch(/pays\s*\d+ \(now 4\), which comes to \d/))
    const told = /pays\s*(\d+) \(now 4\), which comes to ([\d.]+) h/.exec(text())!
    expect(Number(told[2])).toBeGreaterThan(4)
    expect(Number(told[2])).toBeLessThan(8)
    button('Put in the tray').click()
    await until(() => expect(drafts[PURSE]).toContain(`fire-kiln: ${told[1]}`))
  })
  it('says where no value does it', async () => {
    await world({ [STALLS]: LISTED, [PURSE]: PAID })
    show(FindPrice)
    type('How many of it', '1', 'input')
    await until(() => expect(text()).toContain('no value does it: they afford it at once'))
  })
})

describe('what players do', () => {
  it('is shown by what moves most, and all of it on demand', async () => {
    const payouts = Array.from({ length: 12 }, (_x, i) => `  work-${i}: ${i + 1}\n`).join('')
    const { kept } = await world({ [PURSE]: `payouts:\n${payouts}` })
    show(DoingTable)
    await until(() => button('all 12'))
    expect(document.querySelectorAll('tbody tr')).toHaveLength(8)
    button('all 12').click()
    await until(() => expect(document.querySelectorAll('tbody tr')).toHaveLength(12))
    type('Work 3, Traders, inferred', '-2')
    await until(() => expect(useEconomyStore().problem).toContain('“-2” is no number of times'))
    type('Work 3, Traders, inferred', '2')
    await until(() => expect(kept.assumed.rates[`${PURSE}#/payouts/work-3`]).toEqual({ trader: 2 }))
  })
})

describe('the picture of the flow, by keys', () => {
  it('goes along the flow and within a column, and what is looked at is told', async () => {
    await world({ [STALLS]: LISTED, [PURSE]: PAID })
    show(FlowPicture)
    await until(() => expect(document.querySelectorAll('.label').length).toBeGreaterThan(2))
    const press = (key: string): unknown => document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
    const here = (): string => document.activeElement!.textContent!.replace(/\s+/g, ' ').trim()
    document.querySelector<HTMLElement>('.label.west')!.focus()
    expect(here()).toContain('Payouts')
    press('ArrowDown')
    expect(here()).toContain('start')
    press('ArrowRight')
    expect(here()).toContain('Newcomers')
    press('ArrowDown')
    expect(here()).toContain('Regulars')
    press('ArrowRight')
    expect(here()).toContain('Buying')
    ;(document.activeElement as HTMLElement).click()
    await until(() => expect(useEconomyStore().focus).toBe('buys Stalls'))
    press('ArrowLeft')
    expect(here()).toContain('Newcomers')
  })
})

describe('goals and days to come', () => {
  it('a goal whose thing is gone says so, and none at all says that', async () => {
    const { kept } = await world({ [STALLS]: LISTED, [PURSE]: PAID })
    useEconomyStore().setGoals([{ thing: 'item boat', count: 1, kind: 'regular', hours: 3 }])
    show(EconomyGoals)
    await until(() => expect(text()).toContain('item boat, which is gone'))
    button('Take out goal 1').click()
    await until(() => expect(text()).toContain('Nothing is to be affordable by a time yet'))
    await until(() => expect(kept.assumed.goals).toEqual([]))
  })
  it('the update is lived beside today when somebody wants it, with its own prices', async () => {
    const facts = factsFrom({ [STALLS]: LISTED.replace('lamp: 20', 'lamp: 900') })
    await world({ [STALLS]: LISTED, [PURSE]: PAID }, {}, { plugins: ['Stalls'], facts })
    show(EconomyDays)
    const days = useEconomyDaysStore()
    await until(() => expect(days.lived.map(({ version }) => version)).toEqual(['today']))
    document.querySelector<HTMLInputElement>('input[type="checkbox"]')!.click()
    await until(() => expect(days.lived.map(({ version }) => version)).toEqual(['today', 'update']))
    expect(text()).toMatch(/after 30 days\s*today\s*update/)
    expect(text()).toMatch(/10 lamp, for regulars/)
  })
  it('an update that makes one thing dearer takes longer to it', async () => {
    const facts = factsFrom({ [STALLS]: LISTED.replace('lamp: 20', 'lamp: 30') })
    await world({ [STALLS]: LISTED, [PURSE]: PAID }, {}, { plugins: ['Stalls'], facts })
    useEconomyStore().setGoals([{ thing: 'item lamp', count: 50, kind: 'regular', hours: 9 }])
    show(EconomyGoals)
    await until(() => expect(text()).toContain('update'))
    const hours = [...document.querySelectorAll('tbody tr td')]
      .flatMap((cell) => /^([\d.]+) h$/.exec(cell.textContent!.trim())?.[1] ?? [])
      .map(Number)
    expect(hours[1]!).toBeGreaterThan(hours[0]! * 1.3)
  })
})

const FAIR = 'extras/Fair/settings.yml'
describe('what may be money', () => {
  const files = { [FAIR]: 'jobs:\n  eeler: { bonus: 4, stars: 3 }\n  potter: { bonus: 6, stars: 2 }\ndoor:\n  deposit: 9\n' }
  const chosen = (label: string, value: string): void => {
    const select = document.querySelector<HTMLSelectElement>(`[aria-label="${label}"]`)!
    select.value = value
    select.dispatchEvent(new Event('change'))
  }
  it('is told with what it says and of how many entries, and what it is goes to the rules of its file', async () => {
    const made = await world(files)
    const said: unknown[] = []
    made.answers['PUT /rules'] = (body: unknown) => {
      said.push(body)
      return {}
    }
    show(MaybeMoney)
    expect(text()).toMatch(/Bonus in 2 entries, line \S*Fair4, 6.*Deposit.*Fair9/)
    chosen('What Bonus of Fair is', 'payout')
    await until(() => expect(said).toEqual([{ path: FAIR, rule: { path: '/jobs/*/bonus', role: 'payout' } }]))
    await until(() => expect(document.querySelector<HTMLSelectElement>('[aria-label="What Deposit of Fair is"]')!.disabled).toBe(false))
    chosen('What Deposit of Fair is', '')
    await until(() => expect(said[1]).toEqual({ path: FAIR, rule: { path: '/door/deposit', means: 'number' } }))
  })
  it('is not there where all is known, and what goes wrong is told', async () => {
    const made = await world(files)
    made.answers['PUT /rules'] = () => {
      throw { status: 404, code: 'not-found', title: 'There is no such file.' }
    }
    show(MaybeMoney)
    chosen('What Bonus of Fair is', 'fee')
    await until(() => expect(useEconomyStore().problem).toContain('There is no such file.'))
    document.body.innerHTML = ''
    await world({ [STALLS]: LISTED })
    show(MaybeMoney)
    expect(text()).not.toContain('What may be money')
  })
})

describe('amounts in texts', () => {
  it('are typed as numbers, and written with what stands around them', async () => {
    const made = await world({
      [FAIR]: 'trade:\n  sales-tax: 5%\nbank:\n  interest: { rate: 2.5 }\ntasks:\n  wake:\n    commands: ["money give {player} 30"]\n',
    })
    const economy = useEconomyStore()
    const look = (doing: string): void => {
      economy.focus = economy.flow.groups.find((group) => group.streams.some((stream) => stream.doing === doing))!.id
    }
    show(StreamNote)
    look('payout')
    await until(() => expect(field('How much: Wake').value).toBe('30'))
    type('How much: Wake', '45')
    await until(() => expect(made.drafts[FAIR]).toContain('commands: ["money give {player} 45"]'))
    look('share')
    await until(() => expect(field('How much: Bank').value).toBe('2.5'))
    type('How much: Bank', '3')
    await until(() => expect(made.drafts[FAIR]).toContain('rate: 3'))
  })
})

it('of several answers the one that was asked for last counts', async () => {
  const made = await world({ [STALLS]: LISTED })
  const economy = useEconomyStore()
  const whole = (made.answers['GET /economy'] as () => unknown)()
  const waiting: ((money: string) => void)[] = []
  made.answers['GET /economy'] = () => new Promise((resolve) => waiting.push((money) => resolve({ ...(whole as object), money })))
  const [slow, quick] = [economy.load(), economy.load()]
  await until(() => expect(waiting).toHaveLength(2))
  waiting[1]!('new')
  await quick
  expect([economy.money, economy.loading]).toEqual(['new', false])
  waiting[0]!('old')
  await slow
  expect(economy.money).toBe('new')
})
