import { MarkupReader, type Mark, type Markup, type TextRun, type TextStyle } from './markup'

/** A text in another family's markup, and what that family has no code for. */
export interface Converted {
  readonly text: string
  /** What is lost: looks, as `colour #d9930d` or `bold`, and codes nobody tells of, as `code <shine>`. */
  readonly lost: readonly string[]
}

const SWITCHES = ['bold', 'italic', 'underline', 'struck'] as const

/**
 * Writes a text of one family as another family writes it: the same letters in the same looks, placeholders between the other's marks.
 * A colour the other has no code for is taken by the code for any colour, else it is lost and told.
 */
export function convertMarkup(text: string, from: Markup, to: Markup): Converted {
  const lost = new Set<string>()
  const writer = new Writer(to, lost)
  const lines = new MarkupReader(from).read(text)
  for (const { is, text: code } of lines.flat()) if (is === 'unknown') lost.add(`code ${code}`)
  const written = lines.map((line, i) => {
    const words = line.map((run) => writer.write(run, wordsOf(run, from, to))).join('')
    // what does not go on in the next line ends in this one
    return words + writer.endBefore(lines[i + 1]?.find(({ is }) => is !== 'unknown') ?? {})
  })
  return { text: written.join(to.lineBreak ?? '\n'), lost: [...lost] }
}

function wordsOf({ is, text }: TextRun, from: Markup, to: Markup): string {
  if (is === 'unknown') return ''
  if (is === 'text') return text
  const [open = '{', close = '}'] = from.placeholder
  const [other = '{', end = '}'] = to.placeholder
  return other + text.slice(open.length, text.length - close.length) + end
}

/** Writes runs with the codes that lead from one look to the next. */
class Writer {
  private style: TextStyle = {}

  constructor(
    private readonly markup: Markup,
    private readonly lost: Set<string>,
  ) {}

  write(run: TextRun, words: string): string {
    return words === '' ? '' : this.lead(run) + words
  }

  /** Ends what the next run does not have. */
  endBefore(wanted: TextStyle): string {
    const ended = SWITCHES.filter((name) => this.style[name] && !wanted[name])
    const colourEnds = this.style.colour !== undefined && wanted.colour === undefined
    return [...ended, ...(colourEnds ? (['colour'] as const) : [])].map((name) => this.endOf(name)).join('')
  }

  private lead(wanted: TextStyle): string {
    let out = this.endBefore(wanted)
    for (const name of SWITCHES) if (wanted[name] && !this.style[name]) out += this.codeFor((mark) => mark[name] === true, name)
    if (wanted.colour !== undefined && wanted.colour !== this.style.colour) out += this.colourCode(wanted.colour)
    return out
  }

  private endOf(name: (typeof SWITCHES)[number] | 'colour'): string {
    if (this.style[name] === undefined) return ''
    // of several that end it the last is the one that is meant for that alone
    const mark = this.markup.marks.findLast(({ ends }) => ends === name)
    if (mark) {
      this.style = { ...this.style, [name]: undefined }
      return mark.code
    }
    // where only all can be ended, what goes on begins anew
    const all = this.markup.marks.find(({ ends }) => ends === 'all')
    if (!all) return ''
    this.style = {}
    return all.code
  }

  private codeFor(fits: (mark: Mark) => boolean, name: (typeof SWITCHES)[number]): string {
    const mark = this.markup.marks.find((one) => !one.ends && fits(one))
    if (!mark) {
      this.lost.add(name)
      return ''
    }
    this.style = { ...this.style, [name]: true }
    return mark.code
  }

  private colourCode(colour: string): string {
    const named = this.markup.marks.find((mark) => !mark.ends && mark.colour?.toLowerCase() === colour.toLowerCase())
    const any = this.markup.marks.find(({ code }) => code.includes('{colour}'))
    if (!named && !any) {
      this.lost.add(`colour ${colour}`)
      return ''
    }
    this.style = { ...this.style, colour }
    return named ? named.code : any!.code.replace('{colour}', any!.code.includes('#{colour}') ? colour.slice(1) : colour)
  }
}
