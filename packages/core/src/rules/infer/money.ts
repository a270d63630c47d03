import { nameWords } from '../../carry/likeness'
import type { Role } from '../rule'
import { endsWith, hasWord, type Look } from './look'
import {
  ASKED,
  BACK,
  BEGINS,
  BOUGHT,
  BOUNDS,
  ENTRANCE,
  CASH,
  COUNTED,
  DEBTS,
  ECONOMY,
  FEES,
  GIFTS,
  HOLDS,
  areBounds,
  LEAST,
  LEVIES,
  LOST,
  MOST,
  PAYS,
  PAID_IN,
  PRICES,
  SELLS,
  SHARES,
  TAKES,
  WEALTH_LOST,
  core,
  has,
  isPaidAct,
  isRounds,
  isFirst,
  isMoneyName,
  isMoneyPart,
  isNoMoney,
  isOf,
  isOtherThing,
  isSizeOnly,
  type Name,
} from './money-words'

/*
 * Which numbers are money, and which way they send it, from the player's side. One name says little by itself: `price` is what is paid
 * unless it stands in `sell`, and `amount` is money only in a section that is called after money. So its own words are asked first,
 * then the sections it is in, the nearest first.
 */

const MONEY = /\b(?:money|coins?|marks?|credits?|currency|cash|price|costs?|pays?|paid|sold|worth|balance)\b/i

/** So many sections up it is looked for what a number is about. */
const NEAR = 4

/** The sections a setting is in, the nearest first, each by its words. */
const sectionsOf = ({ around }: Look): Names => around.namesAbove.slice(-NEAR).reverse().map(core)

type Way = 'in' | 'out'
/** Names of sections, the nearest first. */
type Names = readonly Name[]

/** Which way money goes by what a name says; null where it says nothing of it. */
const wayOf = (name: Name): Way | null => (has(name, SELLS) || has(name, PAYS) ? 'in' : has(name, TAKES) || has(name, FEES) ? 'out' : null)

/** What a number is in the trade, by its own name and those of the sections it is in; undefined where it is no money. */
export function moneyRole(look: Look, isPercent: boolean): Role | undefined {
  if (isOtherThing(look.words)) return undefined
  const name = core(look.words)
  const sections = sectionsOf(look)
  const share = shareRole(look, name, sections, isPercent)
  if (share || isPercent) return share
  if (isFee(look, name, sections)) return 'fee'
  if (isStart(look, name, sections)) return 'start-money'
  if (isBound(look)) return undefined
  return ownRole(look, name, sections) ?? sizeRole(look, sections) ?? listRole(look, sections)
}

/** Shares of what somebody has or pays: below one, or of a hundred where anything says so. */
function shareRole(look: Look, name: Name, sections: Names, isPercent: boolean): Role | undefined {
  const { comment, entry } = look
  const amount = Number.parseFloat(look.texts[0]!)
  const isNamed = has(name, SHARES) || has(look.words, SHARES)
  if (!(amount >= 0 && amount <= 100)) return undefined
  const about = name.findLast((word) => !SHARES.has(word)) ?? sections[0]?.at(-1)
  const isShare = amount < 1 || isPercent || isNamed
  const isBack =
    /\bshare of (?:the|their|its) (?:price|cost|value|worth)\b/i.test(comment) &&
    hasWord(look, 'buy', 'resale', 'sell', 'pay', 'back', 'refund')
  if (amount <= 1 && isBack) return 'resale'
  // by percent it is an interest however large, since a whole balance a day is none
  const isBank = sections.some((section) => has(section, ECONOMY))
  if (about === 'interest' && (isShare || isBank) && !has(look.words, DEBTS)) return 'interest'
  if (!isShare) return undefined
  const isOfWealth = /\b(?:balance|account|fortune|wealth|what (?:players|they) have)\b/i.test(`${comment} ${entry.key}`)
  // what comes round by itself is taken of what somebody has, for nothing is paid then
  const isRound = (): boolean => [...look.around.names].some((key) => isRounds(nameWords(key)))
  if (isOf(about, LEVIES)) return isOfWealth || isRound() ? 'wealth-tax' : 'tax'
  if (isOf(about, FEES) && (isPercent || isNamed)) return 'tax'
  if (has(look.words, WEALTH_LOST) && has(look.words, HOLDS)) return 'wealth-tax'
  if (has(name, BACK)) return 'resale'
  return has(name, SELLS) && has(look.words, SHARES) && amount <= 1 ? 'resale' : undefined
}

function isFee(look: Look, name: Name, sections: Names): boolean {
  if (isOf(name.at(-1), FEES) || hasWord(look, 'fee') || (isOf(name.at(-1), ENTRANCE) && MONEY.test(look.comment))) return true
  if (has(name, LOST)) return has(name, HOLDS) || MONEY.test(look.comment) || sections.some((section) => has(section, ECONOMY))
  const [parent] = sections
  return isOf(parent?.at(-1), FEES) && (look.around.areAllNumbers || isSize(look))
}

/** What one has to begin with: `starting-balance`, `start` where money is spoken of, and what those get who come for the first time. */
function isStart(look: Look, name: Name, sections: Names): boolean {
  const all = look.words
  if (isNoMoney(all)) return false
  if (has(all, HOLDS) && (has(all, BEGINS) || isFirst(all))) return isOf(name.at(-1), HOLDS) || endsWithStart(look)
  if (endsWithStart(look)) return MONEY.test(look.comment) || has(sections[0] ?? [], ECONOMY)
  return isOf(name.at(-1), HOLDS) && sections.slice(0, 2).some(isFirst)
}

