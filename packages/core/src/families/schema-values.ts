import { string } from 'yup'
import { isPlainPath } from './paths'

const isPattern = (value: string | undefined): boolean => {
  try {
    return value === undefined || Boolean(new RegExp(value))
  } catch {
    return false
  }
}
/** A regular expression. */
export const pattern = string().test('pattern', '${path} is no regular expression', isPattern)
/** One that fits whole lines: a line that merely holds the words is not said by the console itself. */
export const anchored = pattern.matches(/^\^/, '${path} must begin with ^, so that it fits whole lines only')
/** A JSON Pointer. */
export const pointer = string().matches(/^(\/|$)/, '${path} must be a JSON Pointer, as in /name')

/** Words in braces that a place or a command may hold. */
const KNOWN_WORDS = [
  'plugin',
  'folder',
  'home',
  'data',
  'version',
  'player',
  'id',
  'node',
  'group',
  'term',
  'command',
  'place',
  'their-home',
  'their-folder',
  'profile',
]
/** A place or a command with words in braces. */
export const template = string().test('words', '', function (value) {
  const unknown = [...(value ?? '').matchAll(/\{([\w-]+)\}/g)].map(([, word]) => word!).find((word) => !KNOWN_WORDS.includes(word))
  const message = `${this.path} holds {${unknown}}, which stands for nothing. Known are ${KNOWN_WORDS.map((word) => `{${word}}`).join(', ')}`
  return unknown === undefined || this.createError({ message })
})
/** A path below the server's folder: no way out of it, and no backslashes. */
export const place = template.test('place', '${path} must be a path below the server’s folder, with slashes', (value) =>
  isPlainPath((value ?? 'x').replace(/\/$/, '')),
)
/** A setting of a file. */
export const setting = { file: place.required(), at: pointer.required() }
