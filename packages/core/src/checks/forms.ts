import { levelOf } from '../rules/rule'
import type { FindingCode } from '../tree/nodes'
import { readColour } from '../values/colour'
import { defineCheck, type CheckResult } from './check'
import { looksOf, sourceFor, type FileLooks, type PartLook, type ValueLook } from './looks'
import { nearest } from './near'

/** Values that cannot be what they stand for: times, colours, addresses, places, ids of players. */
export const hasForm = defineCheck({
  id: 'has-form',
  scope: 'file',
  codes: ['wrong-form', 'unsafe-number', 'odd-id'],
  *run(_workspace, file) {
    const looks = looksOf(file)
    for (const value of looks.values) if (!value.isShipped && value.text !== '') yield* checkValue(looks, value)
    for (const part of looks.parts) yield* checkPlace(looks, part)
  },
})

/** What is wrong with a text, in words that go behind it; null where nothing is. */
type Form = (text: string) => string | null

const TIME = /^(?:(?:[01]?\d|2[0-3]):[0-5]\d(?::[0-5]\d)?|24:00|(?:0?[1-9]|1[0-2])(?::[0-5]\d)? ?[ap]m)$/i
const TURN = 360
const SCHEMES = ['http', 'https', 'ws', 'wss', 'ftp', 'ftps', 'sftp', 'mailto', 'tcp', 'udp', 'file']

const time: Form = (text) => (TIME.test(text.trim()) ? null : 'is no time of day. Write it as 17:30')
const colour: Form = (text) =>
  readColour(text.replace(/^<|>$/g, '')) ? null : 'is no colour. It takes six digits of 0 to 9 and A to F, as in #C9C6BE'
const host: Form = (text) => {
  if (/^[a-z][a-z0-9+.-]*:\/\//i.test(text)) return 'has a scheme in front. Write the name or the number of the machine alone'
  if (/\s/.test(text)) return 'has a blank in it, and no machine is called so'
  if (/^[^:[\]]+:\d+$/.test(text)) return 'has a port behind it, and only the name or the number of the machine is taken here'
  const parts = /^(\d{1,3})\.(\d{1,3})\.(\d{1,3})\.(\d{1,3})$/.exec(text)?.slice(1)
  if (parts) return parts.every((part) => Number(part) <= 255) ? null : 'is no address of a machine: each of its four numbers goes to 255'
  return /^[\d.]+$/.test(text) ? 'is no address of a machine. It takes four numbers, as in 127.0.0.1' : null
}
const link: Form = (text) => {
  if (/^(?:https?|wss?|ftps?):\/\/[^\s/]+\S*$/i.test(text) || /^(?:mailto|tcp|udp|sftp|file):\S+$/i.test(text)) return null
  if (/\s/.test(text)) return 'has a blank in it. A link has none'
  const scheme = /^([a-z]+)(?::?\/{1,2}|:)/i.exec(text)?.[1]
  if (scheme === undefined) return /^[\w-]+(?:\.[\w-]+)+(?:[/?#]\S*)?$/.test(text) ? null : 'is no link. It begins with https://'
  const near = SCHEMES.includes(scheme.toLowerCase()) ? scheme.toLowerCase() : nearest(scheme, SCHEMES)?.id
  return near ? `is no link. Did you mean ${near}://?` : null
}
const FORMS: Readonly<Record<string, Form>> = { time, colour, host, link }

function* checkValue({ book }: FileLooks, value: ValueLook): Iterable<CheckResult> {
  const { rule, text, node, shipped } = value
  const form = rule?.means ? FORMS[rule.means] : undefined
  const isFilled = text.includes('{') || text.includes('%')
  const wrong = node.kind === 'text' && form && !isFilled && !(form !== FORMS['host'] && shipped && form(shipped)) ? form(text) : null
  const severity = levelOf(sourceFor(book, value, 'means'))
  const add = (code: FindingCode, message: string): CheckResult => ({ code, severity, from: node.from, to: node.to, message })
  if (wrong) yield add('wrong-form', `“${text}” ${wrong}.`)
  else if (node.kind === 'text' && !form && (shipped ? areTimes(shipped) : mayBeTimes(text))) {
    const odd = text.split(',').find((part) => part.trim() !== '' && !TIME.test(part.trim()))
    if (odd !== undefined) yield add('wrong-form', `“${odd.trim()}” ${time('')}.`)
  }
  if (rule?.means === 'angle' && node.kind === 'number' && Math.abs(Number(text)) > TURN)
    yield add('wrong-form', `“${value.entry.key}” is an angle in degrees, and a whole turn is ${TURN}. Write it between 0 and ${TURN}.`)
  if (node.kind === 'number' && /^-?\d{16,}$/.test(text) && !Number.isSafeInteger(Number(text)))
    yield {
      ...add('unsafe-number', `${text} has more digits than readers of numbers keep: it may be read as ${Number(text)}. Put it in quotes.`),
      severity: 'warning',
      fix: { label: `"${text}"`, edits: [{ from: node.from, to: node.to, insert: `"${text}"` }] },
    }
}

/** Several that look like times of day, of which one at least is one. */
const mayBeTimes = (text: string): boolean => {
  const parts = text.split(',').map((part) => part.trim())
  return parts.length > 1 && parts.every((part) => /^\d{1,2}:\d{2}$/.test(part)) && parts.some((part) => TIME.test(part))
}

const areTimes = (text: string): boolean => text.split(',').every((part) => TIME.test(part.trim()))

function* checkPlace({ book }: FileLooks, { node, shipped, keys, rule, entry }: PartLook): Iterable<CheckResult> {
  if (!entry || node.type !== 'list' || shipped?.type !== 'list') return
  const severity = levelOf(book.sources(keys).means)
  if (rule?.means === 'coordinates' && node.entries.length !== shipped.entries.length)
    yield {
      code: 'wrong-form',
      severity,
      from: node.from,
      to: node.to,
      message: `“${entry.key}” is a place of ${shipped.entries.length} numbers, and here are ${node.entries.length}. Write all of them.`,
    }
  const theirs = shipped.entries.flatMap(({ value }) => (value.type === 'scalar' && value.kind === 'text' ? [String(value.value)] : []))
  const length = theirs[0]?.length ?? 0
  if (theirs.length === 0 || !theirs.every((text) => /^\d{15,20}$/.test(text) && text.length === length)) return
  for (const { value } of node.entries) {
    if (value.type !== 'scalar' || value.kind !== 'text') continue
    const text = String(value.value)
    if (new RegExp(`^\\d{${length}}$`).test(text)) continue
    const message = `“${text}” is no id of a player: those have ${length} digits. Copy it once more.`
    yield { code: 'odd-id', severity, from: value.from, to: value.to, message }
  }
}
