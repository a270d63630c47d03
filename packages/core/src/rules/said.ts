import { timeUnit } from './units'
import type { Applies, Rule, SaidValue } from './rule'

/*
 * What an author's words say of a setting. Nothing is read from what merely looks like it: every number is held against the
 * value the plugin ships by whoever asks.
 */

const NUMBER = String.raw`(-?\d+(?:[.,]\d+)?)`
const COUNT = 'one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|sixteen|twenty'.split('|')
const AMOUNTS = new Map([...COUNT.slice(0, 12).map((word, i) => [word, i + 1] as const), ['sixteen', 16], ['twenty', 20]])
const FEW = `(\\d+|${COUNT.join('|')})`
const amount = (text: string): number => AMOUNTS.get(text.toLowerCase()) ?? Number(text.replace(',', '.'))

/** Without what stands for other things: placeholders, times of day, versions. */
const withoutOthers = (comment: string): string =>
  comment
    .replace(/[{%<][\w.-]+[}%>]/g, ' ')
    .replace(/\b\d{1,2}:\d\d(:\d\d)?\b/g, ' ')
    .replace(/\b\d+\.\d+\.\d+\b/g, ' ')

type Bounds = Pick<Rule, 'min' | 'max'>

const BETWEEN = [
  new RegExp(String.raw`(?:^|[\s(])${NUMBER}\s*%?\s*[-–]\s*${NUMBER}\s*%`, 'i'),
  new RegExp(String.raw`(?:between|from)\s+${NUMBER}\s*%?\s*(?:\w+\s+)?(?:and|to|up to|-|–)\s*${NUMBER}`, 'i'),
  new RegExp(String.raw`(?:^|[\s(\[,:;.])${NUMBER}\s*%?\s*(?:to|up to|–|\.\.\.?|through|…)\s*${NUMBER}(?![\d:]|\s*(?:x|by)\b)`, 'i'),
  new RegExp(
    String.raw`(?:^|[(\[]|range:?|values?:?|\brange\s+is)\s*${NUMBER}\s*%?\s*[-~,]\s*${NUMBER}\s*%?\s*(?:[)\].,;]|$|\b(?:inclusive|seconds|ticks)\b)`,
    'im',
  ),
]
const LEAST = [
  new RegExp(
    String.raw`(?:at least|no less than|not less than|not below|>=|≥|minimum(?: is| of| value)?:?|\bmin(?:imum)?\b\.?\s*[:=]?)\s*${NUMBER}`,
    'i',
  ),
  new RegExp(
    String.raw`${NUMBER}\s+(?:\w+\s+)?(?:or (?:more|higher|greater|above|longer)|at the least|(?:is the )?minimum|at least)\b`,
    'i',
  ),
]
const MOST = [
  new RegExp(
    String.raw`(?:at most|no more than|not more than|not over|not above|up to|<=|≤|maximum(?: is| of| value)?:?|\bmax(?:imum)?\b\.?\s*[:=]?)\s*${NUMBER}`,
    'i',
  ),
  new RegExp(String.raw`${NUMBER}\s+(?:\w+\s+)?(?:or (?:less|fewer|lower|below|shorter)|at (?:the )?most|(?:is the )?maximum)\b`, 'i'),
]

/** Bounds a comment names: “0 to 1”, “between 1 and 60”, “at least 5”. */
export function boundsIn(comment: string): Bounds {
  if (!/\d/.test(comment)) return {}
  const text = withoutOthers(comment)
  for (const pattern of BETWEEN) {
    const found = pattern.exec(text)
    const [min, max] = [found?.[1], found?.[2]].map((one) => (one === undefined ? NaN : amount(one)))
    if (min! < max!) return { min: min!, max: max! }
  }
  // how long a text may be is no bound of a number
  const first = (patterns: readonly RegExp[]): number | undefined => {
    for (const pattern of patterns) {
      const found = pattern.exec(text)
      if (found && !LETTERS.test(text.slice(found.index, found.index + found[0].length + 14))) return amount(found[1]!)
    }
    return undefined
  }
  const min = first(LEAST)
  const max = first(MOST)
  return { ...(min === undefined ? {} : { min }), ...(max === undefined || (min !== undefined && max < min) ? {} : { max }) }
}

