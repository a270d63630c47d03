import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { factsOf } from '../src/checks/facts'
import { isLanguage, languageGroups, languageOfPath, languagesOf, plainPathOf, standingOf } from '../src/languages'
import { DELTA, found, workspace } from './delta'

const groupsIn = (files: Readonly<Record<string, string>>, factories: Readonly<Record<string, string>> = {}) => {
  const all = workspace(files, { factories, knowledge: DELTA })
  return languageGroups([...all.files.values()].map((file) => factsOf(all, file)))
}

describe('a path says a language', () => {
  it.each([
    ['A/texts.de.yml', 'A/texts.*.yml', 'de'],
    ['A/texts_pt_BR.properties', 'A/texts_*.properties', 'pt_BR'],
    ['A/lang/cy.json', 'A/lang/*.json', 'cy'],
    ['A/lang/de/board.yml', 'A/lang/*/board.yml', 'de'],
    ['A/locales/en-gb/a/b.yml', 'A/locales/*/a/b.yml', 'en-gb'],
  ])('%s', (path, base, language) => {
    expect(languageOfPath(path)).toEqual({ base, language })
    expect(base.replace('*', language)).toBe(path)
  })

  it.each(['A/settings.yml', 'A/texts.xx.yml', 'A/db/de/board.yml', 'A/texts.german.yml', 'A/de'])('%s says none', (path) => {
    expect(languageOfPath(path)).toBeNull()
  })

  it('and what it would be called without one', () => {
    expect(plainPathOf('A/texts_*.properties')).toBe('A/texts.properties')
    expect(plainPathOf('A/lang/*.yml')).toBeNull()
    expect(['de', 'pt_BR', 'zh-Hans', 'xx', 'DE', 'deu'].filter(isLanguage)).toEqual(['de', 'pt_BR', 'zh-Hans'])
  })
})

describe('the same texts in several languages', () => {
  it('stand in files that are called after them, or in one that says none', () => {
    const [group, ...more] = groupsIn({
      'A/texts.properties': 'hello=Hello, {player}\nbye=Bye\n',
      'A/texts_de.properties': 'hello=Hallo\nmehr=Mehr\n',
      'A/texts_cy.properties': 'hello=Helo, {player}\nbye=Hwyl\n',
    })
    expect(more).toEqual([])
    expect(group).toMatchObject({ base: 'A/texts_*.properties', source: { file: 'A/texts.properties' } })
    expect(languagesOf(group!)).toEqual(['de', 'cy'])
    const standing = Object.fromEntries(group!.members.map((member) => [member.facts.language, standingOf(group!, member)]))
    expect(standing['']).toEqual({ missing: [], extra: [], stale: [], without: [] })
    expect(standing['de']).toEqual({
      missing: ['/bye'],
      extra: ['/mehr'],
      stale: [],
      without: [{ pointer: '/hello', names: ['player'] }],
    })
    expect(standing['cy']).toEqual({ missing: [], extra: [], stale: [], without: [] })
  })

  it('stand in sections of one file', () => {
    const lua = 'return {\n  texts = {\n    en = { hello = "Hello", bye = "Bye" },\n    de = { hello = "Hallo" },\n  },\n}\n'
    const [group] = groupsIn({ 'A/settings.lua': lua })
    expect(group).toMatchObject({ base: 'A/settings.lua#/texts/*', source: { facts: { language: 'en', at: '/texts/en' } } })
    expect(standingOf(group!, group!.members[1]!).missing).toEqual(['/bye'])
  })

  it('are told stale where only the source was changed', () => {
    const factories = { 'A/texts.en.yml': 'a: Hello\nb: Bye\n', 'A/texts.de.yml': 'a: Hallo\nb: Tschau\n' }
    const files = { ...factories, 'A/texts.en.yml': 'a: Good day\nb: Farewell\n', 'A/texts.de.yml': 'a: Hallo\nb: Auf bald\n' }
    const [group] = groupsIn(files, factories)
    expect(
      standingOf(
        group!,
        group!.members.find(({ facts }) => facts.language === 'de')!,
      ).stale,
    ).toEqual(['/a'])
  })

  it('are none where two letters behind a dash are something else', () => {
    expect(groupsIn({ 'A/sort-it.yml': 'a: Hello\n', 'A/settings.yml': 'it: { a: b }\nother: { a: b }\n' })).toEqual([])
  })

  it('tell exactly what was taken out, added, changed and left out, whatever it is', () => {
    const keys = fc.uniqueArray(fc.stringMatching(/^[a-z]{3,8}$/), { minLength: 4, maxLength: 16 })
    fc.assert(
      fc.property(keys, fc.integer({ min: 0, max: 9999 }), (names, seed) => {
        const fateOf = (i: number): number => (i * 7 + seed) % 5
        const of = (fate: number): string[] => names.filter((_name, i) => fateOf(i) === fate).map((name) => `/${name}`)
        const line = (name: string, text: string): string => `${name}: "${text}"\n`
        const shipped = (text: string): string => names.map((name) => line(name, `${text} ${name} {player}`)).join('')
        const factories = { 'A/lang/en.yml': shipped('Say'), 'A/lang/de.yml': shipped('Sag') }
        const en = names
          .map((name, i) => (fateOf(i) === 1 ? '' : line(name, `${fateOf(i) === 2 ? 'Tell' : 'Say'} ${name} {player}`)))
          .join('')
        const de = names
          .map((name, i) => (fateOf(i) === 0 ? '' : line(name, `Sag ${name} ${fateOf(i) === 3 ? 'ihm' : '{player}'}`)))
          .join('')
        const [group] = groupsIn({ 'A/lang/en.yml': en, 'A/lang/de.yml': de }, factories)
        const standing = standingOf(
          group!,
          group!.members.find(({ facts }) => facts.language === 'de')!,
        )
        expect([...standing.missing].sort()).toEqual(of(0).sort())
        expect([...standing.extra].sort()).toEqual(of(1).sort())
        expect([...standing.stale].sort()).toEqual(of(2).sort())
        expect(standing.without.map(({ pointer }) => pointer).sort()).toEqual(of(3).sort())
      }),
    )
  })
})

