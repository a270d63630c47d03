import { MOMENTS, type SurfaceId } from '@pasticcio/core'
import { MOMENT_WORDS } from './message-words'
import { shortPath } from './pointer-words'
import type { ShownMessage } from './types'

/** A text in the book, with what tells it from others. */
export interface ListedMessage extends ShownMessage {
  readonly id: string
}

export interface MessageFilter {
  readonly surface: SurfaceId | ''
  readonly plugin: string
  readonly language: string
  readonly onlyMine: boolean
  readonly withFindings: boolean
  /** Only texts that hold these words, in any spelling. */
  readonly words: string
}

export const NO_FILTER: MessageFilter = { surface: '', plugin: '', language: '', onlyMine: false, withFindings: false, words: '' }

/** How texts are put together: by the moments of a visit, or by their files. */
export type MessageView = 'events' | 'files'

export interface BookHead {
  readonly kind: 'head'
  readonly id: string
  readonly title: string
  readonly about: string
  readonly count: number
  /** Whether its texts come one after the other, rather than as answers. */
  readonly canPlay: boolean
  readonly height: number
}
export interface BookLine {
  readonly kind: 'message'
  readonly id: string
  readonly message: ListedMessage
  readonly height: number
}
export type BookRow = BookHead | BookLine

const HEAD = 28
const LINE = 36
const MORE = 16
const MOST_LINES = 3

export const idOf = ({ file, pointer }: Pick<ShownMessage, 'file' | 'pointer'>): string => `${file}#${pointer}`

export function filterMessages(all: readonly ListedMessage[], filter: MessageFilter): readonly ListedMessage[] {
  const words = filter.words.trim().toLowerCase()
  return all.filter(
    (one) =>
      (filter.surface === '' || one.surface === filter.surface) &&
      (filter.plugin === '' || one.plugin === filter.plugin) &&
      (filter.language === '' || one.translated === null || one.translated.language === filter.language) &&
      (!filter.onlyMine || !one.isShipped) &&
      (!filter.withFindings || one.findings.length > 0) &&
      (words === '' || one.texts.some((text) => text.toLowerCase().includes(words)) || one.pointer.toLowerCase().includes(words)),
  )
}

/** How many rows of a text are shown in the book. */
const linesOf = ({ texts }: ListedMessage): number => Math.max(1, Math.min(MOST_LINES, texts.length))

const lineOf = (message: ListedMessage): BookLine => ({
  kind: 'message',
  id: message.id,
  message,
  height: LINE + MORE * (linesOf(message) - 1),
})

/** Texts under their headings, in the order a visit has them or their files do. */
export function bookRows(list: readonly ListedMessage[], view: MessageView): readonly BookRow[] {
  const groups = new Map<string, ListedMessage[]>()
  for (const message of list) {
    const key = view === 'files' ? message.file : `${message.moment} ${message.when}`
    const group = groups.get(key)
    if (group) group.push(message)
    else groups.set(key, [message])
  }
  const order = view === 'files' ? [...groups] : [...groups].sort(([, a], [, b]) => rank(a[0]!) - rank(b[0]!))
  return order.flatMap(([key, messages]): BookRow[] => {
    const inOrder = view === 'files' ? messages : [...messages].sort((a, b) => (a.delay ?? 0) - (b.delay ?? 0))
    return [
      {
        kind: 'head',
        id: `head ${key}`,
        ...headOf(messages[0]!, view),
        count: messages.length,
        canPlay: canPlay(messages, view),
        height: HEAD,
      },
      ...inOrder.map(lineOf),
    ]
  })
}

const canPlay = (messages: readonly ListedMessage[], view: MessageView): boolean =>
  view === 'events' && messages.length > 1 && (messages[0]!.moment !== 'any' || messages[0]!.when !== '')

// what waits for something of its own stands among what is told meanwhile
const rank = ({ moment, when }: ListedMessage): number =>
  when === '' || moment !== 'any' ? MOMENTS.indexOf(moment) : MOMENTS.indexOf('timed') + 0.5

function headOf({ file, plugin, moment, when }: ListedMessage, view: MessageView): Pick<BookHead, 'title' | 'about'> {
  if (view === 'files') return { title: plugin || shortPath(file), about: shortPath(file) }
  const [title, about] = MOMENT_WORDS[moment]
  return when === '' ? { title, about } : { title: moment === 'any' ? `With ${when}` : `${title}, with ${when}`, about: '' }
}

/** The heading a text stands under; empty for none. */
export const groupOf = (rows: readonly BookRow[], id: string): string =>
  rows
    .slice(
      0,
      Math.max(
        0,
        rows.findIndex((row) => row.id === id),
      ),
    )
    .findLast(({ kind }) => kind === 'head')?.id ?? ''

/** So long stands between texts that come at once, so that each can be read. */
const BETWEEN_MS = 700

/** The texts of a group in the order they are seen, with how long each comes after the one before, in milliseconds. */
export function stepsOf(rows: readonly BookRow[], group: string): readonly { readonly id: string; readonly waits: number }[] {
  const from = rows.findIndex(({ id }) => id === group)
  const end = rows.findIndex(({ kind }, i) => i > from && kind === 'head')
  const lines = from < 0 ? [] : rows.slice(from + 1, end < 0 ? undefined : end)
  let at = 0
  return lines.flatMap((row) => {
    if (row.kind === 'head') return []
    const delay = row.message.delay ?? 0
    const waits = Math.max(BETWEEN_MS, (delay - at) * 1000)
    at = Math.max(at, delay)
    return [{ id: row.id, waits }]
  })
}

/** Where rows begin, from the top, in pixels; one more than there are rows. */
export function topsOf(rows: readonly BookRow[]): readonly number[] {
  const tops = [0]
  for (const { height } of rows) tops.push(tops.at(-1)! + height)
  return tops
}

/** The row at a height. */
export function rowAt(tops: readonly number[], top: number): number {
  let [from, to] = [0, tops.length - 1]
  while (from + 1 < to) {
    const middle = (from + to) >> 1
    if (tops[middle]! <= top) from = middle
    else to = middle
  }
  return from
}
