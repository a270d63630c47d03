import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'
import type { Choice, Outcome } from '../src/carry/types'
import type { FormatId } from '../src/tree/nodes'

/** The semantics of carrying forward, row by row: three files, what comes out, and what is said about it. */
interface Row {
  readonly name: string
  readonly format?: FormatId
  readonly factory: string | null
  readonly mine: string
  readonly update: string
  readonly result: string
  /** The decision on one path: outcome, and whether it needs a look. */
  readonly says?: readonly (readonly [path: string, outcome: Outcome, attention: boolean])[]
  readonly choices?: Readonly<Record<string, Choice>>
}

const rows: readonly Row[] = [
  { name: 'as factory | as factory', factory: 'a: 1\nb: 2\n', mine: 'a: 1\nb: 3\n', update: 'a: 1\nb: 2\n# more\n', result: 'a: 1\nb: 3\n# more\n', says: [['/b', 'kept-mine', false]] },
  { name: 'as factory | changed', factory: 'a: 1\nb: 2\n', mine: 'a: 1\nb: 3\n', update: 'a: 5\nb: 2\n', result: 'a: 5\nb: 3\n', says: [['/a', 'took-update', false]] },
  { name: 'changed | changed to the same', factory: 'a: 1\n', mine: 'a: 2\n', update: 'a: 2 # now two\n', result: 'a: 2 # now two\n', says: [['/a', 'same-change', false]] },
  { name: 'changed | changed otherwise', factory: 'a: 7\n', mine: 'a: 14\n', update: 'a: 10\n', result: 'a: 14\n', says: [['/a', 'default-moved', true]] },
  { name: 'number becomes text: mine fits there', factory: 'a: 5\n', mine: 'a: 9\n', update: "a: '5s'\n", result: 'a: 9\n', says: [['/a', 'kind-changed', true]] },
  { name: 'text becomes a section: the entry with the old default takes mine', factory: 'sound: tin_bell\n', mine: 'sound: soft_bell\n', update: 'sound:\n  name: tin_bell\n  pitch: 1.0\n', result: 'sound:\n  name: soft_bell\n  pitch: 1.0\n', says: [['/sound/name', 'kind-changed', true]] },
  { name: 'text becomes a list: mine is its one item', factory: 'also: kist\n', mine: 'also: h\n', update: 'also: [kist, box]\n', result: 'also: [h]\n', says: [['/also', 'kind-changed', true]] },
  { name: 'section becomes a number: mine is kept aside', factory: 'a:\n  b: 1\n', mine: 'a:\n  b: 2\n', update: 'a: 4\n', result: 'a: 4\n', says: [['/a', 'kind-changed', true]] },
  { name: 'unit changed: the converted value is offered', factory: '# In seconds.\npause: 1.5\n', mine: '# In seconds.\npause: 2\n', update: '# In ticks.\npause: 30\n', result: '# In ticks.\npause: 2\n', says: [['/pause', 'scale-changed', true]] },
  { name: 'unit changed: the offer is taken', factory: '# In seconds.\npause: 1.5\n', mine: '# In seconds.\npause: 2\n', update: '# In ticks.\npause: 30\n', result: '# In ticks.\npause: 40\n', says: [['/pause', 'scale-changed', false]], choices: { '/pause': { id: 'converted' } } },
  { name: 'scale changed, by the default alone', factory: 'wait: 3\n', mine: 'wait: 5\n', update: 'wait: 3000\n', result: 'wait: 5\n', says: [['/wait', 'scale-changed', true]] },
  { name: 'added by the update', factory: 'a: 1\n', mine: 'a: 2\n', update: 'a: 1\n# New.\nb: 3\n', result: 'a: 2\n# New.\nb: 3\n', says: [['/b', 'added-by-update', false]] },
  { name: 'added by me, with my comment, beside its neighbour', factory: 'a: 1\nz: 9\n', mine: 'a: 1\n# ours\nm: 5\nz: 9\n', update: 'a: 1\nnew: 2\nz: 9\n', result: 'a: 1\n# ours\nm: 5\nnew: 2\nz: 9\n', says: [['/m', 'kept-addition', false]] },
  { name: 'added by both, differently', factory: 'a: 1\n', mine: 'a: 1\nb: 2\n', update: 'a: 1\nb: 3\n', result: 'a: 1\nb: 2\n', says: [['/b', 'default-moved', true]] },
  { name: 'added by both, nested parts merged', factory: 'a: 1\n', mine: 'a: 1\ns:\n  x: 1\n  y: 2\n', update: 'a: 1\ns:\n  x: 1\n  z: 3\n', result: 'a: 1\ns:\n  x: 1\n  y: 2\n  z: 3\n' },
  { name: 'as factory | removed', factory: 'a: 1\nb: 2\n', mine: 'a: 3\nb: 2\n', update: 'a: 1\n', result: 'a: 3\n', says: [['/b', 'dropped', false]] },
  { name: 'changed | renamed', factory: 'general:\n  # How often claims are written.\n  save-every: 300\n', mine: 'general:\n  # How often claims are written.\n  save-every: 120\n', update: 'storage:\n  # How often claims are written.\n  save-every: 300\ngeneral:\n  rows: 3\n', result: 'storage:\n  # How often claims are written.\n  save-every: 120\ngeneral:\n  rows: 3\n', says: [['/storage/save-every', 'moved', true]] },
  { name: 'changed | gone', factory: 'a: 1\nqueer: 2\n', mine: 'a: 1\nqueer: 77\n', update: 'a: 1\n', result: 'a: 1\n', says: [['/queer', 'kept-aside', true]] },
  { name: 'changed | gone, kept by a choice', factory: 'a: 1\nqueer: 2\n', mine: 'a: 1\nqueer: 77\n', update: 'a: 1\n', result: 'a: 1\nqueer: 77\n', says: [['/queer', 'kept-mine', false]], choices: { '/queer': { id: 'keep' } } },
  { name: 'removed | as factory', factory: 'a: 1\nb: 2\n', mine: 'a: 1\n', update: '# hi\na: 1\nb: 2\n', result: '# hi\na: 1\n', says: [['/b', 'stays-removed', false]] },
  { name: 'removed | changed', factory: 'a: 1\nb: 2\n', mine: 'a: 1\n', update: 'a: 1\nb: 3\n', result: 'a: 1\n', says: [['/b', 'stays-removed', true]] },
  { name: 'version stamp', factory: 'a: 1\nconfig-version: 24\n', mine: 'a: 2\nconfig-version: 24\n', update: 'a: 1\nconfig-version: 30\n', result: 'a: 2\nconfig-version: 30\n', says: [['/config-version', 'stamp', false]] },
  { name: 'my comments stay at their setting', factory: 'a: 1\nb: 2\n', mine: '# ours\na: 1\nb: 2   # slow box\n', update: 'a: 1\nb: 3\n', result: '# ours\na: 1\nb: 3   # slow box\n' },
  { name: 'my comment at a setting that is gone is named', factory: 'a: 1\nodd: 2\n', mine: 'a: 1\n# asked by wenna\nodd: 2\n', update: 'a: 1\n# new\nc: 1\n', result: 'a: 1\n# new\nc: 1\n', says: [['/odd', 'kept-aside', true]] },
  { name: 'list of single values: additions and removals of both', factory: 'l: [a, b, c]\n', mine: 'l: [a, c, mine]\n', update: 'l: [a, b, c, theirs]\n', result: 'l: [a, c, mine, theirs]\n', says: [['/l', 'default-moved', true]] },
  { name: 'lines of one text stay together', factory: 'lore:\n  - one line here\n  - two lines here\n', mine: 'lore:\n  - all of it is mine\n', update: 'lore:\n  - one line here\n  - two lines are here now\n', result: 'lore:\n  - all of it is mine\n', says: [['/lore', 'default-moved', true]] },
  { name: 'list of sections: matched by what names them', factory: 'pits:\n  - id: clay\n    weight: 5\n  - id: eel\n    weight: 1\n', mine: 'pits:\n  - id: clay\n    weight: 8\n  - id: eel\n    weight: 1\n', update: 'pits:\n  - id: new\n    weight: 2\n  - id: eel\n    weight: 1\n  - id: clay\n    weight: 5\n', result: 'pits:\n  - id: new\n    weight: 2\n  - id: eel\n    weight: 1\n  - id: clay\n    weight: 8\n', says: [['/pits/2/weight', 'kept-mine', false]] },
  { name: 'group: my entry stays, a new example is offered, a deleted one does not come back', factory: 'h:\n  a:\n    n: 1\n    p: 1\n  b:\n    n: 2\n    p: 2\n', mine: 'h:\n  a:\n    n: 1\n    p: 1\n  own:\n    n: 9\n    p: 9\n', update: 'h:\n  a:\n    n: 1\n    p: 1\n  b:\n    n: 2\n    p: 2\n  c:\n    n: 3\n    p: 3\n', result: 'h:\n  a:\n    n: 1\n    p: 1\n  own:\n    n: 9\n    p: 9\n', says: [['/h/c', 'offered', true], ['/h/b', 'stays-removed', false], ['/h/own', 'kept-addition', false]] },
  { name: 'no baseline: mine wherever both have the setting', factory: null, mine: 'a: 2\nb: 5\n', update: 'a: 1\nc: 3\n', result: 'a: 2\nb: 5\nc: 3\n' },
  { name: 'what others refer to does not go: the result must read', factory: 'base: &b\n  x: 1\nuse: *b\n', mine: 'use: 5\n', update: 'base: &b\n  x: 1\nuse: *b\nalso: *b\n', result: 'base: &b\n  x: 1\nuse: 5\nalso: *b\n' },
  { name: 'windows line ends and a missing last one stay', factory: 'a: 1\r\nb: 2', mine: 'a: 9\r\nb: 2', update: 'a: 1\r\nb: 2\r\nc: 3', result: 'a: 9\r\nb: 2\r\nc: 3' },
  { name: 'json: added beside its neighbour, comma and all', format: 'json', factory: '{\n  "a": 1,\n  "b": 2\n}\n', mine: '{\n  "a": 1,\n  "b": 2,\n  "own": [1, 2]\n}\n', update: '{\n  "a": 1,\n  "b": 3\n}\n', result: '{\n  "a": 1,\n  "b": 3,\n  "own": [1, 2]\n}\n' },
  { name: 'json: 17-digit ids keep every digit', format: 'json', factory: '{"id": 77001234567890123, "x": 1}', mine: '{"id": 77001234567890124, "x": 1}', update: '{"id": 77001234567890123, "x": 2}', result: '{"id": 77001234567890124, "x": 2}' },
  { name: 'properties: mine stays, comments come along', format: 'properties', factory: 'a=one\nb=two\n', mine: 'a=mine\nb=two\n', update: '# First.\na=one\nb=zwei\nc=three\n', result: '# First.\na=mine\nb=zwei\nc=three\n', says: [['/a', 'kept-mine', false], ['/b', 'took-update', false]] },
]

