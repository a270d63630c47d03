import { escaped } from '../text/patterns'
import { placeholderPattern, type Markup } from '../values/markup'
import type { FindingCode } from '../tree/nodes'
import { defineCheck, type CheckResult } from './check'
import { fixTo, lettersOf } from './letters'
import { looksOf, type ValueLook } from './looks'
import { nearest } from './near'
import type { Workspace, WorkspaceFile } from './workspace'

/** Codes and placeholders of texts that players read. */
export const readsWell = defineCheck({
  id: 'reads-well',
  scope: 'file',
  codes: ['unknown-code', 'unclosed-code', 'unknown-placeholder', 'unclosed-placeholder', 'lost-placeholder'],
  *run(workspace, file) {
    const { texts } = workspace.knowledge
    if (!texts) return
    const words = wordsOf(texts, workspace, file)
    for (const value of looksOf(file).values) {
      if (value.node.kind !== 'text' || value.isShipped || isNoText(value)) continue
      yield* checkCodes(texts, words, value)
      yield* checkPlaceholders(texts, words, value)
    }
  },
})

const NO_TEXTS = new Set(['id', 'amount', 'node', 'link', 'secret', 'picture', 'file', 'host', 'colour', 'time', 'coordinates', 'code'])
const isNoText = ({ rule, text }: ValueLook): boolean => text === '' || (rule?.means !== undefined && NO_TEXTS.has(rule.means))

/** What may stand in the texts of a file. */
interface Words {
  readonly codes: ReadonlySet<string>
  /** Names between the marks of placeholders. */
  readonly names: ReadonlySet<string>
  readonly code: RegExp | null
  readonly placeholder: RegExp
}

/** Names of the placeholders in some texts. */
export function placeholdersIn(markup: Markup, texts: readonly string[]): ReadonlySet<string> {
  const pattern = placeholderPattern(markup)
  return new Set(texts.flatMap((text) => [...text.matchAll(pattern)].map(([, name]) => name!)))
}

/** Codes and placeholders that the family, the plugins, or the author's own texts and comments have. */
function wordsOf(texts: Markup, { knowledge }: Workspace, { factory, plugin }: WorkspaceFile): Words {
  const code = texts.codes ? new RegExp(texts.codes, 'g') : null
  const shipped = factory?.text ?? ''
  const declared = knowledge.plugins.flatMap(({ placeholders }) => Object.keys(placeholders))
  const names = new Set([...placeholdersIn(texts, [shipped, ...declared]), ...(knowledge.filledIn.get(plugin ?? '') ?? [])])
  const codes = new Set([...texts.marks.map(({ code: one }) => one), ...(texts.lineBreak ? [texts.lineBreak] : [])])
  if (code) for (const [one] of shipped.matchAll(code)) codes.add(one)
  return { codes, names, code, placeholder: placeholderPattern(texts) }
}

interface Told {
  readonly code: FindingCode
  readonly at: number
  readonly found: string
  readonly message: string
  readonly meant?: string | undefined
  readonly cause: string
}

function finding(value: ValueLook, { code, at, found, message, meant, cause }: Told): CheckResult {
  const letters = lettersOf(value.node, value.text, at, found.length)
  return { code, severity: 'warning', from: letters.from, to: letters.to, message, cause, ...fixTo(letters, meant) }
}

function* checkCodes(texts: Markup, words: Words, value: ValueLook): Iterable<CheckResult> {
  const { text } = value
  if (words.code && texts.marks.length > 0)
    for (const match of text.matchAll(words.code)) {
      const [found] = match
      if (words.codes.has(found) || isColour(texts, found) || !/\p{L}/u.test(found)) continue
      const meant = nearest(found, words.codes)?.id ?? byBeginning(found, words.codes)
      const message = `${found} is no code of this game, so that players see it as it stands. ${meant ? `Did you mean ${meant}?` : 'Take another, or take it out.'}`
      yield finding(value, { code: 'unknown-code', at: match.index, found, message, meant, cause: `code ${found}` })
    }
  const foreign = foreignCode(texts, text)
  if (foreign) yield finding(value, foreign)
  yield* unclosed(texts, value)
}

