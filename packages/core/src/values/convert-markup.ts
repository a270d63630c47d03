import { SWITCHES, colourCodeOf, endMarkOf } from './codes'
import { MarkupReader, placeholderName, type Markup, type TextRun, type TextStyle } from './markup'

/** A text in another family's markup, and what that family has no code for. */
export interface Converted {
  readonly text: string
  /** What is lost: looks, as `colour #d9930d` or `bold`, and codes nobody tells of, as `code <shine>`. */
  readonly lost: readonly string[]
}

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
  const [open = '{', close = '}'] = to.placeholder
  return open + placeholderName(from, text) + close
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
    for (const name of SWITCHES) if (wanted[name] && !this.style[name]) out += this.codeFor(name)
    if (wanted.colour !== undefined && wanted.colour !== this.style.colour) out += this.colourCode(wanted.colour)
    return out
  }

  private endOf(name: keyof TextStyle): string {
    if (this.style[name] === undefined) return ''
    const mark = endMarkOf(this.markup, name)
    // where only all can be ended, what goes on begins anew
    if (mark) this.style = mark.ends === 'all' ? {} : { ...this.style, [name]: undefined }
    return mark?.code ?? ''
  }

  private codeFor(name: (typeof SWITCHES)[number]): string {
    const mark = this.markup.marks.find((one) => !one.ends && one[name])
    if (!mark) {
      this.lost.add(name)
      return ''
    }
    this.style = { ...this.style, [name]: true }
    return mark.code
  }

  private colourCode(colour: string): string {
    const code = colourCodeOf(this.markup, colour)
    if (code === null) this.lost.add(`colour ${colour}`)
    else this.style = { ...this.style, colour }
    return code ?? ''
  }
}
