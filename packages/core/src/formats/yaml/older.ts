import type { Resolved } from './scalars'

/** What a plain value is to a reader of YAML 1.1, with the words for it. */
export interface Older extends Resolved {
  readonly words: string
}

const number = (value: number): Older => ({ kind: 'number', value, words: `the number ${value}` })
const text = (value: string, words = 'a text'): Older => ({ kind: 'text', value, words })

/** What a plain value is to a reader of YAML 1.1 (yaml.org/type, 2005) where YAML 1.2 reads it otherwise; null where both agree. */
export function olderReading(source: string): Older | null {
  const first = source.charCodeAt(0)
  // letters other than those of yes, no, on and off cannot start any of these, and most values start so
  const letter = (first | 32) >= 97 && (first | 32) <= 122
  if (letter) {
    if (source.length > 3) return null
    if (/^(yes|Yes|YES|on|On|ON)$/.test(source)) return { kind: 'bool', value: true, words: 'the switch true' }
    return /^(no|No|NO|off|Off|OFF)$/.test(source) ? { kind: 'bool', value: false, words: 'the switch false' } : null
  }
  if (!(first >= 48 && first <= 57) && first !== 43 && first !== 45 && first !== 46) return null
  if (/^\d{4}-\d\d?-\d\d?([Tt ].*)?$/.test(source)) return text(source, 'a date')
  if (/^[-+]?0[0-7_]+$/.test(source) && /[1-7]/.test(source)) return number(parseInt(source.replaceAll('_', ''), 8))
  if (/^[-+]?[1-9][0-9_]*(:[0-5]?[0-9])+(\.[0-9_]*)?$/.test(source)) return number(sixties(source))
  if (/^[-+]?[0-9][0-9_]*_[0-9_]*(\.[0-9_]*)?$/.test(source)) return number(Number(source.replaceAll('_', '')))
  if (/^0b[01_]+$/.test(source)) return number(parseInt(source.slice(2).replaceAll('_', ''), 2))
  if (/^0o[0-7]+$/.test(source) || /^[-+]?[0-9]+[eE][0-9]+$/.test(source)) return text(source)
  return /^[-+]?\.[0-9]+$/.test(source)
    ? { kind: 'number', value: Number(source), words: 'a text, as many readers want a digit in front of the point' }
    : null
}

/** Base 60: hours, minutes, seconds. */
function sixties(source: string): number {
  const sign = source.startsWith('-') ? -1 : 1
  return (
    sign *
    source
      .replace(/^[-+]/, '')
      .replaceAll('_', '')
      .split(':')
      .reduce((sum, part) => sum * 60 + Number(part), 0)
  )
}