/** A code that begins with the same letters, as [bold] and [b]. */
const byBeginning = (found: string, codes: ReadonlySet<string>): string | undefined => {
  const letters = /\p{L}+/u.exec(found)?.[0]
  const start = found.slice(0, found.indexOf(letters ?? ''))
  return letters === undefined
    ? undefined
    : [...codes].find(
        (code) =>
          code.startsWith(start) && /^\p{L}$/u.test(code.slice(start.length, -1)) && letters.startsWith(code.slice(start.length, -1)),
      )
}

/** Six digits that are a colour by themselves, where the family's codes take such. */
const isColour = ({ marks }: Markup, code: string): boolean =>
  /^[^\p{L}\p{N}]*#?[0-9a-f]{6}[^\p{L}\p{N}]*$/iu.test(code) && (marks.some((mark) => mark.code.includes('{colour}')) || code.includes('#'))

const BRACKETS = [
  ['[', ']'],
  ['<', '>'],
  ['&', ''],
] as const

/** A code of this game that is written as those of another: <amber> for [amber], or one whose bracket is lost. */
function foreignCode(texts: Markup, text: string): Told | null {
  for (const { code } of texts.marks) {
    const letters = /[\p{L}]{3,}/u.exec(code)?.[0]
    if (letters === undefined) continue
    for (const [open, close] of BRACKETS) {
      if (code.startsWith(open)) continue
      const at = text.indexOf(open + letters + close)
      if (at < 0) continue
      const found = open + letters + close
      const message = `${found} is how another game writes it. Here it is ${code}.`
      return { code: 'unknown-code', at, found, message, meant: code, cause: `code ${found}` }
    }
    const open = code.slice(0, code.indexOf(letters))
    const at = open === '' ? -1 : text.indexOf(open + letters)
    if (at >= 0 && !text.startsWith(code, at) && !/[\p{L}\p{N}_]/u.test(text[at + open.length + letters.length] ?? ''))
      return {
        code: 'unclosed-code',
        at,
        found: open + letters,
        message: `${open + letters} lacks its other bracket. Write ${code}.`,
        meant: code,
        cause: `code ${open + letters}`,
      }
  }
  return null
}

/** A style that is begun and never ended, where the family has a code that ends it and the author's own texts use that. */
function* unclosed(texts: Markup, value: ValueLook): Iterable<CheckResult> {
  const { text, shipped } = value
  const open = openAt(texts, text)
  if (open === null || (shipped !== null && openAt(texts, shipped) !== null)) return
  const { mark, at } = open
  const style = STYLES.find((one) => mark[one] !== undefined)
  const end = texts.marks.find(({ ends }) => ends === style || ends === 'all')
  if (!end) return
  const { from, to } = lettersOf(value.node, text, at, mark.code.length)
  const behind = lettersOf(value.node, text, text.length, 0)
  yield {
    code: 'unclosed-code',
    severity: 'warning',
    from,
    to,
    message: `${mark.code} is not ended, so that all that follows looks so. Put ${end.code} where it ends.`,
    cause: `open ${mark.code}`,
    ...(behind.isExact ? { fix: { label: `… ${end.code}`, edits: [{ from: behind.from, to: behind.to, insert: end.code }] } } : {}),
  }
}

const STYLES = ['colour', 'bold', 'italic', 'underline', 'struck'] as const

function openAt({ marks }: Markup, text: string): { mark: Markup['marks'][number]; at: number } | null {
  const open = new Map<string, { mark: Markup['marks'][number]; at: number }>()
  const sorted = [...marks].sort((a, b) => b.code.length - a.code.length)
  for (let at = 0; at < text.length; at++) {
    const mark = sorted.find(({ code }) => text.startsWith(code, at)) ?? hexMark(text, at)
    if (!mark) continue
    if (mark.ends === 'all') open.clear()
    else if (mark.ends) open.delete(mark.ends)
    else for (const style of STYLES) if (mark[style] !== undefined) open.set(style, { mark, at })
    at += mark.code.length - 1
  }
  return [...open.values()][0] ?? null
}

