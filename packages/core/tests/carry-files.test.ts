import { describe, expect, it } from 'vitest'
import { carryFiles } from '../src/carry/carry-files'
import type { PluginFile } from '../src/carry/types'
import { formatOf } from '../src/formats/registry'

type Files = Readonly<Record<string, string>>
const files = (texts: Files): PluginFile[] => Object.entries(texts).map(([path, text]) => ({ path, text, format: formatOf(path)! }))

/** Carries a whole folder; gives the files as they shall be and what needs a look, as `file path outcome`. */
function run(
  factory: Files | null,
  mine: Files,
  update: Files,
): { result: Record<string, string>; look: string[]; from: Record<string, string | null> } {
  const carried = carryFiles({ factory: factory && files(factory), mine: files(mine), update: files(update) })
  return {
    result: Object.fromEntries(carried.files.flatMap((file) => (file.text === null ? [] : [[file.path, file.text]]))),
    look: carried.files.flatMap((file) =>
      file.decisions
        .filter((item) => item.attention)
        .map((item) => `${file.path} ${item.path} ${item.outcome}${item.fromFile ? ` from ${item.fromFile} ${item.from}` : ''}`),
    ),
    from: Object.fromEntries(carried.files.map((file) => [file.path, file.from])),
  }
}

const HAMPERS =
  'claim-price: 50\nmessages:\n  # Said when a hamper opens.\n  opened: "{player} opens a hamper"\n  empty: Nothing in it\n  refused: You may not\npause: 10\n'

