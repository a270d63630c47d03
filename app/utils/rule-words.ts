import type { Meaning, Rule } from '@pasticcio/core'
import { plural } from './counted'

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

/** What a rule says, as names and words for the margin. */
export function ruleWords(rule: Rule): readonly (readonly [name: string, words: string])[] {
  const means =
    rule.means === 'id' && rule.registry ? `one of the ${rule.registry}` : isPlain(rule.means) ? undefined : MEANING_WORDS[rule.means!]
  const lines: (readonly [string, string | undefined])[] = [
    ['Is', means],
    ['In', rule.means === 'duration' && rule.unit ? plural(rule.unit) : rule.zone],
    ['Takes', takes(rule)],
    ...(rule.said ?? []).map(({ value, says }) => [value, says] as const),
    ['Empty', rule.emptyMeans],
    ['Length', rule.maxLength === undefined ? undefined : `at most ${rule.maxLength} letters`],
  ]
  return lines.filter((line): line is readonly [string, string] => line[1] !== undefined)
}

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
