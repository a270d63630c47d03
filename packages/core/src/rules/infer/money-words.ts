import { nameWords } from '../../carry/likeness'

/* The words by which authors call money, in the singular and in small letters, and what can be told by a name alone. */

const words = (list: string): ReadonlySet<string> => new Set(list.split(' '))

/** What players get money by, selling and doing. */
export const SELLS = words('sell selling sold resell')
export const PAYS = words('payout payment bounty wage income salary paycheck earning earn allowance stipend pay')
/** What they pay by, or have to have. */
export const BOUGHT = words('buy purchase')
export const PRICES = words('price cost')
export const ASKED = words('require requirement need')
export const TAKES = new Set([...PRICES, ...BOUGHT, ...ASKED, 'buying'])
export const FEES = words('fee toll fare rent upkeep')
/** What is paid to take part, where it is said in money. */
export const ENTRANCE = words('entry entrance admission ticket')
/** How often something comes round, as its settings are called. */
export const ROUNDS = words('interval every period cycle')
export const LEVIES = words('tax commission levy')
/** Paid by those who did something wrong, or died; also of other things than money. */
export const LOST = words('penalty fine lose loss')
export const WEALTH_LOST = words('lose loss')
/** Money itself, what is given of it, and what it lies in. */
export const CASH = words('money mark coin cash dollar credit')
export const GIFTS = words('reward prize bonus')
/** What sections of payments are called after, by that or by what is paid. */
export const PAID_IN = new Set([...PAYS, ...CASH])
export const HOLDS = words('money balance coin cash mark fund credit account capital')
export const ECONOMY = words('money economy bank currency wallet purse balance account')
/** Paid back of a price, and owed. */
export const BACK = words('refund resale resell buyback')
export const DEBTS = words('loan debt')
/** What newcomers have, and who they are. */
export const BEGINS = words('start starting starter initial beginning newcomer default')
const NEWCOMERS = words('newcomer starter starting start')
const ACCOUNTS = words('player account')
/** Left out at the end of a name: how much, of what, and between which bounds. */
const SIZES = words('amount value each base total default first second min max minimum maximum from to least most')
export const SHARES = words('rate percent percentage pct ratio share multiplier factor part')
export const LEAST = words('min minimum least low from')
export const MOST = words('max maximum most high to')
export const BOUNDS = words('max min maximum minimum')
/** What counts or bounds others, and is no amount of money itself. */
const COUNTS = words('limit time use count decimal chance stack slot size page row column interval')
/** Other things than money that are asked for and given. */
const NO_MONEY = words('xp exp experience level mana energy stamina hunger health durability')
/** What players do, as sections that pay for it are called. */
const ACTS = new Set([
  ...words('break place kill craft smelt brew cook fish catch dig mine chop farm harvest plant hunt breed tame shear milk build'),
  ...words('breaking placing killing crafting smelting brewing cooking fishing catching digging mining chopping farming harvesting'),
  ...words('planting hunting breeding taming shearing milking building'),
])
const DEEDS = words('bounty wage income salary paycheck earning earn')
/** What a section of its own says that is bought, sold or given. */
export const THINGS = words('item product good thing')
/** Sections of items that are counted, and not priced. */
export const COUNTED = new Set([
  ...THINGS,
  ...ASKED,
  ...GIFTS,
  ...words('content stock quantity amount ingredient weight gift give loot drop kit'),
])
const PARTS = new Set([...SELLS, ...PAYS, ...TAKES, ...FEES, ...CASH, ...GIFTS, 'interest', 'tax', 'worth'])

/** The words of a name. */
export type Name = readonly string[]

export const has = (name: Name, set: ReadonlySet<string>): boolean => name.some((word) => set.has(word))
export const isOf = (word: string | undefined, set: ReadonlySet<string>): boolean => word !== undefined && set.has(word)

/** The words of a name up to what it is counted by (`cost-per-block`), without what only says how much. */
export function core(name: Name): Name {
  const per = name.indexOf('per')
  const kept = per > 0 ? name.slice(0, per) : name
  const last = kept.findLastIndex((word) => !SIZES.has(word) && !/^\d+$/.test(word))
  return last < 0 ? kept : kept.slice(0, last + 1)
}

