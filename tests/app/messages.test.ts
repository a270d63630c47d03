import fc from 'fast-check'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { MarkupReader, type Markup } from '@pasticcio/core'
import { nextTick } from 'vue'
import WrittenFor from '../../app/components/messages/WrittenFor.vue'
import MessagesPage from '../../app/pages/s/[server]/messages.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useMessagesStore } from '../../app/stores/messages'
import { contrastOf } from '../../app/utils/contrast'
import { blended, endOf, inserted, movedLine, wrapped } from '../../app/utils/message-edit'
import { NO_FILTER, bookRows, filterMessages, groupOf, rowAt, stepsOf, topsOf } from '../../app/utils/message-groups'
import { hitsOf } from '../../app/utils/message-replace'
import { sampleFor } from '../../app/utils/sample-values'
import { button, show, text } from './pages'
import { TEXTS, answeringMessages, bare, message } from './message-world'
import { answering, until } from './world'

describe('texts in the book', () => {
  const list = [
    message({ pointer: '/leave', moment: 'leave' }),
    message({ pointer: '/late', delay: 2 }),
    message(),
    message({ pointer: '/banner', moment: 'list', surface: 'banner', plugin: 'Board', file: 'b.yml', isShipped: false }),
    message({ pointer: '/flood', moment: 'any', when: 'flood', texts: ['a', 'b', 'c', 'd'], isList: true }),
    message({ pointer: '/ask', moment: 'any' }),
  ]
  const titles = (view: 'events' | 'files'): string[] =>
    bookRows(list, view).map((row) => (row.kind === 'head' ? `= ${row.title} ${row.count}` : row.message.pointer))

  it('stand in the order of a visit, those that wait longer behind, and by their files', () => {
    expect(titles('events')).toEqual([
      '= In the server list 1',
      '/banner',
      '= When somebody joins 2',
      '/arrive',
      '/late',
      '= With flood 1',
      '/flood',
      '= When players do something 1',
      '/ask',
      '= When somebody leaves 1',
      '/leave',
    ])
    expect(titles('files')).toEqual(['= Purse 5', '/leave', '/late', '/arrive', '/flood', '/ask', '= Board 1', '/banner'])
  })

  it.each([
    [{ surface: 'banner' }, ['/banner']],
    [{ plugin: 'Board' }, ['/banner']],
    [{ onlyMine: true }, ['/banner']],
    [{ withFindings: true }, []],
    [{ words: 'LEAVE' }, ['/leave']],
    [{ language: 'de' }, list.map(({ pointer }) => pointer)],
  ] as const)('%j leaves %j', (more, left) => {
    const found = filterMessages(list, { ...NO_FILTER, ...more })
    expect(found.map(({ pointer }) => pointer)).toEqual(left)
  })

  it('are gone through as a player gets them, one after the other where they come at once', () => {
    const rows = bookRows([message(), message({ pointer: '/late', delay: 2 }), message({ pointer: '/too', delay: 2 })], 'events')
    const group = groupOf(rows, rows[2]!.id)
    expect(stepsOf(rows, group).map(({ waits }) => waits)).toEqual([700, 2000, 700])
    expect([stepsOf(rows, 'head of nothing'), groupOf(rows, 'nothing')]).toEqual([[], ''])
  })

  it('each height is within exactly the row that is found at it', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 200 }), fc.nat(20_000), (sizes, at) => {
        const rows = bookRows(
          sizes.map((size, i) => message({ pointer: `/${i}`, texts: Array.from({ length: size }, () => 'x') })),
          'files',
        )
        const tops = topsOf(rows)
        const top = at % tops.at(-1)!
        const row = rowAt(tops, top)
        expect(tops[row]).toBeLessThanOrEqual(top)
        expect(tops[row + 1]).toBeGreaterThan(top)
        expect(tops.at(-1)).toBe(rows.reduce((sum, { height }) => sum + height, 0))
      }),
    )
  })
})