/** A colour by its digits within brackets, as <#d9930d>. */
function hexMark(text: string, at: number): Markup['marks'][number] | null {
  const found = /^[<[](#[0-9a-f]{6})[>\]]/i.exec(text.slice(at, at + 10))
  return found ? { code: found[0], colour: found[1]! } : null
}

function* checkPlaceholders(texts: Markup, words: Words, value: ValueLook): Iterable<CheckResult> {
  const { text, shipped } = value
  const [open = '{', close = '}'] = texts.placeholder
  if (words.names.size > 0)
    for (const match of text.matchAll(words.placeholder)) {
      const name = match[1]!
      if (words.names.has(name)) continue
      const near = nearest(name, words.names)?.id
      const meant = near === undefined ? undefined : open + near + close
      const message = `Nobody fills in ${match[0]}, so that players see it as it stands. ${meant ? `Did you mean ${meant}?` : `Known here are ${listed(words.names, open, close)}.`}`
      yield finding(value, {
        code: 'unknown-placeholder',
        at: match.index,
        found: match[0],
        message,
        meant,
        cause: `placeholder ${match[0]}`,
      })
    }
  const foreign = foreignPlaceholder(words, text, [open, close])
  if (foreign) yield finding(value, foreign)
  const half = halfPlaceholder(text, [open, close])
  if (half) yield finding(value, half)
  if (shipped === null || value.isItem || text === '') return
  // one that is misspelt is told of as that
  const held = namesIn(words, text)
  const meant = new Set([...held].map((name) => (words.names.has(name) ? name : nearest(name, words.names)?.id)))
  for (const name of namesIn(words, shipped))
    if (!meant.has(name) && !foreign && !half) {
      const { from, to } = value.node
      const message = `The author’s text holds ${open}${name}${close}, and this one does not. Put it in, if players shall see it.`
      yield { code: 'lost-placeholder', severity: 'note', from, to, message, cause: `lost ${name}` }
    }
}

const listed = (names: ReadonlySet<string>, open: string, close: string): string =>
  [...names]
    .slice(0, 6)
    .map((name) => open + name + close)
    .join(', ')

const namesIn = ({ placeholder }: Words, text: string): ReadonlySet<string> =>
  new Set([...text.matchAll(placeholder)].map(([, name]) => name!))

const OTHERS = [
  ['%', '%'],
  ['{', '}'],
  ['%{', '}'],
  ['${', '}'],
  ['{{', '}}'],
  ['<', '>'],
] as const

/** A placeholder that is known here by its name, written as another game does. */
function foreignPlaceholder(words: Words, text: string, [open, close]: readonly [string, string]): Told | null {
  for (const [before, after] of OTHERS) {
    if (before === open) continue
    for (const match of text.matchAll(new RegExp(`${escaped(before)}([\\w.-]+)${escaped(after)}`, 'g'))) {
      const isOurs = text.slice(Math.max(0, match.index - 2), match.index + match[0].length + 1).includes(open + match[1]! + close)
      if (isOurs || !words.names.has(match[1]!)) continue
      const meant = open + match[1]! + close
      const message = `${match[0]} is how another game writes it, and nobody fills it in here. Write ${meant}.`
      return { code: 'unknown-placeholder', at: match.index, found: match[0], message, meant, cause: `placeholder ${match[0]}` }
    }
  }
  return null
}

/** A placeholder that is begun and not ended. */
function halfPlaceholder(text: string, [open, close]: readonly [string, string]): Told | null {
  for (let at = text.indexOf(open); at >= 0; at = text.indexOf(open, at + 1)) {
    const rest = text.slice(at + open.length)
    const name = /^[\p{L}_][\p{L}\p{N}_-]*/u.exec(rest)?.[0]
    if (name === undefined || rest.startsWith(close, name.length)) continue
    const end = rest.indexOf(close)
    if (end >= 0 && !rest.slice(0, end).includes(open) && /^[\w.:|,-]*$/.test(rest.slice(0, end))) continue
    const message = `${open}${name} is not ended, so that nobody fills it in. Write ${open}${name}${close}.`
    return {
      code: 'unclosed-placeholder',
      at,
      found: open + name,
      message,
      meant: open + name + close,
      cause: `placeholder ${open}${name}`,
    }
  }
  return null
}
