import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { ConsoleReader } from '../src/families/console'
import { FamilyError, readFamily } from '../src/families/family'
import { PackageError, readPackage } from '../src/families/package-info'

const text = readFileSync('families/archive.yml', 'utf8')
const family = readFamily(text)

describe('console lines', () => {
  const reader = new ConsoleReader(family)
  const event = (source: string) => reader.event(reader.line(source))

  it.each([
    ['12:00:00.000 info  ready, 3 plugins running', { type: 'ready' }],
    ['12:00:00.000 info  Purse generated settings.yml', { type: 'generated', plugin: 'Purse', file: 'settings.yml' }],
    ['12:00:00.000 info  Purse 1.8.0 loaded: x', { type: 'loaded', plugin: 'Purse', version: '1.8.0' }],
    ['12:00:00.000 error Purse 1.8.0 failed: settings.yml line 3: no', { type: 'failed', plugin: 'Purse', file: 'settings.yml', line: 3 }],
    ['12:00:00.000 info  state: 3 players, 19.5 ticks/s', { type: 'state', players: 3, ticks: 19.5, memory: null }],
    ['12:00:00.000 info  state: 3 players, 19.5 ticks/s, 412 MB', { type: 'state', players: 3, ticks: 19.5, memory: 412 }],
    ["12:00:00.000 reply time: Wardens' Desk 1.25 ms", { type: 'time', plugin: "Wardens' Desk", ms: 1.25 }],
  ])('%s', (source, expected) => expect(event(source)).toMatchObject(expected))

  it('of servers that write numbers with a comma are read, and one that says when it has written', () => {
    const other = new ConsoleReader(
      readFamily(
        text
          .replace(/^ {2}state: .*$/m, '  state: "^(?<players>\\\\d+) here, (?<ticks>[\\\\d,]+)$"')
          .replace(/^ {2}time: .*$/m, '  time: "^(?<plugin>\\\\w+) takes (?<ms>[\\\\d,]+)$"\n  flushed: "^written$"'),
      ),
    )
    const read = (source: string) => other.event(other.line(source))
    expect(read('4 here, 19,5')).toEqual({ type: 'state', players: 4, ticks: 19.5, memory: null })
    expect(read('Purse takes 0,4')).toEqual({ type: 'time', plugin: 'Purse', ms: 0.4 })
    expect(read('written')).toEqual({ type: 'flushed' })
  })

  it.each([
    '12:00:00.000 info  [chat] Purse failed: settings.yml line 1: gone',
    '12:00:00.000 info  [chat] ready, 3 plugins running',
    '12:00:00.000 info  [chat] generated settings.yml',
    '12:00:00.000 info  Signboard: Purse 1.8.0 failed: it says',
    '12:00:00.000 info  it is ready, 3 plugins running',
  ])('%s means nothing', (source) => expect(event(source)).toBeNull())

  it('patterns that would fit a part of a line are refused', () => {
    for (const [name, pattern] of [
      ['failed', 'failed'],
      ['ready', 'ready'],
    ])
      expect(() => readFamily(text.replace(new RegExp(`^  ${name}: .*$`, 'm'), `  ${name}: "${pattern}"`))).toThrow(FamilyError)
    expect(() => readFamily(text.replace(/^ {2}speech: .*$/m, '  speech: "("'))).toThrow('no regular expression')
    expect(readFamily(text.replace(/^ {2}speech: .*$/m, '')).console.speech).toBeUndefined()
  })
})

describe('what a package says', () => {
  const read = (files: Record<string, string>) => readPackage(new Map(Object.entries(files)), family, 'x')

  it('is kept as it is written', () => {
    const info = read({ 'pack.yml': 'name: Eel\nversion: 1.0\ngame: 7.10\nrequires:\n  Purse: 2.0\nsummary: 007\nauthors: [1.50, Ada]\n' })
    expect(info).toMatchObject({ version: '1.0', game: '7.10', requires: { Purse: '2.0' }, summary: '007', authors: ['1.50', 'Ada'] })
    expect(read({ 'pack.yml': 'name: Eel\nversion: "2"\nsummary: [not, a, text]\n' })).toMatchObject({
      version: '2',
      summary: '',
      game: '*',
    })
  })

  it.each([
    [{ 'defaults/../out.yml': 'a: 1\n' }, 'outside'],
    [{ 'defaults//a.yml': 'a: 1\n' }, 'outside'],
    [{ 'defaults/C:\\a.yml': 'a: 1\n' }, 'outside'],
    [{ 'defaults/a.yml': 'a: 1\n', 'defaults/A.yml': 'a: 1\n' }, 'no capitals'],
  ])('%j is refused', (files, words) => {
    const work = () => read({ 'pack.yml': 'name: Eel\nversion: 1\n', ...files })
    expect(work).toThrow(PackageError)
    expect(work).toThrow(words)
  })
})