describe('carry', () => {
  it.each(rows)('$name', ({ format, factory, mine, update, result, says, choices }) => {
    const carried = carry({ factory, mine, update, format: format ?? 'yaml' }, choices ? { choices } : {})
    expect(carried.text).toBe(result)
    for (const [path, outcome, attention] of says ?? []) {
      const found = carried.decisions.filter((item) => item.path === path)
      expect(found.map((item) => [item.outcome, item.attention]), JSON.stringify(carried.decisions, null, 1)).toContainEqual([outcome, attention])
    }
    expect(carried.baseline).toBe(factory !== null)
    for (const choice of Object.keys(choices ?? {})) expect(carried.decisions.find((item) => item.id === choice)?.chosen).toBe(choices![choice]!.id)
  })

  it('an entry goes at the end of a file without final line end while another comes above it', () => {
    const input = { factory: 'a:\n  x: 1\nb: 2', mine: 'a:\n  x: 1\nb: 2', update: 'a:\n  x: 1\n  y: 2', format: 'yaml' as const }
    expect(carry({ ...input, mine: '# mine\na:\n  x: 1\nb: 2' }, { shape: 'mine' }).text).toBe('# mine\na:\n  x: 1\n  y: 2\n')
    expect(carry({ factory: 'a:\n  x: 1\nb: 2', mine: 'a:\n  x: 1\n  y: 2', update: 'a:\n  x: 1\nb: 2\n#', format: 'yaml' }).decisions.filter((item) => item.attention)).toEqual([])
  })

  it('shape mine keeps my text and brings the update’s changes into it', () => {
    const mine = '# my order\nb: 9\na: 1   # mine\n'
    const result = carry({ factory: 'a: 1\nb: 2\n', mine, update: 'a: 5\nb: 2\nc: 3\n', format: 'yaml' }, { shape: 'mine' })
    expect(result.text).toBe('# my order\nb: 9\na: 5   # mine\nc: 3\n')
  })
})
