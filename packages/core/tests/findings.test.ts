import { describe, expect, it } from 'vitest'
import { LineIndex } from '../src/text/lines'
import { applyEdits } from '../src/text/edits'
import { parse } from '../src/formats/registry'
import { checkRules } from '../src/rules/check'
import { RuleBook } from '../src/rules/book'
import { inferRules } from '../src/rules/infer'
import { readDescription } from '../src/rules/description'
import type { Rule } from '../src/rules/rule'
import type { FormatId } from '../src/tree/nodes'

const readRules = (data: unknown): readonly Rule[] => readDescription(JSON.stringify(data))

/** What is wrong, where, and what the rest of the file still reads as. Tests name codes and lines, not wording. */
const rows: readonly (readonly [name: string, format: FormatId, text: string, findings: readonly string[]])[] = [
  ['intact', 'yaml', 'a: 1\nb:\n  - x\n', []],
  ['tab in the indentation', 'yaml', 'a:\n\tb: 1\nc: 2\n', ['tab-indent 2']],
  ['one space too many', 'yaml', 'a: 1\n b: 2\nc: 3\n', ['bad-indent 2']],
  ['one space too few', 'yaml', 'a:\n  b: 1\n c: 2\nd: 3\n', ['bad-indent 3']],
  ['no colon', 'yaml', 'a: 1\nprice 5\nc: 2\n', ['missing-colon 2']],
  ['no colon in the first line', 'yaml', 'price 5\nc: 2\n', ['missing-colon 1']],
  ['no space behind the colon', 'yaml', 'a: 1\nb:2\nc: 3\n', ['missing-colon 2']],
  ['a quote that never closes', 'yaml', 'a: 1\nb: "open\nc: 3\nd: 4\n', ['unclosed-quote 2']],
  ['a bracket that never closes', 'yaml', 'a: [1, 2\nb: 3\n', ['unclosed-bracket 1']],
  ['text behind a quoted value', 'yaml', 'a: "x" y\nb: 1\n', ['text-after-value 1']],
  ['a key twice', 'yaml', 'a: 1\nb: 2\na: 3\n', ['duplicate-key 3']],
  ['an escape that means nothing', 'yaml', 'a: "\\q"\n', ['bad-escape 1']],
  ['a reference to nothing', 'yaml', 'a: &x 1\nb: *x\nc: *y\n', ['unknown-alias 3']],
  ['a comma missing at the end of a line', 'json', '{\n  "a": 1\n  "b": 2\n}', ['missing-comma 2']],
  ['a comma too many', 'json', '{\n  "a": 1,\n}', ['extra-comma 2']],
  ['an equals sign', 'json', '{\n  "a" = 1\n}', ['missing-colon 2']],
  ['a quote that never closes', 'json', '{\n  "a": "x,\n  "b": 2\n}', ['unclosed-quote 2']],
  ['curly quotes', 'json', '{\n  “a”: 1\n}', ['syntax 2']],
  ['single quotes', 'json', "{ 'a': 1 }", ['syntax 1']],
  ['a brace that never closes, named where it opened', 'json', '{\n  "a": {\n    "b": 1\n}\n', ['unclosed-bracket 2']],
  ['brackets that match, oddly indented', 'json', '{\n    "a": [\n    {\n      "b": 1\n  }\n  ]\n}\n', []],
  ['comments where none are allowed', 'json', '{ // x\n}', ['comment-not-allowed 1']],
  ['a key twice', 'properties', 'a=1\nb=2\na=3\n', ['duplicate-key 3']],
  ['half an escape', 'properties', 'a=\\u12\n', ['bad-escape 1']],
]

describe('findings', () => {
  it.each(rows)('%s (%s)', (_name, format, text, expected) => {
    const index = new LineIndex(text)
    expect(parse(text, format).findings.map((finding) => `${finding.code} ${index.position(finding.from).line}`)).toEqual(expected)
  })

  it.each([
    ['yaml', 'a:\n\tb: 1\n'],
    ['yaml', 'a: 1\n b: 2\n'],
    ['yaml', 'a: 1\nprice 5\n'],
    ['yaml', 'a: 1\nb:2\n'],
    ['yaml', 'a: "\\q"\n'],
    ['json', '{\n  "a": 1\n  "b": 2\n}'],
    ['json', '{"a": 1,}'],
    ['json', '{"a" = 1}'],
    ['json', '{“a”: 1}'],
    ['json', '{a: yes}'],
  ] as const)('the fixes of %s mend %j', (format, text) => {
    let now: string = text
    for (let i = 0; i < 5; i++) {
      const finding = parse(now, format).findings.find((item) => item.fix)
      if (finding) now = applyEdits(now, finding.fix!.edits)
    }
    expect(parse(now, format).findings).toEqual([])
  })

  it('reads on after a mistake', () => {
    const document = parse('a: 1\nbroken line\nb: "open\nc:\n  d: 4\n', 'yaml')
    expect(document.root.type === 'map' && document.root.entries.map((entry) => entry.key)).toEqual(['a', 'b', 'c'])
  })
})

