import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import Economy from '../../app/pages/s/[server]/economy.vue'
import WhereMoneyMoves from '../../app/components/economy/WhereMoneyMoves.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useEconomyStore } from '../../app/stores/economy'
import { useEconomyChangesStore } from '../../app/stores/economy-changes'
import { useEconomyDaysStore } from '../../app/stores/economy-days'
import { usePriceBookStore } from '../../app/stores/price-book'
import { useSessionStore } from '../../app/stores/session'
import { PITS, PURSE, STALLS, WHARF, economyWorld, factsFrom } from './economy-world'
import { button, show, text } from './pages'
import { until } from './world'

beforeEach(() => localStorage.clear())
afterEach(async () => {
  await useDraftsStore().flushAll()
  await useDraftsStore().leaveBeside()
  vi.unstubAllGlobals()
})
const field = (label: string): HTMLInputElement => {
  const found = document.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)
  if (!found) throw new Error(`there is no field ${label}`)
  return found
}
const set = (label: string, value: string): void => {
  field(label).value = value
  field(label).dispatchEvent(new Event('change', { bubbles: true }))
}
async function opened(): Promise<ReturnType<typeof useEconomyStore>> {
  show(Economy)
  await until(() => expect(text()).toContain('marks'.replace('m', 'M') + ' an hour'))
  return useEconomyStore()
}
const view = (name: string): void => button(name).click()

describe('the page of the economy', () => {
  it('tells what comes in, goes out and stays, with the loop that pays and what would end it', async () => {
    economyWorld()
    const economy = await opened()
    expect(text()).toMatch(/rope.*Buy rope at Stalls for 10, sell at Wharf for 13: \+3 a round, 720 an hour/)
    expect(text()).toContain('buy for 13, 0 a round')
    const { comesIn, goesOut, stays } = economy.flow.now
    expect(comesIn - goesOut).toBeCloseTo(stays, 6)
    view('Table')
    await until(() => expect(text()).toContain('Stays in purses'))
    expect(text()).toMatch(/Comes in.*Payouts.*Purse, 2 payouts.*Goes out.*Buying.*Stalls, 5 prices/)
  })

  it('a mend of the loop goes into the draft of its own file, and the loop is gone', async () => {
    const { drafts } = economyWorld()
    const economy = await opened()
    const loop = document.querySelectorAll<HTMLInputElement>('.mends input')[1]!
    loop.dispatchEvent(new Event('change'))
    await until(() => expect(drafts[WHARF]).toContain('"sell": 10'))
    await until(() => expect(economy.draft.book.rows.some((row) => row.loop)).toBe(false))
    expect(Object.keys(drafts)).toEqual([WHARF])
    // today's are as they were, and the draft is told beside them
    expect(economy.standing.book.rows[0]!.loop).not.toBeNull()
    await until(() => expect(text()).toContain('in the draft'))
  })

  it('a payout is changed where the flow leads to it, and taken back', async () => {
    const { drafts } = economyWorld()
    const economy = await opened()
    economy.focus = economy.flow.groups.find(({ id }) => id.includes('payout'))!.id
    await until(() => expect(text()).toContain('all of it'))
    expect(text()).toContain('line 5')
    set('How much: Run ferry', 'much')
    await until(() => expect(text()).toContain('“much” is no amount. Run ferry keeps 8.'))
    set('How much: Run ferry', '12')
    await until(() => expect(drafts[PURSE]).toContain('run-ferry: 12'))
    await useEconomyChangesStore().undo()
    await until(() => expect(drafts[PURSE]).toContain('run-ferry: 8'))
  })

  it('prices are typed, filtered, and reckoned with as one', async () => {
    const { drafts } = economyWorld()
    await opened()
    const prices = usePriceBookStore()
    view('Prices')
    await until(() => expect(text()).toContain('clay'))
    set('What players buy clay for at Stalls', '3')
    await until(() => expect(drafts[STALLS]).toContain('clay: 3'))
    await until(() => expect(document.querySelectorAll('.staged')).toHaveLength(1))
    prices.filter = { ...prices.filter, plugin: 'Stalls', words: 'l' }
    prices.reckoning = { side: 'buy', does: 'times', by: '1.2', step: '5', least: '', most: '' }
    await until(() => expect(text()).toContain('2 changes'))
    expect(prices.reckoned.changes.map(({ item, to }) => `${item} ${to}`).sort()).toEqual(['clay 5', 'lamp 25'])
    expect(prices.counts).toMatchObject({ loops: 1, changed: 1 })
    await prices.takeReckoning()
    expect(drafts[STALLS]).toContain('rope: 10\n  lamp: 25\n  clay: 5\n  brick: 6\n')
    prices.reckoning = { side: 'buy', does: 'times', by: 'x' }
    await until(() => expect(prices.reckoned.problem).toContain('“x” is none'))
  })

  it('a weight changes what comes how often, with what it was', async () => {
    const { drafts } = economyWorld()
    await opened()
    view('Chances 1')
    await until(() => expect(text()).toContain('75 %'))
    expect(text()).toMatch(/Bank.*Pits.*one of these at each draw · 1.75 marks a draw/)
    expect(text()).toContain('9 tries')
    set('Weight of eel in Bank', '3')
    await until(() => expect(drafts[PITS]).toContain('eel: 3'))
    await until(() => expect(text()).toMatch(/75 %\s*50 %/))
  })

  it('goals are told in hours of play, for today’s numbers and the draft’s', async () => {
    const { kept } = economyWorld()
    const economy = await opened()
    view('Goals 2')
    await until(() => expect(text()).toContain('A first day'))
    button('one more').click()
    await until(() => expect(economy.goals).toHaveLength(3))
    set('How many of goal 3', '40')
    set('Hours of goal 3', '6')
    await until(() => expect(kept.assumed.goals?.at(-1)).toMatchObject({ count: 40, hours: 6 }))
    button('Take out goal 3').click()
    await until(() => expect(kept.assumed.goals).toHaveLength(2))
  })

  it('who may only look changes nothing', async () => {
    economyWorld()
    useSessionStore().$patch({ me: { name: 'isolde', role: 'viewer' } } as never)
    await opened()
    expect(document.querySelector('.mends')).toBeNull()
    expect(field('Players of Regulars, inferred').disabled).toBe(true)
    view('Prices')
    await until(() => expect(text()).toContain('clay'))
    expect(document.querySelector('.price-field')).toBeNull()
  })

  it('says where nothing moves money, what could not be read, and what it could not reach', async () => {
    economyWorld({ facts: factsFrom({}), unread: [{ file: 'a.yml', problem: 'a.yml is no text.' }] })
    show(Economy)
    await until(() => expect(text()).toContain('Nothing here moves money yet'))
    expect(text()).toContain('a.yml is no text. The rest is reckoned without it.')
  })

  it('the spine tells what each plugin gives and takes', async () => {
    economyWorld()
    await useEconomyStore().load()
    show(WhereMoneyMoves)
    await until(() => expect(text()).toMatch(/Purse\s*\+\d/))
    expect(text()).toMatch(/Stalls\s*−\d/)
    document.querySelector<HTMLElement>('button')!.click()
    expect(usePriceBookStore().filter.plugin).not.toBe('')
  })
})

