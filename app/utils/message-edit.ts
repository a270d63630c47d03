import { SWITCHES, colourCodeOf, endMarkOf, type Mark, type Markup } from '@pasticcio/core'

/** What of the tools is unfolded; empty for nothing. */
export type ToolPanel = '' | 'placeholder' | 'codes' | 'gradient'

/** Part of a text, as a field has it. */
export interface Selection {
  readonly from: number
  readonly to: number
}

/** A text with where the caret, or what is chosen, stands afterwards. */
export interface Edited extends Selection {
  readonly text: string
}

/** Puts something at the caret, in the place of what is chosen. */
export function inserted(text: string, { from, to }: Selection, what: string): Edited {
  return { text: text.slice(0, from) + what + text.slice(to), from: from + what.length, to: from + what.length }
}

/** Puts codes around what is chosen; where they stand around it already, takes them away. */
export function wrapped(text: string, { from, to }: Selection, open: string, close: string): Edited {
  const before = text.slice(0, from)
  const after = text.slice(to)
  if (before.endsWith(open) && after.startsWith(close) && close !== '')
    return {
      text: before.slice(0, -open.length) + text.slice(from, to) + after.slice(close.length),
      from: from - open.length,
      to: to - open.length,
    }
  return { text: before + open + text.slice(from, to) + close + after, from: from + open.length, to: to + open.length }
}

/** What ends a code: the family's own code for it, else the one that ends all. */
export function endOf(markup: Pick<Markup, 'marks'>, mark: Mark): string {
  const isColour = mark.colour !== undefined || mark.code.includes('{colour}')
  const look = isColour ? 'colour' : SWITCHES.find((name) => mark[name])
  return (look && endMarkOf(markup, look)?.code) ?? ''
}

/** What a code does, in words. */
export function saysOf(mark: Mark): string {
  if (mark.colour !== undefined) return 'colour'
  if (mark.code.includes('{colour}')) return 'any colour, six digits'
  if (mark.ends !== undefined) return `ends ${mark.ends === 'all' ? 'all' : mark.ends}`
  return SWITCHES.find((name) => mark[name]) ?? ''
}

/** Colours of a family by their codes, those that stand for any six digits left out. */
export const coloursOf = ({ marks }: Pick<Markup, 'marks'>): readonly Mark[] =>
  marks.filter(({ colour, code }) => colour !== undefined && !code.includes('{colour}'))

const channels = (colour: string): number[] => [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16))
const between = (a: string, b: string, share: number): string =>
  `#${channels(a)
    .map((part, i) =>
      Math.round(part + (channels(b)[i]! - part) * share)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`

/**
 * A text whose letters go from one colour to another; blanks get no code. Where the family knows only colours by name, each letter
 * has the nearest of them, and letters that have the same share one code.
 */
export function blended(markup: Pick<Markup, 'marks'>, text: string, from: string, to: string): string {
  const letters = [...text]
  const visible = letters.filter((letter) => letter.trim() !== '').length
  let at = 0
  let last = ''
  let out = ''
  for (const letter of letters) {
    if (letter.trim() === '') {
      out += letter
      continue
    }
    const wanted = between(from, to, visible > 1 ? at++ / (visible - 1) : 0)
    const code = colourCodeOf(markup, wanted) ?? nearestCode(markup, wanted)
    out += code === last ? letter : code + letter
    last = code
  }
  const mark = markup.marks.find(({ colour }) => colour !== undefined) ?? markup.marks.find(({ code }) => code.includes('{colour}'))
  return out + (mark ? endOf(markup, mark) : '')
}

function nearestCode(markup: Pick<Markup, 'marks'>, colour: string): string {
  const far = (one: string): number => channels(one).reduce((sum, part, i) => sum + (part - channels(colour)[i]!) ** 2, 0)
  return [...coloursOf(markup)].sort((a, b) => far(a.colour!) - far(b.colour!))[0]?.code ?? ''
}

/** A line and the one before or after it change places. */
export function movedLine(lines: readonly string[], at: number, by: 1 | -1): readonly string[] {
  const to = at + by
  if (at < 0 || to < 0 || at >= lines.length || to >= lines.length) return lines
  const moved = [...lines]
  ;[moved[at], moved[to]] = [moved[to]!, moved[at]!]
  return moved
}
