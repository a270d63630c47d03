import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { parse } from '@pasticcio/core'
import { nextTick } from 'vue'
import MessagesPage from '../../app/pages/s/[server]/messages.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useMessagesStore } from '../../app/stores/messages'
import { languageCsv, languageProperties, takeCsv, takeProperties } from '../../app/utils/language-table'
import { coverageOf, languageName, languageRows, missingText, type LanguageRow } from '../../app/utils/message-languages'
import type { ListedMessage } from '../../app/utils/message-groups'
import { settingValue } from '../../app/utils/message-value'
import type { LanguageShown, LanguagesShown } from '../../app/utils/types'
import { answeringMessages, bare, message } from './message-world'
import { button, choose, show, text } from './pages'
import { until } from './world'

const BASE = 'extras/Purse/texts.*.yml'
const shown = (language: string, more: Partial<LanguageShown> = {}): LanguageShown => ({
  language,
  file: BASE.replace('*', language),
  at: '',
  texts: 3,
  isSource: language === 'en',
  missing: 0,
  stale: 0,
  extra: 0,
  without: 0,
  ...more,
})
const said = (language: string, pointer: string, words: string, more: Partial<ListedMessage> = {}): ListedMessage =>
  message({
    file: BASE.replace('*', language),
    pointer,
    texts: [words],
    shipped: [words],
    translated: { base: BASE, language, pointer },
    ...more,
  })
const GROUP: LanguagesShown = { base: BASE, plugin: 'Purse', chosen: null, languages: [shown('en'), shown('de')] }
const parts = {
  words: (words: string): string => words.replaceAll(/\{\w+\}/g, ''),
  placeholders: (texts: readonly string[]): string[] => texts.flatMap((one) => [...one.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!)),
}
const ALL = [
  said('en', '/hello', 'Hello, {player}.'),
  said('en', '/bye', 'Farewell.', { isShipped: false }),
  said('en', '/cost', '{price}'),
  said('en', '/lore', 'Bring oil', { texts: ['Bring oil', 'Be back'], isList: true }),
  said('de', '/hello', 'Hallo.'),
  said('de', '/bye', 'Tschau.'),
  said('de', '/cost', '{price}'),
  said('de', '/odd', 'Mehr.'),
]
const rowsOf = (all: readonly ListedMessage[] = ALL): readonly LanguageRow[] => languageRows(all, GROUP, parts)

describe('texts in several languages', () => {
  it('stand side by side in the order of their source, each with what is to be said of it', () => {
    expect(rowsOf().map(({ pointer, cells }) => [pointer, ...cells.map(({ state }) => state)])).toEqual([
      ['/hello', '', 'without'],
      ['/bye', '', 'stale'],
      ['/cost', '', ''],
      ['/lore', '', 'missing'],
      ['/odd', '', 'extra'],
    ])
  })

  it('that read alike in words are not translated yet', () => {
    const [row] = rowsOf([said('en', '/a', 'Hello, {player}'), said('de', '/a', 'Hello, {player}')])
    expect(row!.cells[1]!.state).toBe('same')
  })

  it('are counted over all plugins, with those that say no language among those the server speaks', () => {
    const groups = [GROUP, { ...GROUP, languages: [shown('', { texts: 4 }), shown('de', { texts: 3, stale: 1, missing: 1 })] }]
    expect(coverageOf(groups, 'en')).toEqual([
      { language: 'en', said: 7, stale: 0, missing: 0 },
      { language: 'de', said: 5, stale: 1, missing: 1 },
    ])
    expect(languageName('', null)).toBe('as shipped')
  })

  it('a missing one is written behind the one it stands behind in the source, in the shape it has there', () => {
    expect(missingText(rowsOf(), 3, shown('de'), ['a', 'b'])).toEqual({
      file: 'extras/Purse/texts.de.yml',
      pointer: '/lore',
      texts: ['a', 'b'],
      isList: true,
      keys: null,
      after: 'cost',
    })
    const section = shown('de', { file: 'extras/Purse/settings.yml', at: '/texts/de' })
    expect(missingText(rowsOf(), 3, section, ['a']).pointer).toBe('/texts/de/lore')
  })
})

