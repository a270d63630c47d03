import fc from 'fast-check'
import { parse as parseYaml } from 'yaml'
import { describe, expect, it } from 'vitest'
import {
  UNSAID,
  applyEdits,
  copyInto,
  duplicateAs,
  findReferences,
  parse,
  renameAs,
  suggestName,
  workspaceFile,
  workspaceOf,
  writeReferences,
  type FormatId,
  type Rule,
} from '../src'
import { removeEntry } from '../src/formats/operations'
import { RuleBook } from '../src/rules/book'
import { withName } from '../src/entries/names'
import { readLua } from './dialects'

const read = (text: string, format: FormatId = 'yaml') => parse(text, format)

const HAMPERS = `# What players can claim
hampers:
  # The fisher has nets.
  fisher:
    id: 3
    name: "Fisher's hamper" # for a Fisher
    icon: eel
    node: hampers.claim.fisher
    slot: 1
    commands:
      - hamper log fisher {player}
      - say The fishers are away.
    price: 12
  potter:
    id: 4
    name: "Potter's hamper"
    icon: clay
    node: hampers.claim.potter
    slot: 4
    commands: []
    price: 40

  keeper:
    id: 7
    name: "Keeper's hamper"
    icon: honeycomb
    node: ''
    slot: 2
    commands: []
    price: 35
first: fisher
`

describe('a name within a text', () => {
  it.each([
    ['fisher', 'fisher', 'night_fisher', 'night_fisher'],
    ['Fisher hamper', 'fisher', 'night_fisher', 'Night fisher hamper'],
    ["THE FISHER'S", 'fisher', 'frog-catcher', "THE FROG CATCHER'S"],
    ['claim.fisher.now', 'fisher', 'potter', 'claim.potter.now'],
    ['The Night Fisher', 'night_fisher', 'frog_catcher', 'The Frog Catcher'],
    ['Night fisher', 'nightFisher', 'frogCatcher', 'Frog catcher'],
    ['night-fisher of night_fisher', 'night_fisher', 'frog', 'frog of frog'],
    ['lamp_oil and oil', 'oil', 'tar', 'lamp_oil and tar'],
    ['fishers fisher-man kingfisher', 'fisher', 'potter', 'fishers fisher-man kingfisher'],
    ['{fisher} %fisher% <fisher>', 'fisher', 'potter', '{fisher} %fisher% <fisher>'],
    ['a b', 'a', 'c', 'a b'],
    ['pits.a', 'a', 'c', 'pits.c'],
    ['$& fisher', 'fisher', '$&', '$& $&'],
    ['', 'fisher', 'potter', ''],
  ])('%s, with %s as %s, becomes %s', (text, from, to, expected) => expect(withName(text, from, to)).toBe(expected))

  it('is found again by its new one, and a text without it stays', () => {
    const word = fc.stringMatching(/^[a-z]{3,8}$/)
    fc.assert(
      fc.property(word, word, fc.constantFrom('.', ' ', '/', ': '), (from, to, gap) => {
        const text = ['one', from, 'Two'].join(gap)
        const after = withName(text, from, to)
        expect(after).toBe(from === 'one' ? [to, to, 'Two'].join(gap) : from === 'two' ? after : ['one', to, 'Two'].join(gap))
      }),
    )
  })
})