describe('what is assumed', () => {
  it('is typed and kept, an empty field goes back to what is inferred, and so does f', async () => {
    const { kept } = economyWorld()
    const economy = await opened()
    set('Players of Traders, inferred', '30')
    await until(() => expect(kept.assumed.kinds.find(({ id }) => id === 'trader')?.players).toBe(30))
    set('Run ferry, Regulars, inferred', '9')
    const activity = `${PURSE}#/payouts/run-ferry`
    await until(() => expect(kept.assumed.rates[activity]).toEqual({ regular: 9 }))
    await until(() => field('Run ferry, Regulars, typed'))
    field('Run ferry, Regulars, typed').dispatchEvent(new KeyboardEvent('keydown', { key: 'f', bubbles: true }))
    await until(() => expect(kept.assumed.rates).toEqual({}))
    set('Players of Traders, typed', '')
    await until(() => expect(kept.assumed.kinds.find(({ id }) => id === 'trader')?.players).toBeNull())
    set('Hours a day of Regulars, inferred', '40')
    await until(() => expect(economy.problem).toContain('“40” is no number of hours'))
  })
  it('kinds come and go, and their goals with them', async () => {
    const { kept } = economyWorld()
    const economy = await opened()
    button('other kinds of players').click()
    await until(() => field('Name of one more kind'))
    field('Name of one more kind').value = 'Night watch'
    field('Name of one more kind').dispatchEvent(new Event('input'))
    await until(() => expect(button('add').disabled).toBe(false))
    button('add').click()
    await until(() => expect(economy.kinds.at(-1)).toMatchObject({ name: 'Night watch', like: 'regular' }))
    economy.setGoals([{ thing: 'item rope', count: 1, kind: economy.kinds.at(-1)!.id, hours: 2 }])
    await until(() => button('Take out Night watch'))
    button('Take out Night watch').click()
    await until(() => expect(kept.assumed).toMatchObject({ goals: [] }))
    expect(economy.kinds).toHaveLength(3)
  })
  it('somebody else’s is shown where it was saved meanwhile', async () => {
    const { answers, kept } = economyWorld()
    const economy = await opened()
    answers['PUT /economy/assumed'] = () => {
      kept.assumed = { ...kept.assumed, rates: { 'buys Stalls': { regular: 7 } } }
      kept.revision = 4
      throw { status: 409, code: 'assumptions-changed', title: 'maren changed what is assumed meanwhile.' }
    }
    economy.setRate('buys Stalls', 'regular', 2)
    await until(() => expect(economy.problem).toContain('maren changed'))
    expect(economy.assumed.rates).toEqual({ 'buys Stalls': { regular: 7 } })
  })
})

