import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scoreMessages } from '../../../bench/messages/score.mjs'
import { plainText } from '../../standin/src/behaviours/plain-text'
import { itemRegistry } from '../../standin/src/server/items'
import { markupOf, workspaceFile, type WorkspaceFile } from '../src/checks'
import { readFamily } from '../src/families/family'
import { setValue } from '../src/formats/operations'
import { formatOf, parse, readingFor } from '../src/formats/registry'
import { UNSAID } from '../src/formats/reading'
import { messagesIn } from '../src/messages/find'
import type { Message } from '../src/messages/message'
import { pagesOf } from '../src/messages/pages'
import { applyEdits } from '../src/text/edits'
import { isContainer, type Node } from '../src/tree/nodes'
import { formatPointer } from '../src/tree/pointer'
import { MarkupReader } from '../src/values/markup'
import { toJson } from '../src/tree/values'

const FAMILY = readFamily(readFileSync('families/archive.yml', 'utf8'))
const SCRIPT = readFamily(readFileSync('families/script.yml', 'utf8'))
const KNOWN = {
  items: new Set(itemRegistry().map(({ id }) => id)),
  places: new Set(['delta', 'upriver', 'saltpans', 'undertow']),
  groups: new Set(['mudlark', 'ferryman', 'warden']),
}
const read = (path: string): WorkspaceFile => {
  const text = readFileSync(path, 'utf8')
  return workspaceFile({ path, plugin: 'A', text, factory: text, reading: readingFor(path, FAMILY), known: KNOWN })!
}
const found = (text: string, path = 'A/settings.yml', factory: string | null = text): Message[] =>
  messagesIn(workspaceFile({ path, plugin: 'A', text, factory, reading: UNSAID, known: KNOWN })!, markupOf(FAMILY))

/** All texts and lists of texts, whatever they are for. */
function pointersOf(node: Node, keys: readonly string[] = []): string[] {
  if (!isContainer(node)) return []
  return node.entries.flatMap(({ key, value }) => {
    const at = [...keys, key]
    const isText = (one: Node): boolean => one.type === 'scalar' && one.kind === 'text'
    if (value.type === 'list' && value.entries.length > 0 && value.entries.every((item) => isText(item.value))) return [formatPointer(at)]
    return isText(value) && node.type !== 'list' ? [formatPointer(at)] : pointersOf(value, at)
  })
}

const LABELS = 'bench/messages/labels.yml'
const document = parse(readFileSync(LABELS, 'utf8'), formatOf(LABELS)!, readingFor(LABELS, null))
const labels = toJson(document, document.root) as unknown as Record<string, Record<string, Record<string, string>>>

describe('texts that players read, against labels by hand', () => {
  it.each([
    ['demo', 'packages/standin/demo', 0.97],
    ['others', 'bench/labelled', 0.9],
    ['unseen', 'bench/labelled/unseen', 0.9],
  ])('of the %s are told, and nothing else is', (name, folder, aim) => {
    const files = Object.entries(labels[name]!).map(([file, of]): [string, Record<string, string>] => [join(folder, file), of])
    const { counts, wrong } = scoreMessages(
      files,
      (file) => messagesIn(read(file), markupOf(file.includes('scripts') ? SCRIPT : FAMILY)),
      (file) => pointersOf(read(file).document.root),
    )
    expect(counts.right / counts.told, wrong.join('\n')).toBeGreaterThanOrEqual(aim)
    expect(counts.right / counts.wanted, wrong.join('\n')).toBeGreaterThanOrEqual(aim)
    expect(counts.surface / counts.right, wrong.join('\n')).toBeGreaterThanOrEqual(0.9)
  })
})

it('the demo’s texts read as the stand-in server tells them to a player, every one', () => {
  const archive = Object.keys(labels['demo']!).filter((file) => !/^(?:scripts|bundles)/.test(file))
  const texts = archive.flatMap((file) =>
    messagesIn(read(join('packages/standin/demo', file)), markupOf(FAMILY)).flatMap((one) => one.texts),
  )
  expect(texts.length).toBeGreaterThan(80)
  const reader = new MarkupReader(markupOf(FAMILY))
  for (const text of texts) {
    const filled = text.replace(/\{[\w.-]+\}/g, 'nessa')
    const seen = reader.read(filled).map((line) => line.map((run) => (run.is === 'unknown' ? '' : run.text)).join(''))
    expect(seen.join('\n'), text).toBe(plainText(filled))
  }
})

