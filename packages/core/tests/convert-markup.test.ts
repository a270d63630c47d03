import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { plainText } from '../../standin/src/behaviours/plain-text'
import { markupOf } from '../src/checks'
import { readFamily } from '../src/families/family'
import { convertMarkup } from '../src/values/convert-markup'
import { MarkupReader, type Markup, type TextRun } from '../src/values/markup'

const familyOf = (id: string): Markup => markupOf(readFamily(readFileSync(`families/${id}.yml`, 'utf8')))
const ARCHIVE = familyOf('archive')
const SCRIPT = familyOf('script')
/** A family that is described here alone: one sign before each code, one code that ends all, and any colour. */
const THIRD: Markup = {
  placeholder: ['<<', '>>'],
  lineBreak: '~n',
  codes: '\\^(?:[a-z]|#[0-9a-f]{6})',
  marks: [
    { code: '^#{colour}' },
    { code: '^k', bold: true },
    { code: '^s', italic: true },
    { code: '^u', underline: true },
    { code: '^x', struck: true },
    { code: '^r', ends: 'all' },
  ],
}
const FAMILIES = [ARCHIVE, SCRIPT, THIRD] as const

/** What is seen: letters with their looks, names of placeholders without their marks. */
function seen(markup: Markup, text: string): string[] {
  const [open = '', close = ''] = markup.placeholder
  const look = ({ text: words, is, colour, bold, italic, underline, struck }: TextRun): string[] => {
    const name = is === 'placeholder' ? `{${words.slice(open.length, words.length - close.length)}}` : words
    if (is === 'unknown') return []
    // blanks look alike whatever colour they have
    return [...(is === 'placeholder' ? [name] : name)].map(
      (letter) => `${letter} ${[colour, bold, italic, underline, struck].map(String).join(' ')}`,
    )
  }
  return new MarkupReader(markup).read(text).flatMap((line, i) => [...(i > 0 ? ['newline'] : []), ...line.flatMap(look)])
}

/** Texts with codes in any order, nested, unclosed and broken. */
const textOf = (markup: Markup): fc.Arbitrary<string> => {
  const [open, close] = markup.placeholder
  const codes = markup.marks.map(({ code }) => code.replace('{colour}', code.includes('#{colour}') ? 'a1b2c3' : '#a1b2c3'))
  const part = fc.oneof(
    fc.constantFrom(...codes, markup.lineBreak!),
    fc.constantFrom(`${open}player${close}`, `${open}left`, 'The tide', ' turns ', 'É', '7', '.'),
  )
  return fc.array(part, { maxLength: 12 }).map((parts) => parts.join(''))
}

describe('texts of one family written as another writes them', () => {
  it('look alike to the other’s reader, but for what is told to be lost', () => {
    const cases = fc
      .tuple(fc.constantFrom(...FAMILIES), fc.constantFrom(...FAMILIES))
      .chain(([from, to]) => fc.record({ from: fc.constant(from), to: fc.constant(to), text: textOf(from) }))
    fc.assert(
      fc.property(cases, ({ from, to, text }) => {
        // what would be a code or placeholder of the other by chance is no case of this
        fc.pre(!text.includes(`${from.placeholder[0]!}left`))
        const { text: written, lost } = convertMarkup(text, from, to)
        const [before, after] = [seen(from, text), seen(to, written)]
        if (lost.length === 0) expect(after).toEqual(before)
        else expect(after.map((one) => one.split(' ')[0])).toEqual(before.map((one) => one.split(' ')[0]))
      }),
      { numRuns: 1000 },
    )
  })

  it.each([
    ['[amber]{player}[/] comes.', ARCHIVE, SCRIPT, '<amber>%{player}</> comes.', []],
    ['<#d9930d>%{player}</> may carry more.', SCRIPT, THIRD, '^#d9930d<<player>>^r may carry more.', []],
    [
      '<#d9930d>%{player}</>',
      SCRIPT,
      { ...ARCHIVE, marks: ARCHIVE.marks.filter(({ code }) => !code.includes('{')) },
      '{player}',
      ['colour #d9930d'],
    ],
    ['[b]one[br]two[/b]', ARCHIVE, SCRIPT, '<b>one<br>two</b>', []],
    ['^ubelow', THIRD, ARCHIVE, 'below', ['underline']],
  ] as const)('%s', (text, from, to, written, lost) => {
    const converted = convertMarkup(text, from, to)
    expect(converted.lost).toEqual(lost)
    expect(converted.text.replace('<br>', to.lineBreak ?? '\n')).toBe(written.replace('<br>', to.lineBreak ?? '\n'))
  })
})

it('a text without its codes is what the stand-in server tells a player, for any of them', () => {
  const values: Record<string, string> = { player: 'nessa', left: '3' }
  const fill = (text: string): string => text.replace(/\{(\w+)\}/g, (_all, name: string) => values[name] ?? name)
  fc.assert(
    fc.property(textOf(ARCHIVE), (text) => {
      fc.pre(!text.includes('{left'))
      const lines = new MarkupReader(ARCHIVE).read(text)
      const ours = lines.map((line) =>
        line.map(({ is, text: words }) => (is === 'unknown' ? '' : is === 'placeholder' ? fill(words) : words)).join(''),
      )
      expect(ours.join('\n')).toBe(plainText(fill(text)))
    }),
  )
})