/** Whether a name says nothing but that something is money: `price`, `reward`, `sell-price`. */
export const isMoneyPart = (name: Name): boolean =>
  has(name, PARTS) && name.every((word) => PARTS.has(word) || SIZES.has(word) || SHARES.has(word))

/** Whether two names differ in nothing but in which bound they are: `pay-min` and `pay-max`. */
export const areBounds = (a: Name, b: Name): boolean =>
  a.length === b.length &&
  a.some((word, i) => word !== b[i]) &&
  a.every((word, i) => word === b[i] || (LEAST.has(word) && MOST.has(b[i]!)) || (MOST.has(word) && LEAST.has(b[i]!)))

/** Whether it ends with a word of money. */
export const isMoneyName = (name: Name): boolean => [CASH, PRICES, PAYS, SELLS].some((set) => isOf(name.at(-1), set))

/** Whether it says nothing but how much: `amount`, `min`, `base`, `per-plot`. */
export const isSizeOnly = (name: Name): boolean => name.length > 0 && (name[0] === 'per' || name.every((word) => SIZES.has(word)))

/** Whether it says that something is sold. */
export const isSale = (name: Name): boolean => has(name, SELLS)

/** Whether it says that something is done for money, and nothing is sold: `income`, `reward-money`. */
export const isDeed = (name: Name): boolean => !isSale(name) && (has(name, CASH) || has(name, GIFTS) || has(name, DEEDS))

/**
 * Whether a section is of something that players do and are paid for: `pay: { break: { clay: 1 } }`.
 * @param names its name behind those of the sections it is in, the outermost first
 */
export const isPaidAct = (names: readonly Name[]): boolean =>
  isAct(names.at(-1) ?? []) && names.slice(0, -1).some((name) => has(name, PAID_IN)) && !names.some(isSale)

/** Whether what stands in a section is paid for doing something with it, and no price of it. */
export const isDoneIn = (names: readonly Name[]): boolean => isDeed(names.at(-1) ?? []) || isPaidAct(names)

/** Whether it says nothing but how often something comes round: `interval`. */
export const isRounds = (name: Name): boolean => name.length > 0 && name.every((word) => ROUNDS.has(word))

/** Whether a section is called after something that players do. */
export const isAct = (name: Name): boolean => isOf(name.at(-1), ACTS)

/** Whether it says that somebody is paid for what he does, again and again: nothing is sold for that. */
export const isWage = (name: Name): boolean => has(name, DEEDS)

/** Whether it is something else than money, or only bounds or counts it. */
export const isNoMoney = (name: Name): boolean => isOtherThing(name) || has(counted(name), BOUNDS) || has(counted(name), COUNTS)

/** Whether it is something else that is asked for or given. */
export const isOtherThing = (name: Name): boolean => has(counted(name), NO_MONEY)

/** A name without what it is counted by: `cost-per-level` is no level. */
function counted(name: Name): Name {
  const per = name.indexOf('per')
  return per < 0 ? name : [...name.slice(0, per), ...name.slice(per + 2)]
}

/** Whether a word says that it is about money, as the first one of a command. */
export const isCash = (word: string): boolean => CASH.has(word) || ECONOMY.has(word) || word === 'eco'

/** Whether a name speaks of those who come for the first time. */
export const isFirst = (name: Name): boolean =>
  has(name, NEWCOMERS) || (name.includes('first') && name.includes('join')) || (name.includes('new') && has(name, ACCOUNTS))

/**
 * Whether sections beside each other are no entries of a group: what is bought and what is sold, a thing and its price, those who are
 * new and all.
 */
export function areParts(keys: readonly string[]): boolean {
  const names = keys.map(nameWords)
  const areMoney = names.some(isMoneyPart) && names.every((name) => isMoneyPart(name) || isOf(name[0], THINGS))
  return areMoney || (names.some(isFirst) && !names.every(isFirst))
}
