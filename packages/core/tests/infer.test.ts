import { describe, expect, it } from 'vitest'
import { parse, type FormatId } from '../src/formats/registry'
import { UNSAID } from '../src/formats/reading'
import { checkRules, recheckRules } from '../src/rules/check'
import { RuleBook } from '../src/rules/book'
import { inferRules } from '../src/rules/infer'
import { reread } from '../src/formats/reread'
import type { Meaning, Rule } from '../src/rules/rule'

const known = {
  items: new Set(['reed', 'clay', 'eel', 'fired_brick']),
  places: new Set(['delta', 'saltpans']),
  sounds: new Set(['tin_bell', 'eel']),
  groups: new Set(['warden', 'mudlark']),
}
const ruleOf = (text: string, keys: readonly string[], format: FormatId = 'yaml'): Rule | null =>
  new RuleBook(inferRules(parse(text, format, UNSAID), known)).find(keys)

/** One line of a file, its comment, and what it is; null for what must be left plain. */
const TABLE: readonly (readonly [line: string, comment: string, means: Meaning | null])[] = [
  ['wait-seconds: 5', '', 'duration'],
  ['cooldownTicks: 5', '', 'duration'],
  ['keep-days: 5', '', 'duration'],
  ['tick-rate: 5', '', null],
  ['per-second: 5', 'goods per second', null],
  ['max-players: 5', 'players in one minute', null],
  ['delay: 5', '', null],
  ['delay: 5', 'Delay in ms', 'duration'],
  ['delay: 5m', '', 'duration'],
  ['level: 5x', '', null],
  ['port: 8080', '', 'port'],
  ['port: 70000', '', null],
  ['transport: 8080', '', null],
  ['support: 12', '', null],
  ['heading: 90', '', 'angle'],
  ['heading: 900', '', null],
  ['pitch: 1.0', 'how high it sounds', null],
  ['slot: 4', '', 'slot'],
  ['slots: 9', 'How many slots it has', null],
  ['api-key: x1', '', 'secret'],
  ['key: F5', '', null],
  ['password: ""', '', 'secret'],
  ['token: ferry_token', 'the item that is taken', null],
  ['url: https://a.example/b', '', 'link'],
  ['website: a.example', '', 'link'],
  ['host: 10.0.0.1', '', 'host'],
  ['email-address: a@b.example', '', null],
  ['colour: "#c98a0b"', '', 'colour'],
  ['glow: "#c98a0b"', '', 'colour'],
  ['colour: amber', '', null],
  ['channel: "#general"', '', null],
  ['at: "06:30"', '', 'time'],
  ['at: "26:30"', '', null],
  ['ratio: "16:9"', '', null],
  ['icon: reed', '', 'id'],
  ['icon: reed.png', '', 'picture'],
  ['name: reed', '', null],
  ['sound: tin_bell', '', 'id'],
  ['world: delta', '', 'id'],
  ['group: warden', '', 'id'],
  ['goods: [reed, clay]', '', 'id'],
  ['gift: [reed 3, clay 1]', '', 'amount'],
  ['words: [reed, unknown]', '', null],
  ['node: fair.enter', '', 'node'],
  ['permission: ""', '', 'node'],
  ['file: fair.log', '', 'file'],
  ['domain: fair.example', '', 'host'],
  ['commands: [say hello]', '', 'command'],
  ['command-name: fair', '', null],
  ['spawn: { x: 1, y: 2, z: 3 }', '', 'coordinates'],
  ['size: [4, 3, 2]', '', null],
  ['start: [4, 3, 2]', '', 'coordinates'],
  ['mode: low', 'low, fair or high', 'choice'],
  ['mode: low', 'It is low, as always.', null],
  ['level: 1', '0 = off, 1 = some, 2 = all', 'choice'],
  ['show-lamps: 1', '', 'switch'],
  ['lamps: 1', '', null],
  ['tell: "yes"', '', 'switch'],
  ['answer: "yes"', 'One of: yes, no, maybe', 'choice'],
]