describe('where and when a text is seen', () => {
  it.each([
    ['a rule says so', 'x: word\n', null],
    ['an id', '# Shown to players.\nicon: clay\n', null],
    ['a command', 'commands:\n  - "say Hello {player}"\n', null],
    ['a path', 'file: "logs/{date}.log"\n', null],
    ['a placeholder', 'odd: "{player} is here"\n', 'chat any'],
    ['a sentence', 'odd: "Come back later."\n', 'chat any'],
    ['a name of something', 'pits:\n  a: { name: "Low bank", icon: clay }\n  b: { name: "Weir", icon: reed }\n', 'item any'],
    ['the server list', 'banner:\n  lines: ["[b]A[/b]"]\n', 'banner list'],
    ['an arrival', 'arrive: "{player} comes."\n', 'chat join'],
    ['a first visit', 'newcomers:\n  arrive: "{player} comes."\n', 'chat first'],
    ['a warning', 'warnings:\n  60: "In a minute."\n', 'chat timed'],
    ['a title', 'titles:\n  flood: { big: "The flood", small: "Off the banks!", stay: 40 }\n', 'title any'],
    ['lore', 'lore:\n  - "Costs {price}"\n', 'item any'],
    ['an empty text', 'message: ""\n', 'chat any'],
  ])('%s', (_what, text, expected) => {
    const [first] = found(text)
    expect(first ? `${first.surface} ${first.moment}` : null).toBe(expected)
  })

  it('tells how long it waits and stays, how a list is told, and what is shipped', () => {
    const text =
      '# One after the other.\ntips:\n  - "Mud dries."\n  - "Ask a warden."\nhello:\n  text: "Good day, {player}."\n  # In seconds.\n  delay: 2\n  # In ticks.\n  stay: 40\n'
    const [tips, hello] = found(text.replace('Good day', 'Welcome'), 'A/a.yml', text)
    expect(tips).toMatchObject({ turn: 'in-turn', isShipped: true, moment: 'timed', texts: ['Mud dries.', 'Ask a warden.'] })
    expect(hello).toMatchObject({ delay: 2, stays: 2, isShipped: false, shipped: ['Good day, {player}.'], turn: null })
  })

  it('waits for what its comment names', () => {
    expect(found('# Shown to all when the flood begins.\nsmall: "Off the banks!"\n')[0]).toMatchObject({ when: 'flood' })
    expect(found('bars:\n  a: { text: "High water", when: market }\n  b: { text: "Low", when: ebb }\n').map(({ when }) => when)).toEqual([
      'market',
      'ebb',
    ])
  })
})

it('as many texts as a large server has are all told, each with what is said of it', () => {
  // what looked through all of a section for each of its texts took minutes for half as many
  const count = 10_000
  const lines = Array.from({ length: count }, (_one, i) => `  # Shown in the sign ${i}.\n  text-${i}: "{player} was here."\n`)
  const all = found(`messages:\n${lines.join('')}`)
  expect(all).toHaveLength(count)
  expect(all.at(-1)).toMatchObject({ says: `Shown in the sign ${count - 1}.`, pointer: `/messages/text-${count - 1}` })
})

it('each text stands where it is said to stand, whatever it holds', () => {
  const word = fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' })
  fc.assert(
    fc.property(fc.array(word, { minLength: 1, maxLength: 4 }), word, (lines, single) => {
      const data = { messages: { one: `${single} and more.`, many: lines.map((line) => `${line} and more.`) } }
      const text = JSON.stringify(data, null, 2)
      const all = found(text, 'A/a.json')
      expect(all.map(({ texts }) => texts)).toEqual([[data.messages.one], data.messages.many])
      // another reader reads at each place what is said to be written there
      for (const { texts, places } of all) expect(places.map(({ from, to }) => JSON.parse(text.slice(from, to)) as string)).toEqual(texts)
    }),
  )
})

