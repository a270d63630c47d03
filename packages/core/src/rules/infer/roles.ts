import type { Role, Rule } from '../rule'
import { amountsInText } from '../money-text'
import { PERCENT_TEXT } from '../units'
import { hasWord, type Look } from './look'
import { moneyRole } from './money'

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
  if (means === 'duration' && look.kind === 'text') return hasWord(look, ...PAUSES) ? 'cooldown' : undefined
  // an amount in a text of its own
  if (look.kind === 'text' && means === undefined) {
    const [text] = look.texts
    return PERCENT_TEXT.test(text!) ? moneyRole(look, true) : amountsInText(text!).length > 0 ? moneyRole(look, false) : undefined
  }
  if (look.kind !== 'number') return undefined
  if (hasWord(look, 'cooldown') || (means === 'duration' && hasWord(look, ...PAUSES))) return 'cooldown'
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