const endsWithStart = (look: Look): boolean => endsWith(look, 'start', 'starting', 'initial')

/** What money may be at least and at most is no money by itself, but where both stand in an entry and say what is paid. */
function isBound({ words: own, around }: Look): boolean {
  if (own.length < 2 ? !has(own, BOUNDS) : !has(own, LEAST) && !has(own, MOST)) return false
  if (around.above.length === 0 || has(own, PRICES) || own.includes('balance')) return true
  return ![...around.names].some((key) => areBounds(own, nameWords(key)))
}

/** By its own name, and where that only says that it is money, by the sections it is in. */
function ownRole(look: Look, name: Name, sections: Names): Role | undefined {
  const { comment, head, entry } = look
  const last = name.at(-1)
  const isWhole = !/\bshare\b|percent/i.test(comment)
  if (isOf(last, SELLS) || (isOf(last, PRICES) && has(name, SELLS))) return 'payout'
  if ((isOf(last, PRICES) || isOf(last, BOUGHT)) && isWhole) {
    const isBare = name.length === 1 && PRICES.has(last!)
    return isBare && nearest(sections, SELLS, TAKES) === 'in' ? 'payout' : 'price'
  }
  if (isOf(last, PAYS) && isWhole) return 'payout'
  // what it brings is worth something beside a price, or of a thing
  if (last === 'worth' && [...look.around.names].some((key) => isThing(key) || isMoneyName(nameWords(key)))) return 'payout'
  if (isOf(last, CASH)) return isTaken(sections) ? 'price' : 'payout'
  const isGift = isOf(last, GIFTS) && (has(name, CASH) || MONEY.test(`${comment} ${head} ${entry.key}`))
  return isGift ? 'payout' : undefined
}

/** Whether the nearest section that says which way its money goes is one that is paid by: `cost: { money: 5 }`. */
const isTaken = (sections: Names): boolean =>
  sections
    .slice(0, 2)
    .map(wayOf)
    .find((way) => way !== null) === 'out'

/** Which of two kinds of words the nearest section has that has any. */
function nearest(sections: Names, ins: ReadonlySet<string>, outs: ReadonlySet<string>): Way | null {
  for (const section of sections) {
    if (has(section, ins)) return 'in'
    if (has(section, outs)) return 'out'
  }
  return null
}

const isSize = (look: Look): boolean => isSizeOnly(look.words)

/** How much, in a section that is called after money: `paycheck: { amount: 50 }`, `money: { min: 5, max: 10 }`. */
function sizeRole(look: Look, sections: Names): Role | undefined {
  const [parent, ...outer] = sections
  if (!isSize(look) || parent === undefined) return undefined
  // beside a price, an amount counts the goods
  if ([...look.around.names].some((key) => isMoneyName(nameWords(key)) || isThing(key))) return undefined
  const last = parent.at(-1)
  if (isOf(last, PAYS) || (isOf(last, PRICES) && has(parent, SELLS))) return 'payout'
  if (isOf(last, PRICES)) return nearest(outer, SELLS, TAKES) === 'in' ? 'payout' : 'price'
  // entries that say nothing but how much: `payouts: { fish: { min: 3, max: 8 } }`, `mob-money: { eel: { min: 1, max: 5, chance: 50 } }`
  const names = (): readonly Name[] => [...look.around.names].map(nameWords)
  const isOfPay = isOf(outer[0]?.at(-1), PAYS) && names().every(isSizeOnly)
  const isBetween = isOf(outer[0]?.at(-1), PAID_IN) && names().some((other) => areBounds(look.words, other))
  if (!isMoneyPart(parent) && (isOfPay || isBetween)) return 'payout'
  const isBalance = has(look.words, BOUNDS) && outer.length === 0
  return isOf(last, CASH) && !isBalance ? (isTaken(outer) ? 'price' : 'payout') : undefined
}

const isThing = (key: string): boolean => /^(?:item|material|good|product)s?$/i.test(key)

/** Numbers of a section that has nothing else: prices, payouts or fees by the names of what they are of. */
function listRole(look: Look, sections: Names): Role | undefined {
  const { around, head } = look
  const [parent] = sections
  if (isNoMoney(look.words) || has(look.words, SHARES) || has(look.words, LEVIES)) return undefined
  if (around.wordsAbove.includes('payout') || isPaidAct(around.namesAbove)) return 'payout'
  if (!around.areAllNumbers || parent === undefined) return undefined
  const isPriced = has(parent, PRICES) || parent.includes('worth')
  if ((has(parent, SELLS) || parent.includes('worth')) && (around.areItems || isPriced)) return 'payout'
  if (isOf(parent.at(-1), PAYS) && !parent.includes('pay')) return 'payout'
  // goods by their categories: `sell: { ores: { clay: 2 }, food: { eel: 3 } }`
  const trade = sections[1]?.at(-1)
  if (around.areItems && !isNoMoney(parent) && !has(parent, COUNTED)) {
    if (isOf(trade, SELLS)) return 'payout'
    if (isOf(trade, BOUGHT)) return 'price'
  }
  const isBought = has(parent, TAKES) && around.areItems && !has(parent, ASKED)
  return isBought || around.wordsAbove.some((word) => PRICES.has(word)) || /\bwhat [\w ]*costs?\b|\bprices?\b/i.test(head)
    ? nearest(sections, SELLS, TAKES) === 'in'
      ? 'payout'
      : 'price'
    : undefined
}
