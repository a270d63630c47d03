import type { Value } from '@pasticcio/core'
import type { ListedMessage } from './message-groups'

/** What a setting holds whose texts these are: one, a list, or a section of numbered keys, which goes on as it was numbered. */
export function settingValue({ isList, keys }: Pick<ListedMessage, 'isList' | 'keys'>, texts: readonly string[]): Value {
  if (!isList) return texts[0] ?? ''
  return keys ? new Map(texts.map((text, i) => [keyAt(keys, i), text])) : [...texts]
}

function keyAt(keys: readonly string[], at: number): string {
  const known = keys[at]
  if (known !== undefined) return known
  const [, word = '', last = '0'] = /^(.*?)(\d+)$/.exec(keys.at(-1) ?? '') ?? []
  return word + String(Number(last) + at - keys.length + 1).padStart(last.startsWith('0') ? last.length : 1, '0')
}