describe('what a setting stands for', () => {
  it.each(TABLE)('%s # %s', (line, comment, means) => {
    const text = `${comment === '' ? '' : `# ${comment}\n`}${line}\n`
    const found = ruleOf(text, [line.slice(0, line.indexOf(':'))])?.means ?? null
    expect(found === 'number' || found === 'text' ? null : found).toBe(means)
  })

  it('a comment on the first of a run counts for those below it that have none', () => {
    const text = 't:\n  # In ticks: coming, staying.\n  in: 5\n  stay: 9\n\n  # how many\n  many: 3\n  rows: 2\n'
    expect(['in', 'stay', 'many', 'rows'].map((key) => ruleOf(text, ['t', key])?.unit)).toEqual(['tick', 'tick', undefined, undefined])
  })

  it('what a comment above a group says of a name counts in all of its entries', () => {
    const text =
      '# Stalls.\n#   rows   how many, 1 to 6\n#   wait   seconds until the next\nstalls:\n  a: { rows: 2, wait: 5 }\n  b: { rows: 3, wait: 9 }\n'
    expect(ruleOf(text, ['stalls', 'b', 'rows'])).toMatchObject({ min: 1, max: 6 })
    expect(ruleOf(text, ['stalls', 'a', 'wait'])).toMatchObject({ means: 'duration', unit: 'second' })
  })

  it('the names of a section may be ids themselves', () => {
    expect(ruleOf('prices:\n  reed: 3\n  clay: 4\n', ['prices'])).toMatchObject({ keys: 'items' })
    expect(ruleOf('prices:\n  reed: 3\n  moon: 4\n', ['prices'])).not.toHaveProperty('keys')
  })

  it('an id that two lists have is of the one the words speak of', () => {
    expect(ruleOf('sound: eel\n', ['sound'])).toMatchObject({ registry: 'sounds' })
    expect(ruleOf('icon: eel\n', ['icon'])).toMatchObject({ registry: 'items' })
  })

  it('sums and calls of Lua are what they come to, or code', () => {
    expect(ruleOf('return {\n  -- in seconds\n  wait = 5 * 60,\n}\n', ['wait'], 'lua')).toMatchObject({ means: 'duration', unit: 'second' })
    expect(ruleOf('return {\n  wait = function() end,\n}\n', ['wait'], 'lua')).toMatchObject({ means: 'code' })
  })
})

describe('checking again what was typed', () => {
  it('a change inside a section leaves the finding of the section itself', () => {
    const rules: Rule[] = [
      { path: '/list/*', kind: 'number' },
      { path: '/list/*/a', kind: 'number' },
    ]
    const text = 'list:\n  x:\n    a: 1\n    b: 2\n'
    const document = parse(text, 'yaml', UNSAID)
    const before = checkRules(document, rules)
    expect(before.map(({ code }) => code)).toEqual(['number-expected'])
    const at = text.indexOf('1')
    const { document: now, changes } = reread(document, [{ from: at, to: at + 1, insert: 'soon' }])
    const again = recheckRules(now, rules, before, changes)
    expect(again).toEqual(checkRules(parse(text.replace('1', 'soon'), 'yaml', UNSAID), rules))
    expect(again).toHaveLength(2)
  })

  it('a value with words of its own is right wherever the bounds are', () => {
    const rules: Rule[] = [{ path: '/most', min: 1, max: 9, said: [{ value: '-1', says: 'no limit' }] }]
    const wrong = (text: string): number => checkRules(parse(text, 'yaml', UNSAID), rules).length
    expect([wrong('most: -1\n'), wrong('most: -2\n'), wrong('most: 5\n')]).toEqual([0, 1, 0])
  })
})

describe('the folder that a comment names', () => {
  it.each([
    ['A PNG in the folder "pictures".', 'pictures'],
    ['A PNG in the pictures folder, 64 by 64.', 'pictures'],
    ['A PNG in pictures/fair/.', 'pictures/fair'],
    ['A PNG in `art/fair/`, beside this file.', 'art/fair'],
    ['A PNG in a folder named fair.', 'fair'],
    ['A PNG beside this file.', undefined],
    ['A PNG in the plugin folder.', undefined],
    ['A PNG in the folder where the fair is.', undefined],
    ['A PNG, as in fair.png, of the server folder.', undefined],
  ])('%s', (comment, folder) => {
    const document = parse(`# ${comment}\npicture: fair.png\n`, 'yaml')
    expect(inferRules(document).find((rule) => rule.path === '/picture')).toMatchObject({ means: 'picture' })
    expect(inferRules(document).find((rule) => rule.path === '/picture')?.folder).toBe(folder)
  })
})