const LETTERS = /\b(?:letters?|characters?|chars?|signs)\b/i
const LENGTH = [
  new RegExp(
    String.raw`(?:at most|up to|no more than|not more than|max(?:imum)?\.?(?: of)?:?|limited to|longer than|limit(?: of)?:?)\s+${FEW}\s+(?:letters|characters|chars)`,
    'i',
  ),
  new RegExp(
    String.raw`${FEW}\s+(?:letters|characters|chars)\s+(?:(?:a|per|each) line\s+)?(?:at (?:the )?most|max(?:imum)?|or (?:less|fewer))`,
    'i',
  ),
  new RegExp(String.raw`(?:max(?:imum)?\.? )?length:?\s+(?:is\s+|of\s+)?(\d+)`, 'i'),
]
const ITEMS = [
  new RegExp(String.raw`(?:^|[.;\n]\s*)${FEW}(?:\s+(?:lines|items|entries|of them|pages|rows))?\s+at (?:the )?most`, 'im'),
  new RegExp(String.raw`(?:at most|up to|no more than|max(?:imum)?\.?(?: of)?)\s+${FEW}\s+(?:lines|items|entries|pages|rows)\b`, 'i'),
]
const firstOf = (patterns: readonly RegExp[], comment: string): number | undefined => {
  const found = patterns.map((pattern) => pattern.exec(comment)).find((match) => match !== null)
  return found ? amount(found[1]!) : undefined
}

/** How long a text may be, in characters. */
export const lengthIn = (comment: string): number | undefined =>
  LETTERS.test(comment) || /length/i.test(comment) ? firstOf(LENGTH, comment) : undefined
/** How many items a list may have. */
export const itemsIn = (comment: string): number | undefined => firstOf(ITEMS, comment)

/** What follows a word that is no unit: an amount, or what makes it a rate. */
const NO_UNIT = /^(?:\.?\s*[:=]?\s*-?\d|\s+(?:a|per|each|every)\s+(?:tick|second|minute|hour|day)\b)/i

/** Without a word that begins so there is no unit: most comments need not be looked at more closely. */
const MAY_NAME_TIME = /\b(?:ms|min|milli|msec|tick|sec|hr|hour|day|wk|week)/i
const UNIT = String.raw`([a-z]+)`
const COUNTED = 'how many|so many|this many|number of|amount of|these|(?:every|each|after) [xn]'
const TIME_UNITS = [
  String.raw`\b(?:in|as)\s+(?:whole |full |real |game |server |a number of )?${UNIT}\b`,
  String.raw`(?:^|[.;:\n]\s*|, )(?:the )?(?:(?:number|amount) of |how many |so many )?${UNIT}\b(?! (?:are|is)\b)`,
  String.raw`\b(?:${COUNTED})\s+(?:whole |full |game )?${UNIT}\b`,
  String.raw`[(\[]\s*(?:in |unit: ?)?${UNIT}\s*[)\],;]`,
  String.raw`\b(?:unit|measured|counted|given|written)(?: is| in|:)+\s*${UNIT}\b`,
].map((pattern) => new RegExp(pattern, 'gi'))

/** The unit of time an amount is in, as its comment says; words as “in ten seconds” or “per tick” are not about it. */
export function timeUnitIn(comment: string): string | null {
  if (!MAY_NAME_TIME.test(comment)) return null
  const text = withoutOthers(comment)
  let best: { readonly at: number; readonly unit: string } | null = null
  for (const pattern of TIME_UNITS)
    for (const found of text.matchAll(pattern)) {
      const known = found[1] === undefined ? null : timeUnit(found[1])
      // “in second place” is no second, “min: 5” no minute, and “ticks a second” is no time
      const rest = text.slice(found.index + found[0].length)
      if (!known || /^(?:second|minute|hour|day|week|tick)$/i.test(found[1]!) || NO_UNIT.test(rest)) continue
      if (!best || found.index < best.at) best = { at: found.index, unit: known }
    }
  return best?.unit ?? null
}

/** Whether amounts of the whole file are in one unit of time, as its head says: “Durations are seconds.” */
export function timeUnitOfFile(head: string): string | null {
  const found =
    /\b(?:durations?|times|intervals?|delays?|cooldowns?|periods?)\b[^.\n]{0,30}?\b(?:are|in|is)\s+(?:all\s+)?(?:given\s+|measured\s+|written\s+|counted\s+)?(?:in\s+)?([a-z]+)/i.exec(
      head,
    )
  return found ? timeUnit(found[1]!) : null
}