describe('texts in numbered keys', () => {
  it.each([
    ['numbers', 'board:\n  1: "{player}"\n  2: "Ebb in {tide}"\n', ['1', '2']],
    ['a word with numbers', 'board:\n  line-1: "{player}"\n  line-2: ""\n  line-3: "Ebb"\n', ['line-1', 'line-2', 'line-3']],
    ['from nought', 'board:\n  "0": "{player}"\n  "1": "Ebb"\n', ['0', '1']],
  ])('are one text: %s', (_what, text, keys) => {
    const [one, ...more] = found(text)
    expect(one).toMatchObject({ pointer: '/board', keys, isList: true, surface: 'board' })
    expect(one!.texts).toHaveLength(keys.length)
    expect(more).toEqual([])
  })

  it.each([
    ['numbers that leave one out', 'warnings:\n  60: "In a minute."\n  10: "In ten seconds."\n'],
    ['others beside them', 'board:\n  1: "{player}"\n  title: "The row"\n'],
    ['each with a comment of its own', 'board:\n  1: "{player}"\n  # Below it.\n  2: "Ebb tide."\n'],
  ])('and texts by themselves: %s', (_what, text) => {
    expect(found(text).map(({ keys, pointer }) => [keys, pointer.split('/').length])).toEqual([
      [null, 3],
      [null, 3],
    ])
  })

  it('are written key by key, whatever the format', () => {
    for (const [path, text, after] of [
      ['A/a.yml', 'board:\n  1: "{player}" # who\n  2: "Ebb"\n', 'board:\n  1: "{player}!" # who\n  2: "Ebb"\n  3: "More"\n'],
      ['A/a.json', '{ "board": { "1": "{player}", "2": "Ebb" } }', '{ "board": { "1": "{player}!", "2": "Ebb", "3": "More" } }'],
    ] as const) {
      const [one] = found(text, path)
      const document = parse(text, formatOf(path)!)
      const texts = new Map([one!.texts[0]! + '!', one!.texts[1]!, 'More'].map((line, i) => [String(i + 1), line]))
      expect(applyEdits(text, setValue(document, ['board'], texts))).toBe(after)
    }
  })
})

it('tells what is opened where a text is pressed', () => {
  const [one] = found('buttons:\n  map: { text: "The map", link: "https://lantern-row.example/map" }\n')
  expect(one).toMatchObject({ opens: 'https://lantern-row.example/map' })
  expect(found('say: { text: "The map is there.", address: none }\n')[0]).toMatchObject({ opens: '' })
})

describe('pages', () => {
  const size = { letters: 12, rows: 2 }
  const seen = (text: string): string[][] =>
    pagesOf(
      text.split('\n').map((line) => [{ text: line, is: 'text' as const }]),
      size,
    ).map((page) => page.map((row) => row.map((run) => run.text).join('')))

  it.each([
    ['short', 'Welcome.', [['Welcome.']]],
    ['broken at a blank', 'Dig clay at low water.', [['Dig clay at', 'low water.']]],
    ['a word longer than a row', 'Lanternwrights', [['Lanternwrigh', 'ts']]],
    ['more rows than a page has', 'a\nb\nc', [['a', 'b'], ['c']]],
    ['an empty row counts', 'a\n\nb', [['a', ''], ['b']]],
    ['a form feed begins a page', 'a\fb', [['a'], ['b']]],
    ['exactly full', 'twelve chars and', [['twelve chars', 'and']]],
  ])('%s', (_what, text, pages) => {
    expect(seen(text)).toEqual(pages)
  })

  it('hold every letter but the blanks they are broken at, and none is too long', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-zé ]{0,40}$/), { maxLength: 6 }), (lines) => {
        const pages = seen(lines.join('\n'))
        const bare = (text: string): string => text.replaceAll(/\s/g, '')
        expect(bare(pages.flat().join(''))).toBe(bare(lines.join('')))
        for (const page of pages) {
          expect(page.length).toBeLessThanOrEqual(size.rows)
          for (const row of page) expect([...row].length).toBeLessThanOrEqual(size.letters)
        }
      }),
    )
  })
})
