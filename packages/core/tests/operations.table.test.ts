import { describe, expect, it } from 'vitest'
import { applyEdits } from '../src/text/edits'
import { OperationError } from '../src/formats/error'
import { turnOff, turnOn } from '../src/formats/commented'
import { addEntry, duplicateEntry, moveEntry, removeEntry, renameEntry, reorderEntries, setValue } from '../src/formats/operations'
import { LENIENT } from '../src/formats/reading'
import { formatOf, parse } from '../src/formats/registry'
import { parsePointer } from '../src/tree/pointer'
import { NumberText, fromJson, readTyped } from '../src/tree/values'
import type { Edit } from '../src/text/edits'
import type { Document, FormatId } from '../src/tree/nodes'

type Operation = (document: Document, keys: readonly string[]) => Edit[]
const set =
  (value: unknown): Operation =>
  (document, keys) =>
    setValue(document, keys, value instanceof NumberText ? value : fromJson(value))
const remove: Operation = (document, keys) => removeEntry(document, keys)
const rename =
  (name: string): Operation =>
  (document, keys) =>
    renameEntry(document, keys, name)
const copy =
  (name: string | null): Operation =>
  (document, keys) =>
    duplicateEntry(document, keys, name)
const add =
  (key: string | null, value: unknown, after?: string | null): Operation =>
  (document, keys) =>
    addEntry(document, keys, key, fromJson(value), after)

const off: Operation = (document, keys) => turnOff(document, keys)
const on =
  (key: string): Operation =>
  (document, keys) =>
    turnOn(document, keys, key)
const move =
  (to: readonly string[], after?: string | null): Operation =>
  (document, keys) =>
    moveEntry(document, keys, to, after)
const reorder =
  (...order: number[]): Operation =>
  (document, keys) =>
    reorderEntries(document, keys, order)

