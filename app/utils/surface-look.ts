import type { Markup, TextRun } from '@pasticcio/core'
import { coloursOf } from './message-edit'

/** The colour a family’s code of that name has, as the `water` of a bar; null where it has none. */
export function colourNamed(markup: Pick<Markup, 'marks'>, name: string): string | null {
  if (/^#[\da-f]{6}$/i.test(name)) return name
  const wanted = name.toLowerCase()
  return coloursOf(markup).find(({ code }) => code.replace(/[^\p{L}\d]/gu, '').toLowerCase() === wanted)?.colour ?? null
}

/** How a bar is drawn: in one, in ten parts, or striped. */
export const barStyle = (style: string): 'plain' | 'notched' | 'striped' =>
  /notch|segment|part|\d/i.test(style) ? 'notched' : /strip/i.test(style) ? 'striped' : 'plain'

/** Two letters that stand for the picture of an item, which only the game has. */
export const initialsOf = (id: string): string => {
  const [first = '', second = ''] = id.split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  return (second ? first[0]! + second[0]! : first.slice(0, 2)).toLowerCase()
}

/** A run with whether it is beyond what players see. */
export interface SeenRun extends TextRun {
  readonly isOver: boolean
}

/** A line parted where players see no more of it. @param most null for all of it */
export function cutAt(line: readonly TextRun[], most: number | null): readonly SeenRun[] {
  if (most === null) return line.map((run) => ({ ...run, isOver: false }))
  let left = most
  return line.flatMap((run) => {
    const letters = [...run.text]
    const [seen, over] = [letters.slice(0, left).join(''), letters.slice(left).join('')]
    left = Math.max(0, left - letters.length)
    return [...(seen === '' ? [] : [{ ...run, text: seen, isOver: false }]), ...(over === '' ? [] : [{ ...run, text: over, isOver: true }])]
  })
}