describe('slips in the other formats', () => {
  it.each([
    ['xml', '<a b="x>\n  <c/>\n</a>\n', '1 unclosed-quote'],
    ['xml', '<a>\n  <b>1\n  <c/>\n</a>\n', '2 unclosed-tag'],
    ['xml', '<a>\n  <b>1</c>\n</a>\n', '2 unclosed-tag'],
    ['xml', '<a b=x/>\n', '1 unclosed-quote'],
    ['xml', '<a>a & b</a>\n', '1 bad-escape'],
    ['xml', '<a b="1" b="2"/>\n', '1 duplicate-key'],
    ['xml', '<a/>\n</b>\n', '2 unclosed-tag'],
    ['lua', 'x = {\n  a = 1\n  b = 2,\n}\n', '2 missing-comma'],
    ['lua', 'x = {\n  a = 1,\n  b: 2,\n}\n', '3 missing-equals'],
    ['lua', 'x = "abc\ny = 1\n', '1 unclosed-quote'],
    ['lua', 'x = {\n  a = {\n    b = 1,\n  c = 2,\n}\n', '2 unclosed-bracket'],
    ['lua', 'function f()\n  if a then\n    b()\nend\nx = 1\n', '2 unclosed-block'],
    ['lua', 'x = 1,\ny = 2\n', '1 extra-comma'],
    ['lua', 'x = {\n  ["a"] = 1,\n  "b": 2,\n}\n', '3 missing-equals'],
    ['lua', 'x = { a = 1, a = 2 }\n', '1 duplicate-key'],
    ['lua', 'x = 1}\ny = 2\n', '1 text-after-value'],
    ['lua', 'x 5\n', '1 missing-equals'],
    ['ini', 'a = 1\nb 2\n', '2 missing-equals'],
    ['ini', '[a\nb = 1\n', '1 unclosed-bracket'],
    ['ini', 'a = "x\n', '1 unclosed-quote'],
    ['ini', 'a = 1\na = 2\n', '2 duplicate-key'],
    ['script', "const A = 'x\nconst B = 1\n", '1 syntax'],
    ['script', 'const A = { x: 1\n  y: 2 }\nconst B = 1\n', '1 syntax'],
  ] as const)('%s %j', (format, text, expected) => {
    const index = new LineIndex(text)
    expect(
      parse(text, format)
        .findings.filter((finding) => finding.severity !== 'note')
        .map((finding) => `${index.position(finding.from).line} ${finding.code}`),
    ).toEqual([expected])
  })

  it('read on behind the mistake', () => {
    const keys = (text: string, format: FormatId): string[] => {
      const { root } = parse(text, format)
      return root.type === 'map' ? root.entries.map((entry) => entry.key) : []
    }
    expect(keys('x = "abc\ny = 1\n', 'lua')).toEqual(['x', 'y'])
    expect(keys("const A = 'x\nconst B = 1\n", 'script')).toEqual(['B'])
  })
})

describe('what reads, but says something else than was meant', () => {
  const said = (text: string): string[] => {
    const index = new LineIndex(text)
    return parse(text, 'yaml').findings.map((finding) => `${index.position(finding.from).line} ${finding.severity} ${finding.code}`)
  }

  it.each([
    ['a: no\n', 'the switch false'],
    ['a: On\n', 'the switch true'],
    ['a: 12:30\n', 'the number 750'],
    ['a: 010\n', 'the number 8'],
    ['a: 1_000\n', 'the number 1000'],
    ['a: .5\n', 'a text'],
    ['a: 2026-11-23\n', 'a date'],
    ['a: 1e3\n', 'a text'],
    ['a: 0b11\n', 'the number 3'],
    ['- [yes, x]\n', 'the switch true'],
  ])('%j is %s to a reader of YAML 1.1', (text, reading) => {
    expect(said(text)).toEqual(['1 note older-reading'])
    expect(parse(text, 'yaml').findings[0]!.message).toContain(reading)
  })

  it.each([
    'a: "no"\n',
    'a: 10\n',
    'a: 0\n',
    'a: yesterday\n',
    'a: 1.5e+3\n',
    'at: reed:clay\n',
    'l:\n  - reed:clay\n  - http://x\n',
    'b: &x\n  c: 1\nd: *x\n',
    'a: 1 #note\n',
    'a: # note\n  b: 1\n',
    'n:\n  -5\n',
  ])('%j is what it seems', (text) => {
    expect(said(text)).toEqual([])
  })

  it.each([
    ['s:\n  price:5\n', ['2 warning missing-space']],
    ['l:\n  -reed\n', ['2 warning missing-space']],
    ['l:\n  - a\n  -b\n  - c\n', ['3 error missing-space']],
    ['l:\n  - a: 1\n  - b:2\n', ['3 warning missing-space']],
    ['c: #c98a0b\nd: 1\n', ['1 warning swallowed']],
    ['t: &aHello you\n', ['1 warning swallowed']],
    ['t: “Hello”\n', ['1 warning wrong-quote']],
    ['t: @here\n', ['1 error syntax']],
    ['a: no\nb: no\nc:\n  d:1\n  e: 2\nf: 3\n', ['1 note older-reading', '2 note older-reading', '4 warning missing-space']],
  ])('%j says %j', (text, expected) => {
    expect(said(text)).toEqual(expected)
  })

  it('mends each with its fix', () => {
    for (const text of ['s:\n  price:5\n', 'l:\n  -reed\n', 'c: #c98a0b\n', 't: &aHello you\n', 't: “Hello”\n', 't: @here\n']) {
      const [finding] = parse(text, 'yaml').findings
      expect(parse(applyEdits(text, finding!.fix!.edits), 'yaml').findings, text).toEqual([])
    }
  })
})