/** Values with words of their own: “0 is no limit”, “-1 for none”, “0 disables it”. */
export function saidIn(comment: string): SaidValue[] {
  if (!/\d/.test(comment)) return []
  const said: SaidValue[] = []
  const pattern =
    /(?:^|[\s(,;.])(?:set (?:it |this )?to |use |with )?(-?\d+(?:\.\d+)?)\s*(?:=|:|means?|is|to|for|-|stands for|gives|leaves|turns|switches|disables|keeps|spares|never|always)\s*((?:[a-z’'-]+ ?){1,6})/gi
  for (const [whole, value, words] of comment.matchAll(pattern)) {
    const verb = /\b(gives|leaves|turns|switches|disables|keeps|spares|never|always)\b/i.exec(whole)?.[1]
    const says = (verb ? `${verb} ` : '') + words!.trim()
    if (/^(?:ticks|seconds|minutes|to|a second|letters|one|an? )\b/i.test(says) || !/[a-z]{2}/i.test(says)) continue
    // “0 to 1” has no words behind it; “0 to disable” has
    said.push({ value: value!, says: says.replace(/\s+(?:and|or|but|at|of|in|is)$/i, '') })
  }
  return said
}

/** What an empty text does: “Empty says nothing”, “empty for everybody”. */
export function emptyMeansIn(comment: string): string | undefined {
  const found =
    /\bempty\s+(?!lines?\b|string\b|text\b|one\b|heading\b)((?:for|to|means?|is|=)?\s*[a-z][^.,;()\n]*)/i.exec(comment) ??
    /\b(?:an? |if )?empty (?:string|text|one|heading|line)\s+([a-z][^.,;()\n]*)/i.exec(comment) ??
    /\bleave (?:it |this )?(?:empty|blank)\s+((?:for|to|if)\s[^.,;()\n]*)/i.exec(comment)
  return found?.[1]!.replace(/^(?:means?|is|=|to)\s+/i, '').trim()
}

const NO_NEEDS = { plugins: [], settings: [] }

/** What must be so for a setting to count, as its comment says. Settings are named as they are in the file. */
export function needsIn(comment: string): {
  readonly plugins: { readonly plugin: string; readonly before: string }[]
  readonly settings: { name: string; is: boolean }[]
} {
  if (!/needs|requires|only|counts|used|applies|matters|needed/i.test(comment)) return NO_NEEDS
  const plugins = [
    ...comment.matchAll(
      /(?:([\p{L}\p{N}_.-]+)\s+)?\b(?:needs|requires)\s+(?:the plugin\s+)?([\p{Lu}][\p{L}\p{N}]+(?: [\p{Lu}][\p{L}\p{N}]+)*)/gu,
    ),
  ].map(([, before, plugin]) => ({ plugin: plugin!, before: before ?? '' }))
  const settings = [
    ...comment.matchAll(
      /\b(?:only|counts|used|applies|matters|needed)\b[^.\n]{0,24}?\b(?:when|if|where|with|while)\s+[“"'`]?([\w.-]+)[”"'`]?\s+(?:is\s+|are\s+|=\s*|:\s*)?(on|true|enabled|yes|set to true|off|false|disabled|no)\b/gi,
    ),
  ].map(([, name, is]) => ({ name: name!, is: /on|true|enabled|yes/i.test(is!) }))
  return { plugins, settings }
}

export const asksToLeave = (comment: string): boolean =>
  /\b(?:leave (?:this|it)(?: \w+)? as (?:it|they) (?:is|are)|do not (?:change|edit|touch)|don't (?:change|edit|touch))\b/i.test(comment)

const BOOT = String.raw`(?:a |an |the )?(?:(?:next|full|whole|game|server) )*(?:restart|reboot)\b`
const EFFECT = String.raw`(?:takes? effect|take effect|counts?|appl(?:y|ies|ied)|is (?:read|taken)|are (?:read|taken)|works?|changes?)\b[^.;]{0,30}?`
const WHEN = '(?:at|on|by|with|after|upon|until) '
/** Words for what makes a change count; not those that speak of what happens at a restart, or while the server is off. */
const BY: readonly (readonly [Applies, readonly RegExp[]])[] = [
  [
    'stopped',
    [
      /\bstop (?:the )?(?:game )?server (?:first|before)\b/i,
      /\b(?:change|edit|set|touch)\w*\b[^.;]{0,40}\b(?:while|when|with) (?:the )?(?:game )?server (?:is )?(?:stopped|off|down)\b/i,
    ],
  ],
  [
    'restart',
    [
      new RegExp(String.raw`\b(?:needs?|requires?) ${BOOT}`, 'i'),
      new RegExp(String.raw`\b${EFFECT} ?${WHEN}${BOOT}`, 'i'),
      new RegExp(String.raw`\b${EFFECT} ?${WHEN}(?:the )?(?:next|server) start\b`, 'i'),
      /\brestart (?:the (?:game )?server |it )?(?:to apply|for (?:this|it|changes)|after (?:a |any )?chang\w+|so that (?:it|this|changes))/i,
      /\bafter (?:a |any )?change\w*:? (?:please )?restart\b/i,
      /\b(?:is|are) read (?:only )?(?:once,? )?(?:at|when) (?:the )?(?:start|server starts)\b/i,
      /\brestart (?:is )?(?:needed|required)\b/i,
    ],
  ],
  [
    'reload',
    [
      new RegExp(String.raw`\b${EFFECT} ?${WHEN}(?:a |the |each |every |next )*reload\b`, 'i'),
      /\breload is enough\b/i,
      /\bafter (?:a |any )?change\w*:? reload\b/i,
    ],
  ],
]
/** What is said not to be needed. */
const NOT_SO = /\b(?:no|not|without|never|isn['’]t|doesn['’]t) (?:\w+ ){0,3}(?:restart|reboot)\w*\b(?: (?:is )?(?:needed|required))?/gi

/** What makes a change count, as a comment says: “needs a restart”, “stop the server first”. */
export function appliesIn(comment: string): Applies | undefined {
  if (!/restart|reboot|reload|stop|start|server/i.test(comment)) return undefined
  const text = comment.replace(NOT_SO, ' ').replace(/[\s#]+/g, ' ')
  return BY.find(([, patterns]) => patterns.some((pattern) => pattern.test(text)))?.[0]
}

/** How large a picture must be, in pixels: “64 by 64”, “64x64”. */
export function sizeIn(comment: string): Pick<Rule, 'width' | 'height'> {
  const found = /\b(\d{1,4})\s*(?:x|×|by)\s*(\d{1,4})\b/i.exec(comment)
  return found ? { width: Number(found[1]), height: Number(found[2]) } : {}
}

/** Folders that a comment speaks of without naming them. */
const NO_FOLDER = new Set([
  'the',
  'this',
  'same',
  'that',
  'a',
  'any',
  'your',
  'its',
  'plugin',
  'bundle',
  'server',
  'game',
  'settings',
  'data',
])
const FOLDER = String.raw`(?:[\w-][\w.-]*\/)*[\w-][\w.-]*`
const FOLDERS = [
  new RegExp(String.raw`\b(?:folder|directory) (?:(?:called|named) )?["“‘'\x60](${FOLDER})\/?["”’'\x60]`, 'i'),
  new RegExp(String.raw`\b(?:folder|directory) (?:called|named) (${FOLDER})`, 'i'),
  new RegExp(String.raw`\b(?:in|below|under|from|of) (?:the )?["“‘'\x60]?(${FOLDER})\/?["”’'\x60]? (?:folder|directory)\b`, 'i'),
  new RegExp(String.raw`\b(?:in|below|under|from) (?:the )?["“‘'\x60]?(${FOLDER})\/["”’'\x60]?(?=[\s.,;:)]|$)`, 'i'),
]

/** The folder that files are named in, where the comment says one: “in the folder pictures”, “below pictures/”. */
export function folderIn(comment: string): Pick<Rule, 'folder'> {
  for (const pattern of FOLDERS) {
    const name = pattern.exec(comment)?.[1]?.replace(/\.$/, '')
    if (name !== undefined && !NO_FOLDER.has(name.toLowerCase()) && !/\.[a-z0-9]{1,5}$/i.test(name)) return { folder: name }
  }
  return {}
}