describe('writing codes', () => {
  it('puts them at the caret, around what is chosen, and takes them away again', () => {
    expect(inserted('ab', { from: 1, to: 1 }, '{x}')).toEqual({ text: 'a{x}b', from: 4, to: 4 })
    const bold = wrapped('a bc d', { from: 2, to: 4 }, '[b]', '[/b]')
    expect(bold).toEqual({ text: 'a [b]bc[/b] d', from: 5, to: 7 })
    expect(wrapped(bold.text, bold, '[b]', '[/b]')).toEqual({ text: 'a bc d', from: 2, to: 4 })
    expect([
      endOf(TEXTS, TEXTS.marks[0]!),
      endOf(TEXTS, TEXTS.marks[4]!),
      endOf({ marks: [{ code: '<r>', ends: 'all' }] }, { code: '<b>', bold: true }),
    ]).toEqual(['[/]', '[/b]', '<r>'])
  })

  it('blends from one colour to another, and a reader sees the same letters in colours that go that way', () => {
    const anyColour: Markup = { ...TEXTS, codes: '<[^>]*>', marks: [{ code: '<#{colour}>' }, { code: '</>', ends: 'colour' }] }
    const letters = fc.stringMatching(/^[a-zA-Z ]{1,20}$/)
    fc.assert(
      fc.property(letters, fc.constantFrom(TEXTS, anyColour), (plain, markup) => {
        const written = blended(markup, plain, '#000000', '#ffffff')
        const runs = new MarkupReader(markup).read(written).flat()
        expect(runs.map((run) => run.text).join('')).toBe(plain)
        if (markup !== anyColour) return
        const reds = runs.filter((run) => run.text.trim() !== '').map(({ colour }) => Number.parseInt(colour!.slice(1, 3), 16))
        expect(reds).toEqual([...reds].sort((a, b) => a - b))
      }),
    )
  })

  it('moves a line, and not beyond the ends', () => {
    expect(movedLine(['a', 'b', 'c'], 1, -1)).toEqual(['b', 'a', 'c'])
    expect(movedLine(['a', 'b'], 1, 1)).toEqual(['a', 'b'])
  })

  it('tells how well colours differ, as WCAG reckons it', () => {
    expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21)
    expect(contrastOf('#777777', '#ffffff')).toBeCloseTo(4.48, 2)
    expect(contrastOf('#ffffff', '#ffffff')).toBe(1)
  })

  it.each([
    ['players', '18'],
    ['player', 'nessa'],
    ['balance', '1,240 marks'],
    ['wait', '12 min'],
    ['odd', 'odd'],
  ])('{%s} shows %s', (name, value) => expect(sampleFor(name)).toBe(value))
})

describe('finding and replacing', () => {
  const list = [message({ texts: ['The row. The Row.'] }), message({ pointer: '/b', texts: ['a', 'row by row'], isList: true })]
  it.each([
    ['row', 'quay', { matchCase: true, wholeWords: false }, [['The quay. The Row.'], ['a', 'quay by quay']]],
    ['row', 'quay', { matchCase: false, wholeWords: false }, [['The quay. The quay.'], ['a', 'quay by quay']]],
    ['ro', 'x', { matchCase: true, wholeWords: true }, []],
    ['.', '!', { matchCase: true, wholeWords: false }, [['The row! The Row!']]],
    ['', 'x', { matchCase: true, wholeWords: false }, []],
    ['here', 'x', { matchCase: true, wholeWords: false, markup: TEXTS }, []],
    ['row', '$&', { matchCase: true, wholeWords: true }, [['The $&. The Row.'], ['a', '$& by $&']]],
  ])('“%s” by “%s”, %j', (words, by, options, texts) => expect(hitsOf(list, words, by, options).map((hit) => hit.texts)).toEqual(texts))

  it('leaves placeholders and codes alone, unless they are asked for', () => {
    const tide = [message({ texts: ['[tide]Tide: {tide}[/] at tide'] })]
    const options = { matchCase: true, wholeWords: false, markup: TEXTS }
    expect(hitsOf(tide, 'tide', 'flood', options)).toMatchObject([{ texts: ['[tide]Tide: {tide}[/] at flood'], count: 1 }])
    expect(hitsOf(tide, '{tide}', '{flood}', options)).toMatchObject([{ texts: ['[tide]Tide: {flood}[/] at tide'] }])
    expect(hitsOf(tide, '[tide]', '[water]', options)).toMatchObject([{ texts: ['[water]Tide: {tide}[/] at tide'] }])
  })
})

