import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { turnOff, turnOn } from '../src/formats/commented'
import { parse } from '../src/formats/registry'
import { LENIENT } from '../src/formats/reading'
import type { FormatId } from '../src/formats/registry'
import { notSet } from '../src/rules/off'
import { applyEdits } from '../src/text/edits'
import { getNode } from '../src/tree/pointer'
import { isContainer } from '../src/tree/nodes'

const inSection = (format: FormatId, text: string, keys: readonly string[] = []) => {
  const document = parse(text, format, LENIENT)
  const node = getNode(document, keys)
  return node && isContainer(node) ? notSet(document, node) : []
}
const names = (format: FormatId, text: string, keys?: readonly string[]): string[] =>
  inSection(format, text, keys).map(({ key, source }) => `${key}=${source}`)

describe('settings that stand in comments', () => {
  it.each<[FormatId, string, string[]]>([
    ['yaml', 'a: 1\n#b: 2\n', ['b=2']],
    ['yaml', 'a: 1\n# b-c: "two words"\n', ['b-c="two words"']],
    ['yaml', 'a: 1\n# b: [x, y]\n', ['b=[x, y]']],
    ['yaml', 'a: 1\n# b: true # the default\n', ['b=true']],
    ['yaml', '# b:\n#   c: 1\na: 1\n', ['b=']],
    ['lua', 'return {\n  a = 1,\n  --b = 60,\n}\n', ['b=60']],
    ['ini', '[x]\na = 1\n;b = 2\n', []],
    ['properties', 'a=1\n#b=2\n', ['b=2']],
    ['json', '{\n  // "b": 2,\n  "a": 1\n}\n', ['b=2']],
  ])('%s: %j', (format, text, expected) => expect(names(format, text)).toEqual(expected))

  it('of a section of INI stand in it', () => expect(names('ini', '[x]\na = 1\n;b = 2\n', ['x'])).toEqual(['b=2']))

  it.each([
    '# After a change: reload the plugin',
    '# note: read this first',
    '# Default: 5',
    '# Markup: [amber]..[/] colours',
    '# b: what players see in chat',
    '# b: low, fair or high',
    '# One of: low, high',
    '# See https://a.example/x',
    '# 12:30 is noon',
    '# a: 2',
    '# Capital: 5',
  ])('“%s” is a remark', (line) => expect(names('yaml', `a: 1\n${line}\nz: 1\n`)).toEqual([]))

  it('belong to the section whose column they have', () => {
    const text = 'fair:\n  on: true\n  #early: 5\nprizes:\n  main: reed\n#late: 6\n'
    expect(names('yaml', text, ['fair'])).toEqual(['early=5'])
    expect(names('yaml', text, ['prizes'])).toEqual([])
    expect(names('yaml', text)).toEqual(['late=6'])
  })

  it('have the words above them, up to the next of their kind', () => {
    const [first, second] = inSection('yaml', 'a: 1\n# Closes early,\n# in ticks.\n#early: 5\n#late: 6\n')
    expect(first?.comment).toBe('Closes early,\nin ticks.')
    expect(second?.comment).toBe('')
  })

  it('set and put back, the file is as it was but for a blank behind the mark', () => {
    const name = fc.constantFrom('early', 'late-call', 'fee')
    const value = fc.constantFrom('5', 'true', '"a b"', '[1, 2]', 'reed')
    fc.assert(
      fc.property(name, value, fc.constantFrom('#', '# '), fc.constantFrom('', '  '), (key, source, mark, indent) => {
        const text = `${indent === '' ? '' : 'top:\n'}${indent}a: 1\n${indent}${mark}${key}: ${source}\n`
        const keys = indent === '' ? [] : ['top']
        const before = parse(text, 'yaml', LENIENT)
        const on = applyEdits(text, turnOn(before, keys, key))
        expect(on).toBe(text.replace(mark + key, key))
        expect(names('yaml', on, keys)).toEqual([])
        expect(applyEdits(on, turnOff(parse(on, 'yaml', LENIENT), [...keys, key]))).toBe(text.replace(mark + key, `# ${key}`))
      }),
    )
  })
})
