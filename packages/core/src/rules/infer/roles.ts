import type { Role, Rule } from '../rule'
import { nameWords } from '../../carry/likeness'
import { amountsInText } from '../money-text'
import { PERCENT_TEXT } from '../units'
import { hasWord, type Look } from './look'
import { moneyRole } from './money'

/** What stands beside the delay after which something is to be had again. */
const HAD = new Set(['item', 'content', 'reward', 'cost', 'price', 'money', 'gift', 'command'])

/** A delay of a kit or a reward, and none before or between anything: `delay: 86400` beside what one gets. */
const isDelayOfGoods = (look: Look): boolean =>
  look.words.length === 1 && look.words[0] === 'delay' && [...look.around.names].some((name) => HAD.has(nameWords(name).at(-1) ?? ''))

const isPause = (look: Look): boolean => hasWord(look, ...PAUSES) || isDelayOfGoods(look)

/** Names of stretches of time until something may be done again. */
const PAUSES = ['cooldown', 'pause', 'again', 'wait'] as const

/** What a setting is in the trade, by its name, its meaning and what is said of it; undefined where it is nothing special. */
export function roleOf(look: Look, found: Partial<Rule>): Role | undefined {
  const { means } = found
  if (means === 'secret') return 'secret'
  if (means === 'node') return 'permission'
  if (means === 'coordinates') return 'coordinate'
  if (means === 'weight') return 'chance'
  if (means === 'time') return 'schedule'
  if (look.isList) return undefined
  if (means === 'duration' && look.kind === 'text') return isPause(look) ? 'cooldown' : undefined
  // an amount in a text of its own
  if (look.kind === 'text' && means === undefined) {
    const [text] = look.texts
    return PERCENT_TEXT.test(text!) ? moneyRole(look, true) : amountsInText(text!).length > 0 ? moneyRole(look, false) : undefined
  }
  if (look.kind !== 'number') return undefined
  if (hasWord(look, 'cooldown') || (means === 'duration' && hasWord(look, ...PAUSES)) || isDelayOfGoods(look)) return 'cooldown'
  if (means === 'duration') return undefined
  if (hasWord(look, 'version') && hasWord(look, 'config', 'settings', 'file')) return 'version-stamp'
  return means === undefined ? moneyRole(look, found.unit === 'percent') : undefined
}

/** The port of the server's own that a port has to be the same as, where its comment says so. */
export const sameAsIn = (comment: string): Pick<Rule, 'sameAs'> =>
  /\b(?:must be|has to be|same as|equals?|matches|match)\b[^.\n]*\b(?:port of the (?:game )?server|server['’]s (?:own )?port|game port)\b/i.test(
    comment,
  )
    ? { sameAs: 'game' }
    : {}