describe('what a setting holds', () => {
  it.each([
    [{ isList: false, keys: null }, ['a'], 'a'],
    [{ isList: true, keys: null }, ['a', 'b'], ['a', 'b']],
    [{ isList: true, keys: ['1', '2'] }, ['a', 'b', 'c'], { 1: 'a', 2: 'b', 3: 'c' }],
    [{ isList: true, keys: ['line-08', 'line-09'] }, ['a', 'b', 'c'], { 'line-08': 'a', 'line-09': 'b', 'line-10': 'c' }],
    [{ isList: true, keys: ['0', '1', '2'] }, ['a'], { 0: 'a' }],
  ])('%j of %j', (one, texts, value) => {
    const told = settingValue(one, texts)
    expect(told instanceof Map ? Object.fromEntries(told) : told).toEqual(value)
  })
})

describe('a language as a file', () => {
  const names = ['en', 'de']
  it('goes out as a table and comes in again with what was changed in it, and nothing else', () => {
    const csv = languageCsv(rowsOf(), names)
    expect(csv.split('\n').slice(0, 2)).toEqual(['text,en,de', '/hello,"Hello, {player}.",Hallo.'])
    expect(takeCsv(csv, rowsOf(), GROUP.languages, names)).toEqual({ puts: [], unknown: [], strange: [] })
    const changed = csv
      .replace('Hallo.', '"Hallo, {player}."')
      .replace('"Bring oil\nBe back",', '"Bring oil\nBe back","Bring Öl\nKomm zurück"')
    expect(takeCsv(`${changed}/none,a,b\n`, rowsOf(), GROUP.languages, names)).toMatchObject({
      puts: [
        { language: 'de', pointer: '/hello', texts: ['Hallo, {player}.'], before: 'Hallo.' },
        { language: 'de', pointer: '/lore', texts: ['Bring Öl', 'Komm zurück'], before: null, isList: true },
      ],
      unknown: ['/none'],
      strange: [],
    })
    expect(takeCsv('text,fr\n/hello,Salut\n', rowsOf(), GROUP.languages, names)).toEqual({ puts: [], unknown: [], strange: ['fr'] })
  })

  it('goes out as properties that other readers take, and comes in again', () => {
    const properties = languageProperties(rowsOf(), 'en')
    expect(properties).toBe('hello=Hello, {player}.\nbye=Farewell.\ncost={price}\nlore.0=Bring oil\nlore.1=Be back\n')
    const [, german] = GROUP.languages
    const taken = takeProperties('hello=Hallo, {player}!\nlore.0=Öl\nlore.1=Da\nnone=x\n', rowsOf(), german!)
    expect(taken).toMatchObject({
      puts: [
        { pointer: '/hello', texts: ['Hallo, {player}!'] },
        { pointer: '/lore', texts: ['Öl', 'Da'], isList: true },
      ],
      unknown: ['none'],
    })
  })

  it('loses nothing on its way out and in, whatever the texts hold', () => {
    const words = fc
      .string({ unit: 'binary', minLength: 1, maxLength: 30 })
      .filter((one) => !/[\0\r\n\uFEFF\u2028\u2029]/.test(one) && one.trim() !== '')
    fc.assert(
      fc.property(fc.array(words, { minLength: 1, maxLength: 6 }), (texts) => {
        const rows = rowsOf(texts.flatMap((one, i) => [said('en', `/a${i}`, one), said('de', `/a${i}`, '')]))
        const english = rows.map(({ cells }) => cells[0]!.message!.texts[0]!)
        const asTable = languageCsv(rows, names).replaceAll(',\n', '\n').split('\n').length
        expect(asTable).toBeGreaterThan(rows.length)
        expect(takeCsv(languageCsv(rows, ['de', 'en']), rows, GROUP.languages, names).puts.map((put) => put.texts[0])).toEqual(
          english.filter((one) => one !== ''),
        )
        const tree = parse(languageProperties(rows, 'en'), 'properties')
        expect(tree.root.type === 'map' && tree.root.entries.map(({ value }) => (value.type === 'scalar' ? value.value : null))).toEqual(
          english,
        )
        expect(takeProperties(languageProperties(rows, 'en'), rows, GROUP.languages[1]!).puts.map((put) => put.texts[0])).toEqual(english)
      }),
    )
  })
})