describe('rules from a factory copy', () => {
  const factory = parse(
    '# In seconds. At least 10.\nsave: 300\n# One of: refuse, drop, mail\nfull: refuse\non: true\n# How loud, 0 to 1.\nloud: 0.6\n# At most 5 letters.\ntitle: abc\nlist: [a]\nh:\n  a:\n    price: 1\n    n: x\n  b:\n    price: 2\n    n: y\n',
    'yaml',
  )
  const rules = inferRules(factory)

  it('knows kind, unit, bounds and choices', () => {
    const book = new RuleBook(rules)
    expect(book.find(['save'])).toMatchObject({ path: '/save', kind: 'number', min: 10, unit: 'second' })
    expect(book.find(['full'])?.choices).toEqual(['refuse', 'drop', 'mail'])
    expect(book.find(['loud'])).toMatchObject({ min: 0, max: 1 })
    expect(book.find(['h', 'brand-new', 'price'])?.kind).toBe('number')
  })

  it.each([
    ['save: soon\n', 'number-expected'],
    ['save: 5\n', 'out-of-range'],
    ['full: burn\n', 'unknown-choice'],
    ['on: maybe\n', 'kind-changed'],
    ['loud: 5\n', 'out-of-range'],
    ['title: far too long\n', 'too-long'],
    ['list: a\n', 'kind-changed'],
    ['h:\n  c:\n    price: much\n', 'number-expected'],
    ['save:\n', 'kind-changed'],
  ])('%j is found to be %s', (text, code) => {
    expect(checkRules(parse(text, 'yaml'), rules).map((finding) => finding.code)).toEqual([code])
  })

  it('has nothing against the factory copy itself', () => {
    expect(checkRules(factory, rules)).toEqual([])
  })

  it('says what is wrong with rules that are none', () => {
    expect(() => readRules({})).toThrow('list of rules')
    expect(() => readRules([{ path: 'x' }])).toThrow('rule 1')
    expect(readRules({ rules: [{ path: '/a', kind: 'number' }] })).toHaveLength(1)
  })
})

describe('rules where every value is a text', () => {
  const codes = (format: FormatId, factory: string, mine: string): string[] =>
    checkRules(parse(mine, format), inferRules(parse(factory, format))).map((finding) => `${finding.severity} ${finding.code}`)

  it.each([
    ['ini', '; From 1 to 9.\na = 5\n', 'a = 7\n', []],
    ['ini', '; From 1 to 9.\na = 5\n', 'a = 12\n', ['warning out-of-range']],
    ['ini', 'a = 5\n', 'a = five\n', ['warning number-expected']],
    ['ini', 'a = yes\n', 'a = perhaps\n', ['warning kind-changed']],
    ['ini', 'a = yes\n', 'a = off\n', []],
    ['ini', 'a = words\n', 'a = 5\n', []],
    ['properties', '# At least 1.\na=5\n', 'a=-5\n', ['warning out-of-range']],
    ['properties', 'a=5\n', 'a=\n', ['warning kind-changed']],
    ['properties', '# One of: low, high.\na=low\n', 'a=lower\n', ['warning unknown-choice']],
    ['xml', '<s><!-- from 1 to 9 --><a>5</a></s>', '<s><a>50</a></s>', ['warning out-of-range']],
  ] as const)('%s %j against %j', (format, factory, mine, expected) => {
    expect(codes(format, factory, mine)).toEqual(expected)
  })

  it('count when they are declared, too', () => {
    const rules = readRules([{ path: '/a', kind: 'number', min: 1 }])
    expect(checkRules(parse('a=5\n', 'properties'), rules)).toEqual([])
    expect(checkRules(parse('a = 0\n', 'ini'), rules).map((finding) => finding.code)).toEqual(['out-of-range'])
  })
})