describe('a copy of an entry', () => {
  it('has the new name wherever the entry repeats its own, and numbers of its own', () => {
    const copy = duplicateAs(read(HAMPERS), ['hampers', 'fisher'], 'eel_man')
    const at = HAMPERS.indexOf('  potter:')
    expect(copy.text.slice(0, at)).toBe(HAMPERS.slice(0, at))
    expect(copy.text.endsWith(HAMPERS.slice(at))).toBe(true)
    expect(copy.text.slice(at, copy.text.length - HAMPERS.length + at)).toBe(`  # The eel_man has nets.
  eel_man:
    id: 8
    name: "Eel man's hamper" # for a Eel man
    icon: eel
    node: hampers.claim.eel_man
    slot: 5
    commands:
      - hamper log eel_man {player}
      - say The fishers are away.
    price: 12
`)
    expect(copy.pointer).toBe('/hampers/eel_man')
    expect(copy.chosen.map(({ column, from, to }) => [column, from, to])).toEqual([
      ['/id', '3', '8'],
      ['/slot', '1', '5'],
    ])
    // what the server has in its list of items is no repetition; here nobody said what icons are
    expect(copy.differ).toEqual(['/hampers/eel_man/icon'])
  })

  it('fills slots from the first that is free, and asks for other texts where all differ', () => {
    const rules: Rule[] = [{ path: '/hampers/*/slot', means: 'slot', first: 0 }]
    const copy = duplicateAs(read(HAMPERS), ['hampers', 'potter'], 'smith', new RuleBook(rules))
    expect(copy.chosen.find(({ column }) => column === '/slot')?.to).toBe('0')
    expect(copy.differ).toEqual(['/hampers/smith/icon'])
    expect(duplicateAs(read(HAMPERS), ['hampers', 'keeper'], 'smith').text).toMatch(/smith:\n {4}id: 8/)
  })

  it('leaves what is known to name something else', () => {
    const text = 'pits:\n  clay: { item: clay, title: Clay }\n  reed: { item: reed, title: Reed }\n'
    const rules: Rule[] = [{ path: '/pits/*/item', means: 'id', registry: 'items' }]
    expect(duplicateAs(read(text), ['pits', 'clay'], 'bank', new RuleBook(rules)).text).toContain('bank: { item: clay, title: Bank }')
  })

  it('in a list, by what tells its items apart', () => {
    const text = 'stalls:\n  - { id: quay, node: buy.quay, fee: 1 }\n  - { id: kiln, node: buy.kiln, fee: 2 }\n'
    const copy = duplicateAs(read(text), ['stalls', '0'], 'row')
    expect(copy.pointer).toBe('/stalls/1')
    expect(copy.text).toBe(
      'stalls:\n  - { id: quay, node: buy.quay, fee: 1 }\n  - { id: row, node: buy.row, fee: 1 }\n  - { id: kiln, node: buy.kiln, fee: 2 }\n',
    )
  })

  it.each<[FormatId, string, string]>([
    [
      'json',
      '{\n  "pits": {\n    "bank": { "slot": 0, "node": "pit.bank" },\n    "weir": { "slot": 1, "node": "pit.weir" }\n  }\n}\n',
      '"mole": { "slot": 2, "node": "pit.mole" },',
    ],
    [
      'lua',
      'return {\n  pits = {\n    bank = { slot = 0, node = "pit.bank" },\n    weir = { slot = 1, node = "pit.weir" },\n  },\n}\n',
      'mole = { slot = 2, node = "pit.mole" },',
    ],
  ])('in %s, too', (format, text, line) => expect(duplicateAs(read(text, format), ['pits', 'bank'], 'mole').text).toContain(line))

  it.each([
    ['lamps', [], 'lamps-2'],
    ['lamp_oil', ['lamp_oil_2'], 'lamp_oil_3'],
    ['pit_09', [], 'pit_10'],
    ['nightRow', [], 'nightRow2'],
    ['7', ['8'], '9'],
  ])('of %s is to be called another, with %s taken: %s', (name, taken, expected) => {
    const text = `all:\n${[name, ...taken, 'other'].map((one) => `  ${one}: { a: 1 }\n`).join('')}`
    expect(suggestName(read(text), ['all', name])).toBe(expected)
  })

  it('is refused where the name is taken', () => {
    expect(() => duplicateAs(read(HAMPERS), ['hampers', 'fisher'], 'potter')).toThrow('potter is there already')
    expect(() => duplicateAs(read(HAMPERS), ['hampers', 'nobody'], 'x')).toThrow('there is no setting /hampers/nobody')
  })
})