describe('the page of languages', () => {
  const english = 'hello: "Hello, {player}."\nbye: "Farewell."\ncost: "{price}"\n'
  const world = (more: Parameters<typeof answeringMessages>[2] = {}): ReturnType<typeof answeringMessages> =>
    answeringMessages(
      english,
      { messages: ALL.map(bare), languages: [GROUP], spoken: { language: 'en', file: 'brackwater.yml', line: 6 } },
      more,
    )
  const open = async (): Promise<void> => {
    show(MessagesPage)
    await until(() => expect(text()).toContain('8 texts of 1 plugin'))
    button('Languages').click()
    await until(() => expect(text()).toContain('the others follow it'))
  }
  afterEach(async () => {
    await useDraftsStore().flushAll()
    await useDraftsStore().leaveBeside()
  })

  it('shows all of them, or only what is missing, and where the server’s language is set', async () => {
    world()
    await open()
    expect(text()).toContain('the server speaks en, brackwater.yml:6')
    for (const words of ['all 5', 'missing 1', 'older 1', 'extra 1', 'leaves out 1']) expect(text()).toContain(words)
    button('missing 1').click()
    await nextTick()
    expect([...document.querySelectorAll('tbody th')].map((one) => one.textContent!.trim())).toEqual(['lore'])
  })

  it('writes a text where there is none', async () => {
    const { asked } = world()
    await open()
    button('write it').click()
    await until(() => expect(asked.findLast(({ key }) => key === 'PUT /draft')).toBeDefined())
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({
      path: 'extras/Purse/texts.de.yml',
      text: `${english}lore:\n  - "Bring oil"\n  - "Be back"\n`,
    })
    expect(useMessagesStore().focus).toBe('extras/Purse/texts.de.yml#/lore')
  })

  it('adds a language, and says why it cannot', async () => {
    const { asked } = world({ 'POST /messages/languages': { path: 'a', texts: 3 } })
    await open()
    button('add a language …').click()
    await until(() => expect(document.querySelector('#language-code')).not.toBeNull())
    const code = document.querySelector<HTMLInputElement>('#language-code')!
    code.value = 'de'
    code.dispatchEvent(new Event('input'))
    await until(() => expect(document.body.textContent).toContain('Write the code of a language that is not there yet'))
    code.value = 'cy'
    code.dispatchEvent(new Event('input'))
    await nextTick()
    document.querySelector('form')!.dispatchEvent(new Event('submit'))
    await until(() =>
      expect(asked.find(({ key }) => key === 'POST /messages/languages')?.body).toEqual({ base: BASE, from: 'en', language: 'cy' }),
    )
  })

  it('takes a table in after a look at what it would change', async () => {
    const { asked } = world()
    await open()
    const file = new File(['text,en,de\n/hello,,"Hallo, {player}."\n/none,,x\n'], 'a.csv')
    choose(file)
    await until(() => expect(document.body.textContent).toContain('No text here is called /none.'))
    expect(document.body.textContent).toContain('Hallo, {player}.')
    button('Take in 1 text').click()
    await until(() => expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ path: 'extras/Purse/texts.de.yml' }))
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({
      text: english.replace('Hello, {player}.', 'Hallo, {player}.'),
    })
  })
})