const rows: readonly (readonly [name: string, format: FormatId, before: string, pointer: string, operation: Operation, after: string])[] = [
  [
    'a table whose name code takes later on',
    'lua',
    'local t = {\n  a = 1;\n}\nt = check(t)\n',
    '/t/a',
    set(2),
    'local t = {\n  a = 2;\n}\nt = check(t)\n',
  ],
  ['keeps quotes', 'yaml', "a: 'x' # c\n", '/a', set('y'), "a: 'y' # c\n"],
  ['quotes a new item like those beside it', 'yaml', 'a: ["x", "y"]\n', '/a', set(['x', 'y', 'z']), 'a: ["x", "y", "z"]\n'],
  ['takes the quotes it needs', 'yaml', 'a: x\n', '/a', set('y: z'), "a: 'y: z'\n"],
  ['quotes what a 1.1 reader would misread', 'yaml', 'a: x\n', '/a', set('no'), "a: 'no'\n"],
  ['keeps the spelling of a number', 'yaml', 'a: 1.50\nb: 0x1F\n', '/a', set(new NumberText('2.50')), 'a: 2.50\nb: 0x1F\n'],
  ['fills a value left out', 'yaml', 'a:\nb: 1\n', '/a', set('x'), 'a: x\nb: 1\n'],
  [
    'rewrites a block text in its indentation',
    'yaml',
    'a: |\n   one\n   two\nb: 1\n',
    '/a',
    set('three\nfour\n'),
    'a: |\n   three\n   four\nb: 1\n',
  ],
  ['keeps an anchor', 'yaml', 'a: &x 1\nb: *x\n', '/a', set(2), 'a: &x 2\nb: *x\n'],
  ['a list becomes a value', 'yaml', 'a:\n  - 1\n  - 2\nb: 1\n', '/a', set('x'), 'a: x\nb: 1\n'],
  [
    'a value becomes a section, the comment stays on its line',
    'yaml',
    'a: 1 # why\nb: 2\n',
    '/a',
    set({ x: 1 }),
    'a: # why\n  x: 1\nb: 2\n',
  ],
  ['removes with its comments', 'yaml', 'a: 1\n\n# about b\nb: 2 # t\n\nc: 3\n', '/b', remove, 'a: 1\n\nc: 3\n'],
  ['removes the first key behind a dash', 'yaml', 'l:\n  - a: 1\n    b: 2\n', '/l/0/a', remove, 'l:\n  - b: 2\n'],
  ['the last entry leaves empty braces', 'yaml', 'a:\n  b: 1\nc: 2\n', '/a/b', remove, 'a: {}\nc: 2\n'],
  ['adds to empty braces', 'yaml', 'a: {}\nb: 1\n', '/a', add('x', 1), 'a:\n  x: 1\nb: 1\n'],
  ['adds to an inline list', 'yaml', 'a: [x, y]\n', '/a', add(null, 'z'), 'a: [x, y, z]\n'],
  [
    'a changed list keeps its brackets, items and comments',
    'yaml',
    'a: [x, y] # why\n',
    '/a',
    set(['x', 'z', 'y', 'w']),
    'a: [x, z, y, w] # why\n',
  ],
  ['an empty list keeps its brackets', 'yaml', 'a: []\n', '/a', set(['x']), 'a: [x]\n'],
  ['a changed block list keeps its items', 'yaml', 'a:\n  - x # one\n  - y\n', '/a', set(['x', 'z']), 'a:\n  - x # one\n  - z\n'],
  ['a changed section keeps what stays', 'yaml', 'a:\n  b: 1 # one\n  c: 2\n', '/a', set({ b: 1, d: 3 }), 'a:\n  b: 1 # one\n  d: 3\n'],
  ['adds after a neighbour', 'yaml', 'a: 1 # one\nb: 2\n', '', add('m', 5, 'a'), 'a: 1 # one\nm: 5\nb: 2\n'],
  [
    'duplicates with comments and blank line',
    'yaml',
    'h:\n\n  # big\n  one:\n    p: 1 # x\n\nz: 1\n',
    '/h/one',
    copy('two'),
    'h:\n\n  # big\n  one:\n    p: 1 # x\n\n  # big\n  two:\n    p: 1 # x\n\nz: 1\n',
  ],
  ['renames and keeps the quotes of the key', 'yaml', '"a b": 1\n', '/a b', rename('c d'), '"c d": 1\n'],
  ['keeps windows line ends', 'yaml', 'a: 1\r\nb: 2\r\n', '', add('c', [1]), 'a: 1\r\nb: 2\r\nc:\r\n  - 1\r\n'],
  [
    'json: removes the last member and the comma before it',
    'json',
    '{\n  "a": 1, // one\n  "b": 2\n}',
    '/b',
    remove,
    '{\n  "a": 1 // one\n}',
  ],
  ['json: removes the last of an inline list', 'json', '[1,2]', '/1', remove, '[1]'],
  [
    'json: a comment between value and comma stays',
    'json',
    '{\n  "a": 1 /* x */,\n  "b": 2\n}',
    '/a',
    set(3),
    '{\n  "a": 3 /* x */,\n  "b": 2\n}',
  ],
  ['json: keeps a trailing comma where there was one', 'json', '{\n  "a": 1,\n}', '', add('b', 2), '{\n  "a": 1,\n  "b": 2,\n}'],
  ['json: fills empty braces', 'json', '{}', '', add('a', { b: [1] }), '{\n  "a": {\n    "b": [\n      1\n    ]\n  }\n}'],
  ['properties: escapes what must be', 'properties', 'a = x\n', '/a', set(' two\nlines\\'), 'a = \\ two\\nlines\\\\\n'],
  ['properties: adds in the style of its neighbours', 'properties', '# t\na = x\n', '', add('b c', 'y'), '# t\na = x\nb\\ c = y\n'],
  [
    'yaml: moves behind another, comments and all',
    'yaml',
    'a: 1\n# about b\nb: 2 # t\nc: 3\n',
    '/b',
    move([], 'c'),
    'a: 1\nc: 3\n# about b\nb: 2 # t\n',
  ],
  ['yaml: moves into a section', 'yaml', 's:\n  x: 1\nb:\n  - 2\n', '/b', move(['s'], null), 's:\n  b:\n    - 2\n  x: 1\n'],
  ['json: moves to the front', 'json', '{\n  "a": 1,\n  "b": 2\n}', '/b', move([], null), '{\n  "b": 2,\n  "a": 1\n}'],
  [
    'yaml: puts a list into another order',
    'yaml',
    'l:\n  # one\n  - a\n  - b # two\n  - c\n',
    '/l',
    reorder(2, 0, 1),
    'l:\n  - c\n  # one\n  - a\n  - b # two\n',
  ],
  ['json: puts members into another order', 'json', '{ "a": 1, "b": [2], "c": 3 }', '', reorder(1, 2, 0), '{ "b": [2], "c": 3, "a": 1 }'],
  [
    'yaml: switches a section off',
    'yaml',
    'a: 1\n# why\ns:\n  x: 1 # t\n\n  y:\n    - 2\nb: 3\n',
    '/s',
    off,
    'a: 1\n# why\n# s:\n#   x: 1 # t\n# \n#   y:\n#     - 2\nb: 3\n',
  ],
  [
    'yaml: switches a section on',
    'yaml',
    'a: 1\n# s:\n#   x: 1\n#   l:\n#     - 2\nb: 3\n',
    '',
    on('s'),
    'a: 1\ns:\n  x: 1\n  l:\n    - 2\nb: 3\n',
  ],
  ['json: switches the last member off', 'json', '{\n  "a": 1,\n  "b": 2\n}', '/b', off, '{\n  "a": 1\n  // "b": 2\n}'],
  ['json: switches a member on', 'json', '{\n  "a": 1\n  // "b": 2\n}', '', on('b'), '{\n  "a": 1,\n  "b": 2\n}'],
  ['properties: switches off', 'properties', 'a=1\nb=2\n', '/a', off, '# a=1\nb=2\n'],
  [
    'lua: switches an assignment on',
    'lua',
    'Config = {}\n-- Config.Limit = 20\nConfig.Name = "x"\n',
    '/Config',
    on('Limit'),
    'Config = {}\nConfig.Limit = 20\nConfig.Name = "x"\n',
  ],
  ['xml: switches an element off', 'xml', '<a>\n  <b>1</b>\n  <c/>\n</a>\n', '/a/b', off, '<a>\n  <!-- <b>1</b> -->\n  <c/>\n</a>\n'],
  ['lua: keeps quotes and the comment', 'lua', "A.b = 'x' -- c\n", '/A/b', set("it's"), "A.b = 'it\\'s' -- c\n"],
  ['lua: an argument of a call', 'lua', 'at = vec3(1.0, 2.50, 3)\n', '/at/1', set(new NumberText('7.25')), 'at = vec3(1.0, 7.25, 3)\n'],
  ['lua: arithmetic is edited as written', 'lua', 'x = 15 * 60 * 1000\n', '/x', set('20 * 60 * 1000'), 'x = 20 * 60 * 1000\n'],
  ['lua: the amount arithmetic comes to is there already', 'lua', 'x = 15 * 60\n', '/x', set(900), 'x = 15 * 60\n'],
  ['lua: long brackets stay', 'lua', 'x = [==[\na]]b]==]\n', '/x', set('c]]\nd'), 'x = [==[\nc]]\nd]==]\n'],
  [
    'lua: adds an assignment among assignments',
    'lua',
    'Config = {}\nConfig.a = 1 -- one\n',
    '/Config',
    add('b c', [1]),
    'Config = {}\nConfig.a = 1 -- one\nConfig["b c"] = { 1 }\n',
  ],
  ['lua: adds a field, comma and all', 'lua', 'return {\n\ta = 1\n}\n', '', add('b', 'x'), 'return {\n\ta = 1,\n\tb = "x"\n}\n'],
  ['lua: renames a section in all its assignments', 'lua', 'A.s.x = 1\nA.s.y = 2\n', '/A/s', rename('t'), 'A.t.x = 1\nA.t.y = 2\n'],
  ['ini: a value with a comment’s mark gets quotes', 'ini', '[s]\na = x ; c\n', '/s/a', set('x ; y'), '[s]\na = "x ; y" ; c\n'],
  ['ini: a colour is no comment', 'ini', 'a = #c98a0b\n', '/a', set('#fff'), 'a = #fff\n'],
  ['ini: adds above the first section', 'ini', 'a = 1\n\n[s]\nb = 2\n', '', add('c', 'x'), 'a = 1\nc = x\n\n[s]\nb = 2\n'],
  ['ini: adds a section', 'ini', 'a=1\n', '', add('s', { b: 'x' }), 'a=1\n\n[s]\nb=x\n'],
  ['xml: escapes what must be', 'xml', '<a b="1">x</a>', '/a/#text', set('<&>'), '<a b="1">&lt;&amp;&gt;</a>'],
  ['xml: an attribute keeps its quotes', 'xml', "<a b='1'/>", '/a/@b', set("it's"), "<a b='it&apos;s'/>"],
  [
    'xml: adds to a list',
    'xml',
    '<a>\n  <i>1</i>\n  <i>2</i>\n</a>',
    '/a/i',
    add(null, '3'),
    '<a>\n  <i>1</i>\n  <i>2</i>\n  <i>3</i>\n</a>',
  ],
  ['xml: fills an empty element', 'xml', '<a>\n  <b/>\n</a>', '/a/b', set('x'), '<a>\n  <b>x</b>\n</a>'],
  ['xml: keeps character data sections', 'xml', '<a><![CDATA[<x>]]></a>', '/a', set('<y>'), '<a><![CDATA[<y>]]></a>'],
  [
    'script: changes a constant and nothing of the program',
    'script',
    "const A = 'x' // c\nrun(A)\n",
    '/A',
    set('y'),
    "const A = 'y' // c\nrun(A)\n",
  ],
  ['script: adds a field', 'script', 'const A = { x: 1 };\n', '/A', add('y z', true), 'const A = { x: 1, "y z": true };\n'],
]