describe('the page of messages', () => {
  const source = 'arrive: "{player} comes."\nleave: "{player} goes to the row."\n'
  const leave = message({
    pointer: '/leave',
    moment: 'leave',
    texts: ['{player} goes to the row.'],
    shipped: ['{player} goes.'],
    isShipped: false,
    line: 2,
  })
  const world = (): ReturnType<typeof answeringMessages> => answeringMessages(source, { messages: [bare(message()), bare(leave)] })
  afterEach(async () => {
    await useDraftsStore().flushAll()
    await useDraftsStore().leaveBeside()
  })

  it('shows what is written and what is read, and writes what is typed into the draft', async () => {
    const { asked } = world()
    show(MessagesPage)
    await until(() => expect(text()).toContain('2 texts of 1 plugin'))
    expect(text()).toContain('nessa comes.')
    expect(text()).toContain('When somebody leaves')
    const field = document.querySelector<HTMLTextAreaElement>('textarea')!
    field.setSelectionRange(0, 8)
    button('[amber]').click()
    await until(() => expect(field.value).toBe('[amber]{player}[/] comes.'))
    await until(() =>
      expect(asked.find(({ key }) => key === 'PUT /draft')?.body).toMatchObject({
        text: source.replace('{player} comes', '[amber]{player}[/] comes'),
      }),
    )
  })

  it('loses nothing where another text is chosen at once, or the page is left', async () => {
    const { asked } = world()
    const page = show(MessagesPage)
    await until(() => expect(text()).toContain('2 texts'))
    const messages = useMessagesStore()
    const type = (words: string): void => {
      const field = document.querySelector<HTMLTextAreaElement>('textarea')!
      field.value = words
      field.dispatchEvent(new Event('input'))
    }
    type('One.')
    messages.move(1)
    await until(() => expect(document.querySelector<HTMLTextAreaElement>('textarea')!.value).toBe('{player} goes to the row.'))
    type('Two.')
    page.unmount()
    await until(() =>
      expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ text: 'arrive: "One."\nleave: "Two."\n' }),
    )
  })

  it('shows one surface, what is mine, and says so where nothing fits', async () => {
    world()
    show(MessagesPage)
    const messages = useMessagesStore()
    await until(() => expect(messages.rows.length).toBeGreaterThan(0))
    messages.filter = { ...messages.filter, onlyMine: true }
    await nextTick()
    expect(text()).not.toContain('When somebody joins')
    messages.filter = { ...messages.filter, words: 'nothing of it' }
    await until(() => expect(text()).toContain('Nothing fits'))
  })

  it('replaces words in all of them after a look, and takes it back', async () => {
    const { asked } = world()
    show(MessagesPage)
    await until(() => expect(text()).toContain('2 texts'))
    const messages = useMessagesStore()
    await messages.writeAll(hitsOf(messages.shown, '{player}', '{who}', { matchCase: true, wholeWords: false }))
    expect(messages.problem).toBe('')
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ text: source.replaceAll('{player}', '{who}') })
    await messages.undo()
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ text: source })
  })

  it('shows a text as another family writes it, with what is lost', async () => {
    world()
    answering({
      'GET /api/families': [{ id: 'script', title: 'Script plugins' }],
      'POST /messages/written': [{ text: '<b>x', lost: ['underline'] }],
    })
    show(WrittenFor, { message: message() })
    const details = document.querySelector('details')!
    details.open = true
    details.dispatchEvent(new Event('toggle'))
    await until(() => expect(text()).toContain('Script plugins'))
    const select = document.querySelector('select')!
    select.value = 'script'
    select.dispatchEvent(new Event('change'))
    await until(() => expect(text()).toContain('<b>x'))
    expect(text()).toContain('It has nothing for underline.')
  })

  it('plays a moment in real time, and stops', async () => {
    vi.useFakeTimers()
    try {
      world()
      const messages = useMessagesStore()
      const two = [message(), message({ pointer: '/late', delay: 2 })]
      messages.all = two
      const [head] = messages.rows
      messages.play(head!.id)
      expect([messages.focus, messages.playing]).toEqual([two[0]!.id, head!.id])
      await vi.advanceTimersByTimeAsync(1999)
      expect(messages.focus).toBe(two[0]!.id)
      await vi.advanceTimersByTimeAsync(1)
      expect(messages.focus).toBe(two[1]!.id)
      await vi.advanceTimersByTimeAsync(1500)
      expect(messages.playing).toBe('')
      messages.play(head!.id)
      messages.play(head!.id)
      expect(messages.playing).toBe('')
    } finally {
      vi.useRealTimers()
    }
  })

  it('a text is switched off: it stands in a comment, and the plugin’s own counts', async () => {
    const { asked } = world()
    const messages = useMessagesStore()
    await messages.load()
    await messages.turnOff(messages.all[0]!)
    await useDraftsStore().flushAll()
    expect(messages.problem).toBe('')
    expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ text: `# ${source}` })
  })

  it('says what failed, and keeps what is there', async () => {
    world()
    const messages = useMessagesStore()
    await messages.load()
    answering({})
    await messages.load()
    expect(messages.problem).not.toBe('')
    expect(messages.all).toHaveLength(2)
  })
})
