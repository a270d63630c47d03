import type { Role, Rule } from '../rule'
import { endsWith, hasWord, type Look } from './look'

const MONEY = /\b(?:money|coins?|marks?|credits?|currency|cash|price|costs?|pays?|paid|sold|worth|balance)\b/i

/** What a setting is in the trade, by its name, its meaning and what is said of it; undefined where it is nothing special. */
export function roleOf(look: Look, found: Partial<Rule>): Role | undefined {
  const { means } = found
  if (means === 'secret') return 'secret'
  if (means === 'node') return 'permission'
  if (means === 'coordinates') return 'coordinate'
  if (means === 'weight') return 'chance'
  if (means === 'time') return 'schedule'
  if (look.kind !== 'number' || look.isList) return undefined
  if (hasWord(look, 'cooldown') || (means === 'duration' && hasWord(look, 'pause', 'again', 'wait'))) return 'cooldown'
  if (means === 'duration') return undefined
  if (hasWord(look, 'version') && hasWord(look, 'config', 'settings', 'file')) return 'version-stamp'
  return means === undefined ? moneyRole(look, found.unit === 'percent') : undefined
}

function moneyRole(look: Look, isPercent: boolean): Role | undefined {
  const { comment, around, head } = look
  if (hasWord(look, 'fee')) return 'fee'
  const share = shareRole(look, isPercent)
  if (share) return share
  if (
    /\bshare of (?:the|their|its) (?:price|cost|value|worth)\b/i.test(comment) &&
    hasWord(look, 'buy', 'resale', 'sell', 'pay', 'back', 'refund')
  )
    return 'resale'
  if (endsWith(look, 'price', 'cost', 'buy') && !/\bshare\b|percent/i.test(comment)) return 'price'
  if (endsWith(look, 'sell', 'payout', 'payment', 'bounty', 'wage')) return 'payout'
  if (hasWord(look, 'reward', 'mark', 'money', 'coin') && MONEY.test(`${comment} ${head} ${look.entry.key}`)) return 'payout'
  if (endsWith(look, 'start', 'starting', 'initial') && MONEY.test(comment)) return 'start-money'
  if (around.wordsAbove.some((word) => word === 'payout')) return 'payout'
  const isList = around.areAllNumbers && around.above.length > 0
  return isList &&
    (around.wordsAbove.some((word) => word === 'price' || word === 'cost') || /\bwhat [\w ]*costs?\b|\bprices?\b/i.test(head))
    ? 'price'
    : undefined
}

/** Shares of what somebody has or pays: below one, or of a hundred. */
function shareRole(look: Look, isPercent: boolean): Role | undefined {
  const amount = Number(look.texts[0])
  if (!(amount >= 0 && amount < (isPercent ? 100 : 1))) return undefined
  if (endsWith(look, 'interest')) return 'interest'
  if (!endsWith(look, 'tax')) return undefined
  return /\b(?:balance|account|fortune|wealth|what (?:players|they) have)\b/i.test(`${look.comment} ${look.entry.key}`)
    ? 'wealth-tax'
    : 'tax'
}

/** The port of the server's own that a port has to be the same as, where its comment says so. */
export const sameAsIn = (comment: string): Pick<Rule, 'sameAs'> =>
  /\b(?:must be|has to be|same as|equals?|matches|match)\b[^.\n]*\b(?:port of the (?:game )?server|server['’]s (?:own )?port|game port)\b/i.test(
    comment,
  )
    ? { sameAs: 'game' }
    : {}
