import type { Markup } from '@pasticcio/core'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { idOf, type ListedMessage } from '../../app/utils/message-groups'
import type { MessagesAnswer, ShownMessage } from '../../app/utils/types'
import { answering, overviewOf, viewOf } from './world'

const PURSE = 'extras/Purse/settings.yml'

/** A text as the server tells of it. */
export const message = (more: Partial<ShownMessage> = {}): ListedMessage => {
  const one: ShownMessage = {
    pointer: '/arrive',
    texts: ['{player} comes.'],
    isList: false,
    keys: null,
    turn: null,
    surface: 'chat',
    moment: 'join',
    when: '',
    delay: null,
    stays: null,
    letters: null,
    dress: { icon: '', colour: '', style: '', filled: null, comes: null, goes: null },
    opens: '',
    isShipped: true,
    shipped: ['{player} comes.'],
    says: '',
    plugin: 'Purse',
    file: PURSE,
    line: 1,
    translated: null,
    book: null,
    update: null,
    findings: [],
    ...more,
  }
  return { ...one, id: idOf(one) }
}
export const bare = ({ id: _id, ...rest }: ListedMessage): ShownMessage => rest

export const TEXTS: Markup = {
  placeholder: ['{', '}'],
  lineBreak: '[br]',
  codes: '\\[/?[a-z]*\\]',
  marks: [
    { code: '[amber]', colour: '#e8b04a' },
    { code: '[reed]', colour: '#7fae6a' },
    { code: '[water]', colour: '#6f9ec4' },
    { code: '[/]', ends: 'colour' },
    { code: '[b]', bold: true },
    { code: '[/b]', ends: 'bold' },
  ],
  surfaces: { chat: { letters: 256 }, sign: { letters: 15, rows: 4, ground: 'light' }, book: { letters: 26, rows: 3, ground: 'light' } },
}

/** A server whose texts are these, and that answers all that the page of messages asks. */
export function answeringMessages(
  source: string,
  answer: Partial<MessagesAnswer>,
  more: Parameters<typeof answering>[0] = {},
): ReturnType<typeof answering> {
  localStorage.clear()
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'maren', role: 'editor' } as never
  return answering({
    'GET /messages': { messages: [], languages: [], spoken: null, pictures: [], ...answer } satisfies MessagesAnswer,
    'GET /known': {
      registries: {},
      nodes: [],
      ports: [],
      placeholders: [{ text: '{player}', says: 'Who', plugin: 'Purse' }],
      texts: TEXTS,
    },
    'GET /file': (_body: unknown, url: string) => viewOf(source, { path: new URL(url, 'http://x').searchParams.get('path')! }),
    'GET /tray': [],
    'GET /overview': overviewOf(),
    'PUT /draft': { baseSha: 'base', draftSha: 'sha 1' },
    ...more,
  })
}
