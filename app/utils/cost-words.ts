import type { LoadMark } from './types'

const WHY = { 'too-early': 'too early', 'too-few': 'too little measured', 'not-alike': 'never as many players' } as const

/** Why a change has no number; empty for one that has. */
export const whyNoCost = (cost: LoadMark['cost']): string => (cost === null ? 'it was stopped' : typeof cost === 'string' ? WHY[cost] : '')

/** A difference with its sign, of which a tenth counts. */
export function signed(change: number): string {
  const tenths = Math.round(change * 10) / 10
  if (tenths === 0) return '0'
  return `${tenths > 0 ? '+' : '−'}${Math.abs(tenths).toFixed(1)}`
}

/** Whether a change made a server faster or slower, by as much as one can see. */
export function costLook(change: number): 'ok' | 'err' | '' {
  return signed(change) === '0' ? '' : change > 0 ? 'ok' : 'err'
}

/** Letters for marks: a to z, then aa, ab and so on. */
export function letterOf(index: number): string {
  const last = String.fromCharCode(97 + (index % 26))
  return index < 26 ? last : letterOf(Math.floor(index / 26) - 1) + last
}