describe('operations', () => {
  it.each(rows)('%s', (_name, format, before, pointer, operation, after) => {
    const document = parse(before, format, LENIENT)
    expect(applyEdits(before, operation(document, parsePointer(pointer)!))).toBe(after)
  })

  it('refuses what cannot be, with a code', () => {
    const document = parse('a: 1\nb: 2\na: 3\n', 'yaml')
    const codes = (run: () => unknown): string => {
      try {
        run()
        return 'done'
      } catch (error) {
        return error instanceof OperationError ? error.code : String(error)
      }
    }
    expect(codes(() => setValue(document, ['a'], 5))).toBe('duplicate-key')
    expect(codes(() => setValue(document, ['x'], 5))).toBe('no-such-setting')
    expect(codes(() => renameEntry(document, ['b'], 'a'))).toBe('key-exists')
    expect(codes(() => addEntry(document, ['b'], 'c', 1))).toBe('not-a-section')
    expect(codes(() => duplicateEntry(document, ['b'], null))).toBe('key-exists')
  })

  it('reads typed values as JSON scalars, else as text', () => {
    expect(readTyped('true')).toBe(true)
    expect(readTyped('1.50')).toEqual(new NumberText('1.50'))
    expect(readTyped('"12"')).toBe('12')
    expect(readTyped('012')).toBe('012')
    expect(readTyped('no')).toBe('no')
  })

  it('knows formats by ending', () => {
    expect(['a.yml', 'a.YAML', 'x.json', 'x.jsonc', 't.properties', 'a.exe'].map(formatOf)).toEqual([
      'yaml',
      'yaml',
      'json',
      'json',
      'properties',
      null,
    ])
  })
})