describe('an entry under another name', () => {
  it('and a copy of it say what was expected of them, in YAML, JSON and Lua, and undone the file is as it was', () => {
    const names = fc.uniqueArray(fc.stringMatching(/^[a-z]{4,7}$/), { minLength: 6, maxLength: 6 })
    fc.assert(
      fc.property(names, fc.constantFrom<FormatId>('yaml', 'json', 'lua'), fc.nat(2), ([group, to, ...own], format, at) => {
        const entry = (name: string, slot: number, other = name): object => ({
          node: `${group!}.${name}`,
          title: name.charAt(0).toUpperCase() + name.slice(1),
          says: `no ${other}s, and x${other}`,
          run: [`give ${name} now`, 'wait'],
          slot,
        })
        const entries = own.slice(0, 3)
        const home = Object.fromEntries(entries.map((name, i) => [name, entry(name, i * 2)]))
        const document = read(written({ [group!]: home, last: own[3] }, format), format)
        const from = entries[at]!
        const renamed = renameAs(document, [group!, from], to!)
        const swapped = Object.entries(home).map(([name, one]): [string, object] =>
          name === from ? [to!, entry(to!, at * 2, from)] : [name, one],
        )
        expect(readBack(renamed.text, format)).toEqual({ [group!]: Object.fromEntries(swapped), last: own[3] })
        expect(renameAs(read(renamed.text, format), [group!, to!], from).text).toBe(document.text)
        const copy = duplicateAs(document, [group!, from], to!)
        // even numbers are taken: slots are numbers that go on
        expect(readBack(copy.text, format)).toEqual({ [group!]: { ...home, [to!]: entry(to!, 5, from) }, last: own[3] })
        expect(removeFrom(copy.text, format, [group!, to!])).toBe(document.text)
      }),
      { numRuns: 90 },
    )
  })

  it('has it wherever it repeats its own, with all else as it was', () => {
    const { text, pointer, renamed } = renameAs(read(HAMPERS), ['hampers', 'fisher'], 'eelman')
    expect(pointer).toBe('/hampers/eelman')
    expect(text).toBe(
      HAMPERS.replace('# The fisher', '# The eelman')
        .replace('  fisher:', '  eelman:')
        .replace('"Fisher\'s', '"Eelman\'s')
        .replace('a Fisher', 'a Eelman')
        .replace('claim.fisher', 'claim.eelman')
        .replace('log fisher', 'log eelman'),
    )
    expect(renamed.map(({ what }) => what).sort()).toEqual(['comment', 'comment', 'value', 'value', 'value'])
  })
  it('that is its own already is nothing done', () => expect(renameAs(read(HAMPERS), ['hampers', 'fisher'], 'fisher').text).toBe(HAMPERS))
})

/** Files of a server that speak of one another, in three formats. */
function server(files: Readonly<Record<string, readonly [plugin: string, text: string, rules?: readonly Rule[]]>>) {
  return workspaceOf(
    Object.entries(files).map(([path, [plugin, text, rules]]) =>
      workspaceFile({ path, plugin, text, factory: null, reading: UNSAID, rules: rules ?? [] }),
    ),
  )
}

