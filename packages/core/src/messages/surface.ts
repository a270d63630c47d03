import type { Moment, SurfaceId, Turn } from './message'

/** What tells where and when a text is seen: names, and what the author says of it and of what it is in. */
export interface SurfaceLook {
  readonly words: readonly string[]
  readonly wordsAbove: readonly string[]
  /** The names beside it, as words in the singular. */
  readonly beside: ReadonlySet<string>
  readonly comment: string
  /** What is said of the section it is in. */
  readonly commentAbove: string
}

type Tells = (look: SurfaceLook) => boolean

const named =
  (...names: readonly string[]): Tells =>
  ({ words, wordsAbove }) =>
    names.some((name) => words.includes(name) || wordsAbove.includes(name))
const below =
  (...names: readonly string[]): Tells =>
  ({ wordsAbove }) =>
    names.some((name) => wordsAbove.includes(name))
const calledLast =
  (...names: readonly string[]): Tells =>
  ({ words }) =>
    names.includes(words.at(-1) ?? '')
const says =
  (pattern: RegExp): Tells =>
  ({ comment, commentAbove }) =>
    pattern.test(comment || commentAbove)
const with_ =
  (...names: readonly string[]): Tells =>
  ({ beside }) =>
    names.some((name) => beside.has(name))
const all =
  (...tells: readonly Tells[]): Tells =>
  (look) =>
    tells.every((tell) => tell(look))
const not =
  (tell: Tells): Tells =>
  (look) =>
    !tell(look)

/** What tells a surface, the most telling first; what nothing tells of is said in chat. */
const SURFACE_TELLS: readonly (readonly [SurfaceId, Tells])[] = [
  ['banner', all(named('banner'), not(calledLast('full', 'refused')))],
  ['banner', says(/\bserver list\b/i)],
  ['sign', says(/\bletters a line\b|\bover the (?:gate|door)\b|\bon the sign\b/i)],
  ['sign', named('sign')],
  ['title', below('title')],
  ['title', all(calledLast('big', 'small', 'title', 'subtitle'), with_('stay', 'fade in', 'subtitle', 'big'))],
  ['title', says(/\bmiddle of the screen\b/i)],
  ['bar', below('bar')],
  ['bar', says(/\bbar at the top\b/i)],
  ['list', all(calledLast('head', 'foot', 'header', 'footer'), named('player', 'tab', 'playerlist'))],
  ['list', says(/\blist of players\b/i)],
  ['board', named('board', 'scoreboard', 'sidebar')],
  ['board', says(/\bside board\b|\bedge of the screen\b/i)],
  ['panel', all(with_('link', 'tab', 'button', 'page'), calledLast('heading', 'page', 'closing', 'tab', 'button'))],
  ['panel', named('panel')],
  ['prompt', named('prompt', 'hotbar')],
  ['item', named('lore')],
  ['menu', all(calledLast('title'), says(/\bover (?:the|a) (?:list|menu)\b/i))],
  ['menu', all(named('menu'), calledLast('title'))],
  ['menu', all(calledLast('name', 'title'), with_('row'), with_('good', 'slot', 'item'))],
  ['item', all(calledLast('name', 'label', 'title', 'display'), with_('icon', 'item', 'material', 'stack'))],
]

/** Where a text is seen, as far as names and words tell. */
export const surfaceOf = (look: SurfaceLook): SurfaceId => SURFACE_TELLS.find(([, tells]) => tells(look))?.[0] ?? 'chat'

const MOMENT_TELLS: readonly (readonly [Moment, Tells])[] = [
  [
    'refused',
    all(calledLast('full', 'refused', 'refuse', 'kick', 'ban', 'denied', 'whitelist'), named('banner', 'join', 'kick', 'ban', 'refused')),
  ],
  ['refused', says(/\bthose who are refused\b|\bnot let in\b/i)],
  ['first', says(/\bnewcomers?\b|\bfirst time\b/i)],
  ['first', named('newcomer', 'first')],
  ['leave', calledLast('leave', 'quit', 'logout', 'farewell', 'bye', 'left', 'goodbye')],
  ['join', named('arrive', 'join', 'welcome', 'login', 'greet', 'arrival', 'motd', 'joined')],
  ['join', says(/\bwho arrives?\b|\bwhen (?:somebody|a player|players?) (?:joins?|arrives?|comes?)\b|\bstep off\b/i)],
  ['join', all(named('crowd'), calledLast('line', 'message', 'text'))],
  ['death', named('death', 'died', 'die', 'killed', 'drown', 'slain')],
  ['timed', all(named('warning', 'announcement', 'broadcast', 'tip', 'reminder'), not(named('error')))],
  ['timed', says(/\bseconds? before\b|\bminutes? before\b|\bsaid afterwards\b|\bevery \d+\b/i)],
  ['trade', named('sale', 'sold', 'bought', 'purchase', 'buy', 'sell', 'trade')],
]

const ON_THINGS: ReadonlySet<SurfaceId> = new Set<SurfaceId>(['item', 'menu', 'sign', 'panel', 'book'])

/** When a text is seen. */
export function momentOf(look: SurfaceLook, surface: SurfaceId): Moment {
  const told = MOMENT_TELLS.find(([, tells]) => tells(look))?.[0]
  if (surface === 'banner') return told === 'refused' ? told : 'list'
  // what hangs on a thing is seen with it, whatever the thing is called
  if (ON_THINGS.has(surface)) return 'any'
  return told ?? (surface === 'board' || surface === 'list' ? 'join' : 'any')
}

/** How the texts of a list are told. */
export function turnOf({ comment, commentAbove, words, beside }: SurfaceLook): Turn {
  const said = `${comment} ${commentAbove}`
  if (/\bat random\b|\bone of these\b|\brandomly\b/i.test(said) || words.includes('random')) return 'at-random'
  if (/\bone after the other\b|\brotat|\bin turn\b/i.test(comment) || (beside.has('every') && !/\bbelow the other\b/i.test(comment)))
    return 'in-turn'
  return 'together'
}
