import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { parseDocument } from 'yaml'
import { applyEdits } from '../src/text/edits'
import { setValue } from '../src/formats/operations'
import { UNSAID, type Reading } from '../src/formats/reading'
import { parse, parseLike, readingFor } from '../src/formats/registry'
import { toJson } from '../src/tree/values'
import type { FormatId } from '../src/tree/nodes'

const family = (yaml: '1.1' | '1.2', comments: boolean) => ({ reading: { yaml, 'json-comments': comments } })

describe('one policy for reading', () => {
  it.each([
    ['a.json', null, false],
    ['a.jsonc', null, true],
    ['a.json5', null, true],
    ['a.json', family('1.2', true), true],
    ['a.json', family('1.2', false), false],
    ['lang/en.jsonc', family('1.2', false), true],
  ] as const)('%s on a server of %j allows comments: %s', (path, known, allowed) => {
    const reading = readingFor(path, known)
    expect(reading.jsonComments).toBe(allowed)
    const codes = parse('{ // note\n  "a": 1,\n}', 'json', reading).findings.map((finding) => finding.code)
    expect(codes).toEqual(allowed ? [] : ['comment-not-allowed', 'extra-comma'])
  })

  it('stays with the document, also when it is read again', () => {
    const document = parse('{ // note\n  "a": 1\n}', 'json', readingFor('a.jsonc'))
    expect(parseLike(document, document.text.replace('1', '2')).findings).toEqual([])
    expect(parseLike({ ...document, reading: UNSAID }, document.text).findings).toHaveLength(1)
  })

  it('says what an older reader takes otherwise only where nobody said how the platform reads', () => {
    const told = (yaml: Reading['yaml']): number => parse('a: yes\nb: 12:30\n', 'yaml', { ...UNSAID, yaml }).findings.length
    expect([told('unsaid'), told('1.1'), told('1.2')]).toEqual([2, 0, 0])
  })
})

describe('YAML 1.1', () => {
  const older: Reading = { jsonComments: false, yaml: '1.1' }
  const read = (text: string): unknown => {
    const document = parse(text, 'yaml', older)
    return toJson(document, document.root)
  }

  it('reads plain values as another reader of 1.1 does', () => {
    const word = fc.oneof(
      fc.constantFrom('yes', 'No', 'ON', 'off', 'true', 'False', 'yEs', 'y', 'n', '~', 'null', 'x', '0', '-0', '+1'),
      fc.stringMatching(/^[-+]?0[0-7]{1,4}$/),
      fc.stringMatching(/^[-+]?[1-9][0-9]{0,2}(:[0-5]?[0-9]){1,2}$/),
      fc.stringMatching(/^[1-9][0-9]{0,2}_[0-9]{3}$/),
      fc.stringMatching(/^0x[0-9a-f]{1,4}$/),
      fc.stringMatching(/^0b[01]{1,6}$/),
      fc.stringMatching(/^0o[0-7]{1,3}$/),
      fc.stringMatching(/^[0-9]{1,3}\.[0-9]{1,3}$/),
    )
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 6 }), (words) => {
        const text = words.map((item, i) => `k${i}: ${item}\n`).join('')
        // single letters are switches to the letter of 1.1, and texts to its readers
        fc.pre(!words.some((item) => /^[yn]$/i.test(item)))
        expect(read(text), text).toEqual(parseDocument(text, { version: '1.1' }).toJS())
      }),
      { numRuns: 500 },
    )
  })

  it.each([
    ['yes', false, 'no'],
    ['Yes', false, 'No'],
    ['OFF', true, 'ON'],
    ['off', true, 'on'],
    ['true', false, 'false'],
    ['False', true, 'True'],
  ] as const)('a switch written %s is set to %s in the same words', (was, value, becomes) => {
    const document = parse(`a: ${was} # note\n`, 'yaml', older)
    expect(applyEdits(document.text, setValue(document, ['a'], value))).toBe(`a: ${becomes} # note\n`)
  })

  it.each(['json', 'lua', 'ini'] as FormatId[])('means nothing to %s', (format) => {
    expect(parse('a = 1', format, older).findings).toEqual(parse('a = 1', format).findings)
  })
})
