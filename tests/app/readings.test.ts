import { afterEach, describe, expect, it } from 'vitest'
import { MarkupReader, type TextRun } from '@pasticcio/core'
import { nextTick } from 'vue'
import BookPages from '../../app/components/messages/BookPages.vue'
import MessageMargin from '../../app/components/messages/MessageMargin.vue'
import ReadingView from '../../app/components/messages/ReadingView.vue'
import WhoSpeaks from '../../app/components/messages/WhoSpeaks.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { useKnownStore } from '../../app/stores/known'
import { useMessagesStore } from '../../app/stores/messages'
import { useSamplesStore } from '../../app/stores/samples'
import { useServerStore } from '../../app/stores/server'
import { barStyle, colourNamed, cutAt, initialsOf } from '../../app/utils/surface-look'
import type { ShownMessage, ShownPicture } from '../../app/utils/types'
import { TEXTS, answeringMessages, bare, message } from './message-world'
import { button, choose, show, text } from './pages'
import { until } from './world'

const picture = (more: Partial<ShownPicture> = {}): ShownPicture => ({
  plugin: 'Purse',
  file: 'extras/Purse/settings.yml',
  pointer: '/banner/picture',
  line: 4,
  name: 'dusk.png',
  path: 'extras/Purse/dusk.png',
  staged: false,
  kind: 'png',
  size: { width: 64, height: 48 },
  width: 64,
  height: 64,
  turn: null,
  ...more,
})
const BOOK = message({
  surface: 'book',
  pointer: '',
  file: 'extras/Purse/book.txt',
  texts: ['Welcome to the delta.'],
  shipped: ['Welcome.'],
  isShipped: false,
  book: { file: 'extras/Purse/settings.yml', pointer: '/book', line: 9, name: 'book.txt', staged: false },
})

/** Shows what the page of messages shows of these. */
async function load(
  more: Partial<ShownMessage>[],
  pictures: readonly ShownPicture[] = [],
  answers: Parameters<typeof answeringMessages>[2] = {},
) {
  const asked = answeringMessages('a: b\n', { messages: more.map((one) => bare(message(one))), pictures }, answers)
  await useKnownStore().ready()
  await useMessagesStore().load()
  return asked
}
afterEach(async () => {
  await useDraftsStore().flushAll()
  await useDraftsStore().leaveBeside()
})

describe('how something looks where it is shown', () => {
  it.each([
    ['water', '#6f9ec4'],
    ['Amber', '#e8b04a'],
    ['#123456', '#123456'],
    ['teal', null],
  ])('the colour %s is %s', (name, colour) => expect(colourNamed(TEXTS, name)).toBe(colour))
  it.each([
    ['plain', 'plain'],
    ['notched', 'notched'],
    ['SEGMENTED_10', 'notched'],
    ['striped', 'striped'],
    ['', 'plain'],
  ])('a bar that is %s is drawn %s', (style, drawn) => expect(barStyle(style)).toBe(drawn))
  it.each([
    ['fired_brick', 'fb'],
    ['reed', 're'],
    ['delta:oak_plank', 'do'],
    ['', ''],
  ])('%s stands as %s', (id, initials) => expect(initialsOf(id)).toBe(initials))

  it('letters nobody sees are parted from those that are seen, wherever the codes stand', () => {
    const [line] = new MarkupReader(TEXTS).read('[amber]abc[/]defg')
    const cut = (most: number | null): [string, boolean][] => cutAt(line as TextRun[], most).map((run) => [run.text, run.isOver])
    expect(cut(5)).toEqual([
      ['abc', false],
      ['de', false],
      ['fg', true],
    ])
    expect(cut(2)).toEqual([
      ['ab', false],
      ['c', true],
      ['defg', true],
    ])
    expect(cut(null).every(([, isOver]) => !isOver)).toBe(true)
  })
})

describe('what stands for a placeholder', () => {
  it('is what somebody gave, the reader, what the server tells now, what the plugin calls it, or a sample', async () => {
    await load([{ pointer: '/pits/low/name', texts: ['The low bank'], shipped: null }])
    const samples = useSamplesStore()
    const told = (placeholder: string): string[] => Object.values(samples.told(placeholder, 'Purse'))
    expect(told('{player}')).toEqual(['nessa', 'reader'])
    samples.reader = 'wenna'
    expect(told('{player}')).toEqual(['wenna', 'reader'])
    expect(told('{online}')).toEqual(['18', 'sample'])
    useServerStore().state = { status: 'running', players: 7, ticks: 20, memory: null, since: null }
    expect(told('{online}')).toEqual(['7', 'now'])
    samples.give('{online}', '99')
    expect(told('{online}')).toEqual(['99', 'given'])
    samples.give('{online}', '')
    expect(told('{online}')).toEqual(['7', 'now'])
    expect(told('{name}')).toEqual(['wenna', 'reader'])
    expect(told('{seconds}')).toEqual(['10', 'sample'])
  })
})