describe('the language that a plugin is set to', () => {
  const files = { 'A/settings.yml': 'language: fr\n', 'A/texts.en.yml': 'a: Hello\n', 'A/texts.de.yml': 'a: Hallo\n' }
  const told = (all: Readonly<Record<string, string>>): string[] =>
    found(all, { factories: all })
      .filter(({ code }) => code === 'language-not-there')
      .map(({ file, message }) => `${file} ${message}`)

  it('has to have texts', () => {
    expect(told(files)).toEqual(['A/settings.yml fr is chosen, and A has texts in en, de. Take one of these, or add fr under Messages.'])
  })
  it.each([
    ['there', { ...files, 'A/settings.yml': 'language: de\n' }],
    ['there for another country', { ...files, 'A/settings.yml': 'language: de_AT\n' }],
    ['of a plugin without languages', { 'A/settings.yml': 'language: fr\n' }],
    ['of another plugin', { ...files, 'A/settings.yml': 'a: b\n', 'B/settings.yml': 'language: fr\n' }],
  ])('and nothing is said of one that is %s', (_what, all) => {
    expect(told(all)).toEqual([])
  })
})

describe('what is found of them', () => {
  const factories = {
    'A/texts.en.yml': 'hello: Hello {player}\nbye: Bye\n',
    'A/texts.de.yml': 'hello: Hallo {player}\nbye: Tschau\n',
  }
  const told = (en: string, de: string): (string | number)[][] =>
    found({ 'A/texts.en.yml': en, 'A/texts.de.yml': de }, { factories })
      .filter(({ check }) => check === 'languages-agree')
      .map(({ code, file, from }) => [code, file, from])

  it('a text that one lacks, and one that does not follow its source', () => {
    expect(told('hello: Good day {player}\nbye: Bye\nmore: More\n', 'hello: Hallo {player}\nbye: Auf bald\n')).toEqual([
      ['translation-missing', 'A/texts.de.yml', 0],
      ['translation-stale', 'A/texts.de.yml', 7],
    ])
  })
  it('a text of one’s own that no other has, and a placeholder that was left out', () => {
    expect(told(factories['A/texts.en.yml']!, 'hello: Hallo\nbye: Tschau\nbey: Tschau\n')).toEqual([
      ['translation-placeholder', 'A/texts.de.yml', 7],
      ['translation-extra', 'A/texts.de.yml', 30],
    ])
  })
  it('a text that was taken out of one, which its author had there', () => {
    expect(told(factories['A/texts.en.yml']!, 'hello: Hallo {player}\n')).toEqual([['translation-missing', 'A/texts.de.yml', 0]])
  })
  it('nothing of what authors ship, whatever they left out', () => {
    expect(found(factories, { factories })).toEqual([])
    // what follows an older text is told as that, and once
    const both = told('hello: Good day {player}, {rank}\nbye: Bye\n', factories['A/texts.de.yml']!)
    expect(both.map(([code]) => code)).toEqual(['translation-stale'])
    const odd = { 'A/texts.en.yml': 'a: Hello {player}\n', 'A/texts.de.yml': 'a: Hallo\nb: Mehr\n', 'A/texts.cy.yml': 'c: Mwy\n' }
    expect(found(odd, { factories: odd })).toEqual([])
  })
})
