import type { Answer } from '../pack/descriptor'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'
import type { Money } from './money'
import type { Ranks } from './ranks'
import { dueIn } from './timed'

type Values = Readonly<Record<string, unknown>>

const TIDES = ['low', 'rising', 'high', 'falling'] as const
const TIDE_SECONDS = 40 * 60

/**
 * A plugin described by data alone: what it answers to players, from its settings and texts. Templates know `{name}` of
 * values, `{count:name}` for how many there are of something, and `{text:key}` for one of the plugin's texts.
 */
export function answers(host: Host, loaded: Loaded): Running {
  const { used, behaviour, file } = loaded
  const commands = behaviour.commands ?? {}
  const turns = new Map<string, number>()
  const entriesOf = (name: string): Values[] =>
    file.entries(behaviour.reads[name]!.at!, behaviour.entry ?? {}).map(({ key, values }) => ({ key, ...values }))
  const fill = (template: string, values: Values): string =>
    template
      .replace(/\{text:([\w.-]+)\}/g, (_whole, key: string) => loaded.text(key))
      .replace(/\{count:([\w-]+)\}/g, (_whole, name: string) => String(sizeOf(values[name])))
      .replace(/\{([\w-]+)\}/g, (whole, name: string) => (name in values ? show(values[name]) : whole))
  // entries are read at the start, so that a mistake in one is found then
  for (const { each } of Object.values(commands)) if (each) entriesOf(each)

  /** What is known of a player, for all templates. */
  const known = (player: string): Values => {
    const purse = host.service<Money>('money')
    const ranks = host.service<Ranks>('ranks')
    return {
      player,
      place: host.placeOf(player),
      players: host.online(),
      count: host.online(),
      tide: TIDES[Math.floor(host.clock() / (TIDE_SECONDS / TIDES.length)) % TIDES.length]!,
      ...(purse ? { balance: purse.show(purse.balance(player)) } : {}),
      ...(ranks ? { rank: ranks.rankOf(player) } : {}),
    }
  }
  /** A template's lines: one that is a list and nothing else gives a line for each. */
  const linesOf = (template: string, values: Values): string[] => {
    const list = values[/^\{([\w-]+)\}$/.exec(template)?.[1] ?? '']
    return Array.isArray(list) ? list.map(String) : [fill(template, values)]
  }
  const chosen = (answer: Answer, player: string, key: string): string => {
    const { done, none, locked, poor, cost, weights } = answer.choose!
    const entry = entriesOf(answer.each!).find((item) => item['key'] === key)
    const values: Values = { ...used, ...entry, ...known(player), key }
    if (!entry) return fill(none, values)
    const node = String(entry['node'] ?? '')
    if (node !== '' && !host.hasNode(player, node)) return fill(locked ?? none, values)
    const due = cost ? Number(entry[cost]) : 0
    const purse = host.service<Money>('money')
    if (due > 0 && purse && !purse.take(player, due)) return fill(poor ?? none, { ...values, balance: purse.show(purse.balance(player)) })
    return fill(done, weights ? { ...values, item: drawn(entry[weights] as Record<string, number>, host.random()) } : values)
  }
  const answered = (name: string, answer: Answer, player: string, words: readonly string[]): string[] => {
    if (answer.node !== undefined && !host.hasNode(player, String(used[answer.node]))) return [answer.locked ?? 'You may not do that.']
    if (answer.choose && words[1]) return [chosen(answer, player, words[1])]
    if (answer.turn) {
      const lines = used[answer.turn] as unknown[]
      const turn = turns.get(name) ?? 0
      turns.set(name, turn + 1)
      return [fill(String(lines[turn % Math.max(1, lines.length)] ?? ''), { ...used, player })]
    }
    if (!answer.each) return (answer.lines ?? []).flatMap((line) => linesOf(line, { ...used, player }))
    const open = entriesOf(answer.each).filter(({ node }) => !node || host.hasNode(player, String(node)))
    const head = answer.head ? [fill(answer.head, { ...used, player })] : []
    return [...head, ...open.map((entry) => fill(answer.line ?? '{key}', { ...used, ...entry, player }))]
  }
  const said = (templates: readonly string[] | undefined, player: string): void => {
    for (const template of templates ?? []) {
      const text = plainText(fill(fill(template, used), known(player)))
      if (text !== '') host.say(text)
    }
  }
  return {
    summary: fill(behaviour.summary ?? '', used),
    asPlayer: (player, words) => {
      const answer = commands[words[0]!]
      return answer ? answered(words[0]!, answer, player, words).map((line) => plainText(fill(line, known(player)))) : null
    },
    joined: (player) => said(behaviour.joined, player),
    left: (player) => said(behaviour.left, player),
    passed(span) {
      for (const { template, values } of dueIn(behaviour.timed ?? [], used, span)) {
        // how much lay about differs each time
        const text = plainText(fill(fill(template, { ...used, ...values }), { ...values, count: Math.round(host.random() * 40) }))
        if (text !== '') host.say(text)
      }
    },
  }
}

/** How many things a list or section holds. */
export function sizeOf(value: unknown): number {
  if (Array.isArray(value)) return value.length
  return typeof value === 'object' && value !== null ? Object.keys(value).length : 0
}

function show(value: unknown): string {
  if (Array.isArray(value)) return value.map(String).join(', ')
  return typeof value === 'object' && value !== null ? Object.keys(value).join(', ') : String(value)
}

/** One of several by weight; `random` is from 0 to 1. */
export function drawn(weights: Readonly<Record<string, number>>, random: number): string {
  const all = Object.entries(weights).filter(([, weight]) => weight > 0)
  let left = random * all.reduce((sum, [, weight]) => sum + weight, 0)
  for (const [item, weight] of all) {
    left -= weight
    if (left < 0) return item
  }
  return all.at(-1)?.[0] ?? 'nothing'
}