describe('readings', () => {
  const reading = (more: Partial<ShownMessage>, props: Record<string, unknown> = {}): HTMLElement => {
    show(ReadingView, { message: message(more), ground: 'dark', ...props })
    return document.querySelector<HTMLElement>('.reading')!
  }
  it('a bar has the colour, style and fill that its settings say', async () => {
    await load([])
    const fill = reading({
      surface: 'bar',
      dress: { icon: '', colour: 'water', style: 'notched', filled: 0.25, comes: null, goes: null },
    }).querySelector<HTMLElement>('.fill')!
    expect(fill.className).toContain('notched')
    expect([fill.style.getPropertyValue('--fill'), fill.style.getPropertyValue('--share')]).toEqual(['#6f9ec4', '25%'])
  })
  it('a sign strikes letters beyond its limit, and shows no more rows than it has', async () => {
    await load([])
    const sign = reading({ surface: 'sign', texts: ['one[br]two[br]three[br]four, which is too long[br]five'] })
    expect(sign.querySelector('.over')!.textContent).toBe('is too long'.slice(-8))
    expect(sign.querySelector('.words')!.textContent).not.toContain('five')
  })
  it('a button of a panel is one where it opens something', async () => {
    await load([])
    expect(reading({ surface: 'panel', opens: 'https://lantern-row.example' }).querySelector('.button')).not.toBeNull()
    document.body.innerHTML = ''
    expect(reading({ surface: 'panel' }).querySelector('.button')).toBeNull()
  })
  it('a banner has the picture that is named beside it, that of each line where several take turns', async () => {
    const both = [
      picture({ pointer: '/banner/pictures/0', turn: 'in-turn' }),
      picture({ pointer: '/banner/pictures/1', path: 'b.png', turn: 'in-turn' }),
    ]
    await load([], both)
    const image = (at: number): string | null =>
      reading({ surface: 'banner', pointer: '/banner/lines', texts: ['a', 'b'], isList: true, turn: 'in-turn' }, { at })
        .querySelector('img')!
        .getAttribute('src')
    expect(image(0)).toContain('dusk.png')
    document.body.innerHTML = ''
    expect(image(1)).toContain('b.png')
  })
  it('a book is turned page by page', async () => {
    await load([])
    show(BookPages, { text: 'one\ntwo\nthree\nfour', plugin: 'Purse' })
    expect(text()).toContain('page 1 of 2')
    expect(text()).not.toContain('four')
    button('on').click()
    await nextTick()
    expect(text()).toContain('four')
  })
})

describe('the margin', () => {
  it('goes through texts that take turns, and lists how one is chosen of those that come at random', async () => {
    await load([{ texts: ['One.', 'Two.'], isList: true, turn: 'at-random' }])
    show(MessageMargin)
    await nextTick()
    expect(text()).toContain('one of these, at random')
    expect(document.querySelector('.reading')!.getAttribute('aria-label')).toBe('One.')
    button('text 2 of 2').click()
    await nextTick()
    expect(document.querySelector('.reading')!.getAttribute('aria-label')).toBe('Two.')
  })

  it('copies and switches off single lines of a list', async () => {
    const list = 'aside:\n  - One.\n  - Two.\n'
    const { asked } = answeringMessages(list, {
      messages: [bare(message({ pointer: '/aside', texts: ['One.', 'Two.'], isList: true, turn: 'together' }))],
    })
    await useKnownStore().ready()
    await useMessagesStore().load()
    show(MessageMargin)
    await nextTick()
    const field = document.querySelector('textarea')!
    field.setSelectionRange(0, 0)
    button('once more').click()
    await until(() => expect(field.value).toBe('One.\nOne.\nTwo.'))
    await until(() =>
      expect(asked.findLast(({ key }) => key === 'PUT /draft')?.body).toMatchObject({ text: 'aside:\n  - One.\n  - One.\n  - Two.\n' }),
    )
    button('off').click()
    await until(() =>
      expect((asked.findLast(({ key }) => key === 'PUT /draft')?.body as { text: string }).text.match(/# - One\./g)).toHaveLength(1),
    )
  })

  it('writes a book into the tray whole, and takes it back', async () => {
    const { asked } = await load([BOOK], [], { 'PUT /named': { path: BOOK.file, name: 'book.txt', staged: true } })
    const messages = useMessagesStore()
    const put = (): unknown[] => asked.filter(({ key }) => key === 'PUT /named').map(({ body }) => body)
    await messages.write(messages.all[0]!, ['Mind the tide.'])
    expect(await (put()[0] as Blob).text()).toBe('Mind the tide.')
    expect(messages.all[0]!.texts).toEqual(['Mind the tide.'])
    await messages.undo()
    expect(await (put()[1] as Blob).text()).toBe('Welcome to the delta.')
  })

  it('shows a picture with what its setting takes, and puts another in its place, also one of another size', async () => {
    let tries = 0
    const { asked } = await load([BOOK], [picture()], {
      'PUT /named': () => {
        if (tries++ === 0)
          throw { status: 422, code: 'picture-differs', title: 'is 9×9', picture: { kind: 'png', width: 9, height: 9 } } as never
        return { path: 'a', name: 'dusk.png', staged: true }
      },
    })
    show(WhoSpeaks)
    show(MessageMargin)
    await nextTick()
    expect(text()).toContain('Pictures and books')
    ;[...document.querySelectorAll('button')].find((one) => one.textContent!.includes('dusk.png'))!.click()
    await nextTick()
    expect(text()).toContain('64 × 48, the setting takes 64 × 64')
    choose(new File(['x'], 'other.png'))
    await until(() => expect(text()).toContain('it is right as it is'))
    button('it is right as it is').click()
    await until(() => expect(asked.filter(({ key }) => key === 'PUT /named')).toHaveLength(2))
  })
})
