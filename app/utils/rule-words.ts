import type { Applies, Meaning, Need, Role, Rule } from '@pasticcio/core'
import { plural } from './counted'
import { pointerWords } from './pointer-words'

/** Meanings in words; those that say no more than how a value is written come first. */
export const MEANING_WORDS: Readonly<Record<Meaning, string>> = {
  text: 'a text',
  number: 'a number',
  switch: 'on or off',
  choice: 'one of a few',
  duration: 'a stretch of time',
  time: 'a time of day',
  id: 'one of the server’s',
  amount: 'an id and how many',
  node: 'a permission node',
  colour: 'a colour',
  coordinates: 'a place',
  angle: 'an angle in degrees',
  link: 'a link',
  host: 'an address',
  port: 'a port',
  file: 'the name of a file',
  picture: 'a picture',
  secret: 'a secret',
  slot: 'a slot',
  weight: 'a weight among others',
  command: 'a command of the console',
  code: 'code, kept as it stands',
}

/** What a setting is in the trade, in words. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  price: 'a price',
  payout: 'a payout',
  'start-money': 'money to start with',
  fee: 'a fee',
  resale: 'a share of the price',
  interest: 'a share of the balance that is paid',
  tax: 'a share of a price taken on top',
  'wealth-tax': 'a share of the balance taken',
  cooldown: 'how long one waits',
  chance: 'a chance',
  permission: 'a permission',
  message: 'a message to players',
  secret: 'a secret',
  schedule: 'when something happens',
  coordinate: 'a place',
  'version-stamp': 'the version of the file',
}

/** What makes a change count, in words. */
export const APPLIES_WORDS: Readonly<Record<Applies, string>> = {
  reload: 'after a reload',
  restart: 'after a restart',
  stopped: 'when written while the server is stopped',
}

/** What a rule says, as names and words for the margin. */
export function ruleWords(rule: Rule): readonly (readonly [name: string, words: string])[] {
  const means =
    rule.means === 'id' && rule.registry ? `one of the ${rule.registry}` : isPlain(rule.means) ? undefined : MEANING_WORDS[rule.means!]
  const lines: (readonly [string, string | undefined])[] = [
    ['Is', means],
    ['In', rule.means === 'duration' && rule.unit ? plural(rule.unit) : rule.zone],
    ['Takes', takes(rule)],
    ...(rule.said ?? []).map(({ value, says }) => [value, says] as const),
    ['Form', rule.patternSays ?? rule.pattern],
    ['Empty', rule.required ? 'it has to say something' : rule.emptyMeans],
    ['Length', rule.maxLength === undefined ? undefined : `at most ${rule.maxLength} letters`],
    ['Same as', rule.sameAs === undefined ? undefined : `the ${rule.sameAs} port of the server`],
    ['Counts with', rule.needs?.map(needWords).join(', ')],
    ['Counts', rule.applies && APPLIES_WORDS[rule.applies]],
  ]
  return lines.filter((line): line is readonly [string, string] => line[1] !== undefined)
}

const needWords = (need: Need): string => ('plugin' in need ? need.plugin : `${pointerWords(need.setting)} ${String(need.is)}`)

const PLAIN: readonly (Meaning | undefined)[] = ['text', 'number', 'switch', 'choice', undefined]
const isPlain = (means: Meaning | undefined): boolean => PLAIN.includes(means)

function takes({ choices, min, max, wholeNumber, width, height }: Rule): string | undefined {
  if (choices) return choices.join(', ')
  if (width !== undefined && height !== undefined) return `${width} by ${height}`
  const whole = wholeNumber ? ', whole numbers' : ''
  if (min !== undefined && max !== undefined) return `${min} to ${max}${whole}`
  if (min !== undefined) return `at least ${min}${whole}`
  return max !== undefined ? `at most ${max}${whole}` : wholeNumber ? 'whole numbers' : undefined
}