describe('days that are lived', () => {
  it('are lived with today’s numbers and the draft’s, anew when they change, and end when they are cancelled', async () => {
    economyWorld()
    const economy = await opened()
    const days = useEconomyDaysStore()
    await until(() => expect(days.lived.map(({ version }) => version)).toEqual(['today']))
    expect(text()).toContain('All there is')
    await useEconomyChangesStore().write([{ file: PURSE, pointer: '/payouts/run-ferry', to: '20' }])
    await until(() => expect(days.lived.map(({ version }) => version)).toEqual(['today', 'draft']))
    const [today, draft] = days.lived.map(({ outlook }) => outlook.supply.at(-1)!.middle)
    expect(draft).toBeGreaterThan(today!)
    expect(economy.people[0]!.rates).toBeDefined()
    const going = days.live()
    expect(days.isLiving).toBe(true)
    days.stop()
    expect([days.isLiving, days.lived.length]).toEqual([false, 2])
    void going
  })
})

describe('prices held against others', () => {
  it('updates, which leave out nothing that they do not change', async () => {
    const { answers } = economyWorld()
    const facts = factsFrom({
      [STALLS]: '# What items cost, in marks.\nprices:\n  rope: 10\n  lamp: 25\n  clay: 2\n  brick: 6\n  net: 12\n',
    })
    answers['GET /economy/update'] = { part: { plugins: ['Stalls'], facts } }
    const economy = await opened()
    await until(() => expect(economy.update).not.toBeNull())
    const prices = usePriceBookStore()
    await prices.hold('update')
    prices.filter = { ...prices.filter, only: 'changed' }
    expect(prices.rows.map(({ item }) => item)).toEqual(['lamp'])
    expect(economy.update!.streams.find(({ name }) => name === 'run-ferry')?.amount).toBe(8)
    view('Prices')
    await until(() => expect(text()).toContain('with the updates'))
    expect(document.querySelector('.was')!.textContent).toBe('25')
    // a page without them is there none the less
    answers['GET /economy/update'] = () => {
      throw { status: 500, code: 'place-failed', title: 'no' }
    }
    await economy.loadUpdates()
    expect([economy.update, economy.problem]).toEqual([null, ''])
  })

  it('another server as it stands, or the past', async () => {
    const { answers } = economyWorld()
    const other = factsFrom({
      [STALLS]: '# What items cost, in marks.\nprices:\n  rope: 11\n  lamp: 20\n  clay: 2\n  brick: 6\n  net: 12\n',
    })
    answers['GET /api/servers/night-market/economy'] = { facts: other, standing: null }
    answers['GET /economy/before'] = () => {
      throw { status: 404, code: 'not-found', title: 'There is no change with this number.' }
    }
    await opened()
    const prices = usePriceBookStore()
    await prices.hold('server night-market')
    expect(prices.before!.get('rope')!.buy!.amount).toBe(11)
    prices.filter = { ...prices.filter, only: 'changed' }
    expect(prices.rows.map(({ item }) => item)).toEqual(['rope', 'eel'])
    await prices.hold('before 4')
    expect([prices.problem, prices.before]).toEqual(['There is no change with this number.', null])
  })
})