describe('what refers to an entry', () => {
  const files = server({
    'Hampers/settings.yml': ['Hampers', HAMPERS + 'gifts: [fisher, potter]\nlimits: { fisher: 3, potter: 4 }\nword: fisher\n'],
    'Hampers/texts.properties': ['Hampers', 'hamper.fisher.title=Nets\nhello=Hello\n'],
    'Wardkeys/settings.yml': ['Wardkeys', 'groups:\n  mudlark: { nodes: [hampers.claim.fisher, purse.look], badge: fisher }\n'],
    'night/Errands.json': [
      'Errands',
      '{ "tasks": { "nets": { "hamper": "fisher", "says": "Ask the fisher", "item": "fisher" } } }',
      [{ path: '/tasks/*/item', means: 'id', registry: 'items' }],
    ],
    'regatta/settings.lua': ['Regatta', 'Config.Prizes = { { hamper = "fisher", place = 1 }, { hamper = "potter", place = 2 } }\n'],
  })
  const found = findReferences(files, 'Hampers/settings.yml', ['hampers', 'fisher'])

  it('is found in all files, and what there is little doubt of comes first', () => {
    const shown = (isSure: boolean) => found.filter((one) => one.isSure === isSure).map(({ file, pointer, what }) => [file, pointer, what])
    expect(shown(true)).toEqual([
      ['Hampers/settings.yml', '/gifts/0', 'value'],
      ['Hampers/settings.yml', '/limits/fisher', 'name'],
      ['Hampers/texts.properties', '/hamper.fisher.title', 'name'],
      ['Wardkeys/settings.yml', '/groups/mudlark/nodes/0', 'value'],
      ['night/Errands.json', '/tasks/nets/hamper', 'value'],
      ['regatta/settings.lua', '/Config/Prizes/0/hamper', 'value'],
    ])
    expect(shown(false)).toEqual([
      ['Hampers/settings.yml', '/first', 'value'],
      ['Hampers/settings.yml', '/word', 'value'],
      ['Wardkeys/settings.yml', '/groups/mudlark/badge', 'value'],
    ])
  })

  it('is sure where all that stands in such a place is named so, also where it is picked from a list', () => {
    const text =
      'groups:\n  low: { inherits: [] }\n  mid: { inherits: [low] }\n  top: { inherits: [mid, low] }\nladder: [low, mid]\nstart: low\n'
    const rules: Rule[] = [
      { path: '/ladder', means: 'choice', choices: ['low', 'mid', 'top'] },
      { path: '/start', means: 'id', registry: 'groups' },
    ]
    const one = server({ 'keys.yml': ['Keys', text, rules] })
    expect(findReferences(one, 'keys.yml', ['groups', 'low']).map(({ pointer, isSure }) => [pointer, isSure])).toEqual([
      ['/groups/mid/inherits/0', true],
      ['/groups/top/inherits/1', true],
      ['/ladder/0', true],
    ])
  })

  it('is no entry of its own under the same name, as the same good at another stall', () => {
    const stall = (buy: number): string => `goods:\n  rope: { buy: ${buy}, stock: 4 }\n  oil: { buy: 2, stock: 1 }\n`
    const all = server({
      'stalls/quay.yml': ['Stalls', stall(3)],
      'stalls/kiln.yml': ['Stalls', stall(5)],
      'stalls/most.yml': ['Stalls', 'most-goods: { rope: 3, oil: 4 }\n'],
    })
    const told = findReferences(all, 'stalls/quay.yml', ['goods', 'rope']).map(({ file, pointer, isSure }) => [file, pointer, isSure])
    expect(told).toEqual([
      ['stalls/most.yml', '/most-goods/rope', true],
      ['stalls/kiln.yml', '/goods/rope', false],
    ])
  })

  it('is given the new name, and nothing else is', () => {
    for (const [path, file] of files.files) {
      const sure = found.filter((one) => one.file === path && one.isSure)
      const text = writeReferences(file.document, sure, 'fisher', 'eelman')
      const places = sure.map(({ from }) => file.document.text.indexOf('fisher', from)).sort((a, b) => b - a)
      let expected = file.document.text
      for (const at of places) expected = expected.slice(0, at) + 'eelman' + expected.slice(at + 6)
      expect(text).toBe(expected)
    }
  })

  it('is exactly what was planted, wherever it is, in YAML, JSON and Lua', () => {
    const word = fc.stringMatching(/^[a-z]{4,7}$/)
    const world = fc.uniqueArray(word, { minLength: 9, maxLength: 9 }).chain(([group, ...names]) =>
      fc.record({
        group: fc.constant(`${group!}ers`),
        names: fc.constant(names),
        picks: fc.array(fc.nat(3), { minLength: 2, maxLength: 9 }),
      }),
    )
    fc.assert(
      fc.property(world, fc.constantFrom<FormatId>('yaml', 'json', 'lua'), ({ group, names, picks }, format) => {
        const [a, b, c, d, key, other, to, decoy] = names as [string, string, string, string, string, string, string, string]
        const entries = [a, b, c, d]
        const home = { [group]: Object.fromEntries(entries.map((name, i) => [name, { price: i, text: 'x y' }])) }
        const gifts: Record<string, string>[] = picks.map((pick) => ({
          [`my_${group}`]: entries[pick]!,
          note: `${entries[pick]!} said ${decoy}`,
        }))
        const away = {
          [key]: gifts,
          [other]: { node: `${group}.take.${a}`, says: `all ${a}ish things`, word: `${a}${decoy}` },
        }
        const ending = { yaml: 'yml', json: 'json', lua: 'lua' }[format as 'yaml']
        const all = server({ [`h.${ending}`]: ['Home', written(home, format)], [`a.${ending}`]: ['Away', written(away, format)] })
        const sure = findReferences(all, `h.${ending}`, [group, a]).filter(({ isSure }) => isSure)
        const { document } = all.files.get(`a.${ending}`)!
        const text = writeReferences(
          document,
          sure.filter(({ file }) => file === document.file),
          a,
          to,
        )
        const expected = {
          [key]: gifts.map((one) => ({ ...one, [`my_${group}`]: one[`my_${group}`] === a ? to : one[`my_${group}`]! })),
          [other]: { ...(away[other] as object), node: `${group}.take.${to}` },
        }
        expect(readBack(text, format)).toEqual(expected)
      }),
      { numRuns: 60 },
    )
  })
})

