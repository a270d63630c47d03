import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MarkupReader, seenLength, type Mark, type TextStyle } from '../src'

const MARKS: readonly Mark[] = [
  { code: '[amber]', colour: '#e8b04a' },
  { code: '[am]', italic: true },
  { code: '[#{colour}]', colour: '#000000' },
  { code: '[/]', ends: 'colour' },
  { code: '[b]', bold: true },
  { code: '[/b]', ends: 'bold' },
  { code: '[none]', ends: 'all' },
]
const CODES = '\\[/?#?[a-z0-9]*\\]'
const reader = new MarkupReader({ marks: MARKS, codes: CODES, lineBreak: '[br]', placeholder: ['{', '}'] })
const plain = (style: TextStyle, text: string) => ({ ...style, text, is: 'text' })

/** A piece of text with how it looks, and how that is written so that it ends with the piece. */
const pieces = fc.record({
  text: fc.stringMatching(/^[a-zäöü ,.!']{1,12}$/),
  look: fc.constantFrom<readonly [TextStyle, string, string]>(
    [{}, '', ''],
    [{ colour: '#e8b04a' }, '[amber]', '[/]'],
    [{ colour: '#12ab9f' }, '[#12ab9f]', '[/]'],
    [{ bold: true }, '[b]', '[/b]'],
    [{ colour: '#e8b04a', bold: true }, '[b][amber]', '[none]'],
  ),
})

describe('texts as players read them', () => {
  it('look as they were marked, piece by piece, and nothing of them is lost', () => {
    fc.assert(
      fc.property(fc.array(pieces, { minLength: 1, maxLength: 8 }), (parts) => {
        const text = parts.map(({ text: words, look: [, open, close] }) => open + words + close).join('')
        const [line] = reader.read(text)
        const wanted = parts.flatMap(({ text: words, look: [style] }) => [...words].map((letter) => ({ letter, ...style })))
        const seen = line!.flatMap(({ text: words, is: _is, ...style }) => [...words].map((letter) => ({ letter, ...style })))
        expect(seen).toEqual(wanted)
        expect(seen.length).toBe(seenLength(text, new RegExp(CODES, 'g')))
      }),
    )
  })

  it('any text at all is read, and what is no code stays', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const shown = reader.read(text)
        const kept = shown
          .flat()
          .map((run) => run.text)
          .join('')
        expect([...kept].length).toBeLessThanOrEqual([...text].length)
        if (!/[[\]{}\n]/.test(text)) expect(shown).toEqual(text === '' ? [[]] : [[plain({}, text)]])
      }),
    )
  })

  it.each<[string, unknown]>([
    ['One[br]Two\nThree', [[plain({}, 'One')], [plain({}, 'Two')], [plain({}, 'Three')]]],
    ['[am]x', [[plain({ italic: true }, 'x')]]],
    ['[amber]{player}[/] pays', [[{ colour: '#e8b04a', text: '{player}', is: 'placeholder' }, plain({}, ' pays')]]],
    ['[teal]x', [[{ text: '[teal]', is: 'unknown' }, plain({}, 'x')]]],
    ['{ not one }', [[plain({}, '{ not one }')]]],
    ['{open', [[plain({}, '{open')]]],
    ['', [[]]],
  ])('%j', (text, lines) => expect(reader.read(text)).toEqual(lines))

  it.each([
    ['plain words', false],
    ['two\nlines', true],
    ['[b]x', true],
    ['{player}', true],
  ])('%j looks another way than it is written: %s', (text, is) => expect(reader.isMarked(text)).toBe(is))
})
