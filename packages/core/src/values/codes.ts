import type { Mark, Markup, TextStyle } from './markup'

type Marks = Pick<Markup, 'marks'>

/** Looks that letters have or have not. */
export const SWITCHES = ['bold', 'italic', 'underline', 'struck'] as const satisfies readonly (keyof TextStyle)[]

/** What ends a look: of several codes that end it the last, which is meant for that alone; else what ends all. */
export const endMarkOf = ({ marks }: Marks, look: keyof TextStyle): Mark | null =>
  marks.findLast(({ ends }) => ends === look) ?? marks.find(({ ends }) => ends === 'all') ?? null

/** The code for a colour of six digits: that of its name, else that for any colour; null where a family has neither. */
export function colourCodeOf({ marks }: Marks, colour: string): string | null {
  const named = marks.find((mark) => !mark.ends && mark.colour?.toLowerCase() === colour.toLowerCase())
  const any = marks.find(({ code }) => code.includes('{colour}'))
  return named?.code ?? any?.code.replace('{colour}', any.code.includes('#{colour}') ? colour.slice(1) : colour) ?? null
}