/** Data as somebody else writes it, and what somebody else reads of it. */
const written = (data: unknown, format: FormatId): string => (format === 'lua' ? `return ${luaOf(data)}\n` : JSON.stringify(data, null, 2))
const readBack = (text: string, format: FormatId): unknown =>
  format === 'lua' ? readLua(text) : format === 'json' ? JSON.parse(text) : parseYaml(text)

const removeFrom = (text: string, format: FormatId, keys: readonly string[]): string =>
  applyEdits(text, removeEntry(read(text, format), keys))

function luaOf(data: unknown): string {
  if (Array.isArray(data)) return `{ ${data.map(luaOf).join(', ')} }`
  if (typeof data !== 'object' || data === null) return JSON.stringify(data)
  return `{ ${Object.entries(data)
    .map(([key, value]) => `["${key}"] = ${luaOf(value)}`)
    .join(', ')} }`
}

describe('an entry copied into another file', () => {
  const source = { document: read(HAMPERS), keys: ['hampers', 'fisher'] }
  it('of the same format keeps its comments, and what does not fit is named', () => {
    const target = read(
      'baskets:\n  old:\n    name: Old\n    price: dear\n    left: 2\n  new:\n    name: New\n    price: cheap\n    left: 3\n',
    )
    const copy = copyInto(source, target, ['baskets'], 'eelman')
    expect(copy.pointer).toBe('/baskets/eelman')
    expect(copy.text.startsWith(target.text)).toBe(true)
    expect(copy.text).toContain('  # The eelman has nets.\n  eelman:\n    id: 3\n    name: "Eelman\'s hamper" # for a Eelman\n')
    expect(copy.misfits.map(({ what, setting }) => [what, setting])).toEqual([
      ['unknown', '/id'],
      ['unknown', '/icon'],
      ['unknown', '/node'],
      ['unknown', '/slot'],
      ['unknown', '/commands'],
      ['kind', '/price'],
      ['missing', '/left'],
    ])
  })

  it('of another format says the same there, as another reader finds it', () => {
    const { hampers } = parseYaml(HAMPERS) as { hampers: Record<string, unknown> }
    const json = copyInto(source, read('{\n  "hampers": {}\n}\n', 'json'), ['hampers'], null)
    expect((JSON.parse(json.text) as { hampers: unknown }).hampers).toEqual({ fisher: hampers['fisher'] })
    expect(json.misfits).toEqual([{ what: 'left-out', setting: '', says: 'comments, which cannot stand there' }])
    const lua = copyInto(source, read('return {\n  hampers = {},\n}\n', 'lua'), ['hampers'], null)
    expect((readLua(lua.text) as { hampers: unknown }).hampers).toEqual({ fisher: hampers['fisher'] })
    expect(lua.text).toContain('-- The fisher has nets.')
    expect(lua.misfits).toEqual([])
  })

  it('leaves out what the format there cannot hold, and says so', () => {
    const pits = 'return { pits = { bank = { slot = 0, run = harbour.open(), deep = { far = harbour.far() } }, weir = { slot = 1 } } }'
    const pit = { document: read(pits, 'lua'), keys: ['pits', 'bank'] }
    const copy = copyInto(pit, read('pits:\n  old: { slot: 2 }\n'), ['pits'], null)
    expect(parseYaml(copy.text)).toEqual({ pits: { old: { slot: 2 }, bank: { slot: 0 } } })
    expect(copy.misfits.map(({ what, setting }) => [what, setting])).toEqual([
      ['left-out', '/run'],
      ['left-out', '/deep/far'],
    ])
    const ini = copyInto(source, read('[old]\nprice = 2\n', 'ini'), [], 'eelman')
    expect(ini.text).toMatch(/\[eelman\]\s+id = 3\s/)
    expect(ini.text).toContain('hampers.claim.eelman')
  })

  it('is refused where its name is taken, or nothing can hold it', () => {
    expect(() => copyInto(source, read('a: { fisher: { b: 1 } }'), ['a'], null)).toThrow('fisher is there already')
    expect(() => copyInto(source, read('a: 1'), ['a'], null)).toThrow('/a is not a section or list')
  })
})
