import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parse as readYaml } from 'yaml'
import { mergeEdits } from '../src/carry/merge-edits'
import { UNSAID } from '../src/formats/reading'

const YAML = '# Marks.\nstart: 250\nmost: 50\n\nbank:\n  interest: 0.01\n  pause: 20\nlevels: [1, 2, 3]\n'
const edited = (mine: (text: string) => string, theirs: (text: string) => string, base = YAML, path = 'a.yml') => ({
  path,
  reading: UNSAID,
  base,
  mine: mine(base),
  theirs: theirs(base),
})
const to = (from: string, into: string) => (text: string) => text.replace(from, into)

describe('bringing two edits of one file together', () => {
  it.each([
    ['settings on neighbouring lines', to('start: 250', 'start: 1'), to('most: 50', 'most: 2'), 'start: 1\nmost: 2\n'],
    ['the same change by both', to('start: 250', 'start: 1'), to('start: 250', 'start: 1'), 'start: 1\nmost: 50\n'],
    [
      'a comment and the setting below it',
      to('# Marks.', '# Marks of a newcomer.'),
      to('start: 250', 'start: 1'),
      '# Marks of a newcomer.\nstart: 1\n',
    ],
    [
      'two settings put in at one place',
      to('most: 50\n', 'most: 50\na: 1\n'),
      to('most: 50\n', 'most: 50\nb: 1\n'),
      'most: 50\na: 1\nb: 1\n',
    ],
    [
      'what both changed alike, beside what one of them changed',
      (text: string) => text.replace('start: 250', 'start: 1').replace('most: 50', 'most: 2'),
      to('start: 250', 'start: 1'),
      'start: 1\nmost: 2\n',
    ],
    ['one that changed nothing', (text: string) => text, to('most: 50', 'most: 2'), 'start: 250\nmost: 2\n'],
    [
      'a setting taken out and one elsewhere',
      to('most: 50\n', ''),
      to('pause: 20', 'pause: 30'),
      'start: 250\n\nbank:\n  interest: 0.01\n  pause: 30\n',
    ],
  ])('%s', (_name, mine, theirs, holds) => {
    expect(mergeEdits(edited(mine, theirs))).toContain(holds)
  })

  it.each([
    ['the same setting', to('start: 250', 'start: 1'), to('start: 250', 'start: 2')],
    ['a setting and the section it is in', to('  pause: 20', '  pause: 30'), to('bank:\n  interest: 0.01\n  pause: 20\n', '')],
    ['the same new setting, in two places', to('most: 50', 'most: 50\nleast: 1'), (text: string) => 'least: 2\n' + text],
    ['the same comment', to('# Marks.', '# One.'), to('# Marks.', '# Two.')],
    ['two comments put in at one place', to('most: 50\n', '# a\nmost: 50\n'), to('most: 50\n', '# b\nmost: 50\n')],
  ])('%s comes back as both', (_name, mine, theirs) => {
    expect(mergeEdits(edited(mine, theirs))).toBeNull()
  })

  it('brings together what stands on one line', () => {
    const base = '{"start": 250, "most": 50, "bank": {"pause": 20}}\n'
    const merged = mergeEdits(edited(to('250', '1'), to('20', '30'), base, 'a.json'))
    expect(JSON.parse(merged!)).toEqual({ start: 1, most: 50, bank: { pause: 30 } })
    expect(mergeEdits(edited(to('250', '1'), to('250', '2'), base, 'a.json'))).toBeNull()
  })

  it('keeps what both typed also where one text does not read yet', () => {
    const merged = mergeEdits(edited(to('pause: 20', 'pause: "20'), to('start: 250', 'start: 1')))
    expect(merged).toContain('start: 1')
    expect(merged).toContain('pause: "20')
  })

  it('gives each setting the value of whoever changed it, and else comes back as both', () => {
    const keys = ['a', 'b', 'c', 'd', 'e', 'f']
    const change = fc.dictionary(fc.constantFrom(...keys), fc.integer({ min: 1, max: 3 }))
    const write = (values: Record<string, number>, nested: boolean): string =>
      nested
        ? keys.map((key) => `${key}:\n  # What ${key} is worth.\n  value: ${values[key]}\n`).join('')
        : keys.map((key) => `${key}: ${values[key]}\n`).join('')
    const base = Object.fromEntries(keys.map((key) => [key, 0]))
    fc.assert(
      fc.property(change, change, fc.boolean(), fc.boolean(), (mine, theirs, nested, json) => {
        const text = (values: Record<string, number>): string => (json ? JSON.stringify(values, null, 2) : write(values, nested))
        const merged = mergeEdits({
          path: json ? 'a.json' : 'a.yml',
          reading: UNSAID,
          base: text(base),
          mine: text({ ...base, ...mine }),
          theirs: text({ ...base, ...theirs }),
        })
        const isSplit = keys.some((key) => mine[key] !== undefined && theirs[key] !== undefined && mine[key] !== theirs[key])
        expect(merged === null).toBe(isSplit)
        if (isSplit) return
        const wanted = { ...base, ...theirs, ...mine }
        const got: unknown = json ? JSON.parse(merged!) : readYaml(merged!)
        expect(got).toEqual(json || !nested ? wanted : Object.fromEntries(keys.map((key) => [key, { value: wanted[key] }])))
      }),
      { numRuns: 400 },
    )
  })

  it('leaves nothing out that either of them wrote', () => {
    const line = fc.constantFrom('a: 1', 'b: 2', 'c: 3', '# x', '# y', '', 'd: [1, 2]', 'e: 5 # z')
    const lines = fc.array(line, { maxLength: 8 }).map((all) => all.join('\n') + '\n')
    fc.assert(
      fc.property(lines, lines, lines, (base, mine, theirs) => {
        const merged = mergeEdits({ path: 'a.yml', reading: UNSAID, base, mine, theirs })
        if (merged === null) return
        const [before, after] = [base.split('\n'), merged.split('\n')]
        for (const added of [...mine.split('\n'), ...theirs.split('\n')]) if (!before.includes(added)) expect(after).toContain(added)
      }),
      { numRuns: 2000 },
    )
  })
})
