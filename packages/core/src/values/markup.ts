import type { SurfaceId } from '../messages/message'
import { escaped } from '../text/patterns'

/** How letters look; what is left out is as the game has it. */
export interface TextStyle {
  /** Six digits of red, green and blue after `#`. */
  readonly colour?: string
  readonly bold?: boolean
  readonly italic?: boolean
  readonly underline?: boolean
  readonly struck?: boolean
}
const STYLES = ['colour', 'bold', 'italic', 'underline', 'struck'] as const

/** What one code of a family does to the letters after it. `{colour}` in the code stands for six digits, which are the colour. */
export interface Mark extends TextStyle {
  readonly code: string
  /** What it ends, instead; `all` for everything. */
  readonly ends?: (typeof STYLES)[number] | 'all'
}

/** How the texts of a family are written. */
export interface Markup {
  readonly marks: readonly Mark[]
  /** A pattern of what is no text; codes that no mark tells of are found by it. */
  readonly codes: string | null
  readonly lineBreak: string | null
  /** What stands before and after the name of a placeholder. */
  readonly placeholder: readonly string[]
  /** How much of a text is seen where, and on what ground. */
  readonly surfaces?: Readonly<Partial<Record<SurfaceId, SurfaceLimits>>>
}

/** How a text is seen in one place. */
export interface SurfaceLimits {
  readonly letters?: number | undefined
  readonly rows?: number | undefined
  readonly ground?: 'dark' | 'light' | undefined
}

/** Letters that look alike. */
export interface TextRun extends TextStyle {
  readonly text: string
  /** `placeholder` is filled in by the game; an `unknown` code is none the family tells of, and most likely shown as it stands. */
  readonly is: 'text' | 'placeholder' | 'unknown'
}

/** What finds placeholders in texts, with their names. */
export function placeholderPattern({ placeholder: [open = '{', close = '}'] }: Pick<Markup, 'placeholder'>): RegExp {
  return new RegExp(`${escaped(open)}([\\w.:-]+)${escaped(close)}`, 'g')
}

/** The name of a placeholder, without what stands around it. */
export function placeholderName({ placeholder: [open = '{', close = '}'] }: Pick<Markup, 'placeholder'>, text: string): string {
  return text.slice(open.length, text.length - close.length)
}

/** Reads texts as players see them: its codes are compiled once. */
export class MarkupReader {
  private readonly marks: readonly { readonly mark: Mark; readonly pattern: RegExp }[]
  private readonly codes: RegExp | null

  constructor(private readonly markup: Markup) {
    this.codes = markup.codes === null ? null : new RegExp(markup.codes, 'y')
    // of two that begin alike the longer one is meant
    const sorted = [...markup.marks].sort((a, b) => b.code.length - a.code.length)
    this.marks = sorted.map((mark) => ({
      mark,
      pattern: new RegExp(mark.code.split('{colour}').map(escaped).join('(#?[0-9a-fA-F]{6})'), 'y'),
    }))
  }

  /** The lines of a text, each as runs of letters that look alike. */
  read(text: string): readonly (readonly TextRun[])[] {
    const lines: TextRun[][] = [[]]
    let style: TextStyle = {}
    const add = (run: TextRun): void => {
      const line = lines.at(-1)!
      const last = line.at(-1)
      if (last?.is === 'text' && run.is === 'text' && STYLES.every((key) => last[key] === run[key]))
        line[line.length - 1] = { ...last, text: last.text + run.text }
      else line.push(run)
    }
    for (let at = 0; at < text.length;) {
      const broken = this.breakAt(text, at)
      const marked = broken === 0 ? this.markAt(text, at, style) : null
      const code = marked ? '' : this.found(this.codes, text, at)
      const named = marked || code ? '' : this.placeholderAt(text, at)
      if (broken > 0) lines.push([])
      else if (marked) style = marked.style
      else if (code) add({ ...style, text: code, is: 'unknown' })
      else if (named) add({ ...style, text: named, is: 'placeholder' })
      const letter = String.fromCodePoint(text.codePointAt(at)!)
      if (broken === 0 && !marked && !code && !named) add({ ...style, text: letter, is: 'text' })
      at += broken || marked?.length || code.length || named.length || letter.length
    }
    return lines
  }

  /** Whether a text has anything that looks another way than it is written. */
  isMarked(text: string): boolean {
    return this.read(text).some((line, i) => i > 0 || line.some((run) => run.is !== 'text' || STYLES.some((key) => run[key] !== undefined)))
  }

  private breakAt(text: string, at: number): number {
    if (text[at] === '\n') return 1
    const { lineBreak } = this.markup
    return lineBreak && text.startsWith(lineBreak, at) ? lineBreak.length : 0
  }

  private markAt(text: string, at: number, style: TextStyle): { readonly length: number; readonly style: TextStyle } | null {
    for (const { mark, pattern } of this.marks) {
      pattern.lastIndex = at
      const hit = pattern.exec(text)
      if (hit) return { length: hit[0].length, style: styleAfter(mark, style, hit[1]) }
    }
    return null
  }

  private placeholderAt(text: string, at: number): string {
    const [open = '{', close = '}'] = this.markup.placeholder
    if (!text.startsWith(open, at)) return ''
    const end = text.indexOf(close, at + open.length)
    const name = end < 0 ? '' : text.slice(at + open.length, end)
    return /^[\w.:-]+$/.test(name) ? text.slice(at, end + close.length) : ''
  }

  private found(pattern: RegExp | null, text: string, at: number): string {
    if (!pattern) return ''
    pattern.lastIndex = at
    return pattern.exec(text)?.[0] ?? ''
  }
}

function styleAfter({ ends, code: _code, ...adds }: Mark, style: TextStyle, digits: string | undefined): TextStyle {
  if (ends === 'all') return {}
  if (ends) return Object.fromEntries(Object.entries(style).filter(([key]) => key !== ends)) as TextStyle
  return { ...style, ...adds, ...(digits === undefined ? {} : { colour: `#${digits.replace('#', '')}` }) }
}
