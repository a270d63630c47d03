import type { Moment, SurfaceId } from '@pasticcio/core'

/** Where a text is seen: in few words for the strip, and in whole ones. */
export const SURFACE_WORDS: Readonly<Record<SurfaceId, readonly [short: string, whole: string]>> = {
  chat: ['chat', 'Chat line'],
  banner: ['banner', 'Server-list banner'],
  board: ['board', 'Side board'],
  list: ['list', 'Player list'],
  bar: ['bar', 'Bar on screen'],
  title: ['title', 'Large title'],
  prompt: ['prompt', 'Small prompt'],
  item: ['item', 'Item'],
  sign: ['sign', 'Sign'],
  book: ['book', 'Book'],
  panel: ['panel', 'Info panel'],
  menu: ['menu', 'Slot menu'],
}

/** Moments of a visit as headings, with what is said of them. */
export const MOMENT_WORDS: Readonly<Record<Moment, readonly [title: string, about: string]>> = {
  list: ['In the server list', 'before anybody joins'],
  refused: ['When somebody is refused', ''],
  join: ['When somebody joins', ''],
  first: ['When somebody comes for the first time', ''],
  timed: ['Meanwhile', 'at times, and before something happens'],
  death: ['When somebody dies', ''],
  trade: ['When somebody buys or sells', ''],
  any: ['When players do something', 'answers, names, lists and menus'],
  leave: ['When somebody leaves', ''],
}