describe('carrying all files of a plugin', () => {
  it('takes a section to the file it became', () => {
    const update = {
      'settings.yml': 'claim-price: 50\npause: 10\n',
      'texts.yml': '# Texts.\nopened: "{player} opens a hamper"\nempty: Nothing in it\nrefused: You may not\ngone: It is gone\n',
    }
    const { result, look } = run(
      { 'settings.yml': HAMPERS },
      { 'settings.yml': HAMPERS.replace('Nothing in it', 'All gone, sorry').replace('50', '35') },
      update,
    )
    expect(result).toEqual({
      'settings.yml': 'claim-price: 35\npause: 10\n',
      'texts.yml': update['texts.yml'].replace('Nothing in it', 'All gone, sorry'),
    })
    expect(look).toEqual(['texts.yml /empty moved from settings.yml /messages/empty'])
  })

  it('takes a section to a section of another file, in another format', () => {
    const update = {
      'settings.yml': 'claim-price: 50\npause: 10\n',
      'texts.json':
        '{\n  "texts": {\n    "opened": "{player} opens a hamper",\n    "empty": "Nothing in it",\n    "refused": "You may not"\n  }\n}\n',
    }
    const { result, look } = run({ 'settings.yml': HAMPERS }, { 'settings.yml': HAMPERS.replace('Nothing in it', 'All "gone"') }, update)
    expect(result['texts.json']).toBe(update['texts.json'].replace('Nothing in it', 'All \\"gone\\"'))
    expect(look).toEqual(['texts.json /texts/empty moved from settings.yml /messages/empty'])
  })

  it('takes one setting to another file', () => {
    const factory = { 'settings.yml': 'claim-price: 50\n# In seconds.\nrefill-pause: 340\n', 'goods.yml': 'reed: 4\n' }
    const update = { 'settings.yml': 'claim-price: 50\n', 'goods.yml': 'reed: 4\n# In seconds.\nrefill-pause: 340\n' }
    const { result, look } = run(factory, { ...factory, 'settings.yml': 'claim-price: 50\n# In seconds.\nrefill-pause: 99\n' }, update)
    expect(result['goods.yml']).toBe('reed: 4\n# In seconds.\nrefill-pause: 99\n')
    expect(look).toEqual(['goods.yml /refill-pause moved from settings.yml /refill-pause'])
  })

  it.each([
    [
      'settings.json',
      '{\n  "claim-price": 50,\n  "goods": ["reed", "clay"],\n  "open": true,\n  "pause": 10\n}\n',
      '{\n  "claim-price": 35,\n  "goods": ["reed", "clay", "amber"],\n  "open": true,\n  "pause": 10\n}\n',
    ],
    [
      'settings.lua',
      'return {\n  ["claim-price"] = 50,\n  goods = { "reed", "clay" },\n  open = true,\n  pause = 10,\n}\n',
      'return {\n  ["claim-price"] = 35,\n  goods = { "reed", "clay", "amber" },\n  open = true,\n  pause = 10,\n}\n',
    ],
    [
      'config.yaml',
      'pause: 10\nclaim-price: 50\ngoods: [reed, clay]\nopen: true\n',
      'pause: 10\nclaim-price: 35\ngoods: [reed, clay, amber]\nopen: true\n',
    ],
  ])('takes a whole file to another name and format: %s', (name, update, expected) => {
    const factory = 'claim-price: 50\ngoods: [reed, clay]\nopen: true\npause: 10\n'
    const { result, look, from } = run(
      { 'settings.yml': factory },
      { 'settings.yml': factory.replace('50', '35').replace('clay]', 'clay, amber]') },
      { [name]: update },
    )
    expect(result).toEqual({ [name]: expected })
    expect(look).toEqual([])
    expect(from).toEqual({ [name]: 'settings.yml' })
  })

  it('brings an added entry to where its neighbours went, in the new format', () => {
    const factory = 'prices:\n  reed: 4\n  clay: 6\n  amber: 20\npause: 10\n'
    const update = { 'settings.yml': 'pause: 10\n', 'prices.lua': 'return {\n  reed = 4,\n  clay = 6,\n  amber = 20,\n}\n' }
    const { result } = run(
      { 'settings.yml': factory },
      { 'settings.yml': factory.replace('  clay: 6\n', '  clay: 6\n  # ours\n  pearl: 90\n') },
      update,
    )
    expect(result['prices.lua']).toBe('return {\n  reed = 4,\n  clay = 6,\n  -- ours\n  pearl = 90,\n  amber = 20,\n}\n')
  })

  it('names what was mine in a file that is gone, and keeps files of my own', () => {
    const { result, look } = run(
      { 'a.yml': 'x: 1\n', 'b.yml': 'deep:\n  odd-thing: 1\n' },
      { 'a.yml': 'x: 1\n', 'b.yml': 'deep:\n  odd-thing: 77\n', 'mine.yml': 'q: 1\n' },
      { 'a.yml': 'x: 1\n' },
    )
    expect(result).toEqual({ 'a.yml': 'x: 1\n', 'mine.yml': 'q: 1\n' })
    expect(look).toEqual(['b.yml /deep/odd-thing kept-aside'])
  })

  it('leaves untouched files byte for byte, whatever else changes', () => {
    const factory = { 'a.yml': 'x: 1\ny: [1,2]\n', 'b.json': '{"a":1}' }
    const mine = { 'a.yml': "x:   '1'  # mine\ny: [1,   2]\n", 'b.json': '{ "a" : 2 }' }
    expect(run(factory, mine, factory).result).toEqual(mine)
    expect(run(factory, factory, { 'a.yml': 'y: [1]\nz: 3\n', 'b.json': '{"a":5}' }).result).toEqual({
      'a.yml': 'y: [1]\nz: 3\n',
      'b.json': '{"a":5}',
    })
  })

  it('takes choices by the ids of a former plan', () => {
    const factory = { 'settings.yml': 'claim-price: 50\n' }
    const input = {
      factory: files(factory),
      mine: files({ 'settings.yml': 'claim-price: 35\n' }),
      update: files({ 'settings.yml': 'claim-price: 60\n' }),
    }
    const [decision] = carryFiles(input).files[0]!.decisions
    expect(decision).toMatchObject({ id: 'settings.yml#/claim-price', outcome: 'default-moved', attention: true })
    const again = carryFiles(input, { choices: { [decision!.id]: { id: 'update' } } })
    expect(again.files[0]).toMatchObject({ text: 'claim-price: 60\n', decisions: [{ attention: false, chosen: 'update' }] })
    expect(JSON.parse(JSON.stringify(again))).toEqual(again)
  })

  it('takes plain text as one value', () => {
    const texts = (text: string): Files => ({ 'motd.txt': text })
    expect(run(texts('Welcome\n'), texts('Hello\nyou\n'), texts('Welcome\n')).result).toEqual(texts('Hello\nyou\n'))
    expect(run(texts('Welcome\n'), texts('Welcome\n'), texts('Welcome back\n')).result).toEqual(texts('Welcome back\n'))
    const both = run(texts('Welcome\n'), texts('Hello\n'), texts('Welcome back\n'))
    expect(both).toMatchObject({ result: texts('Hello\n'), look: ['motd.txt /text default-moved'] })
  })

  it('without factory copies keeps mine wherever both have a setting', () => {
    expect(run(null, { 'settings.yml': 'a: 1\nb: 2\n' }, { 'settings.yml': 'a: 5\nb: 2\nc: 3\n' }).result).toEqual({
      'settings.yml': 'a: 1\nb: 2\nc: 3\n',
    })
  })
})
