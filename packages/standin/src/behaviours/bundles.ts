import { parse } from 'yaml'
import { SettingsError } from '../server/settings-file'
import type { Host, Loaded, Running } from './behaviour'
import { plainText } from './plain-text'
import type { Money } from './money'

interface Hamper {
  readonly key: string
  readonly name: string
  readonly items: readonly string[]
  readonly cooldown: number
  readonly price: number
  readonly node: string
  readonly places: readonly string[]
  readonly commands: readonly string[]
}

/** Hampers that players claim, through the money plugin when they cost something. */
export function bundles(host: Host, loaded: Loaded, before: unknown): Running {
  const { used, text, file, behaviour } = loaded
  const hampers = file.entries(behaviour.reads['hampers']!.at!, behaviour.entry ?? {}).map(({ key, values }): Hamper => ({
    key,
    name: String(values['name']),
    items: values['items'] as string[],
    cooldown: Number(values['cooldown']),
    price: Number(values['price']),
    node: String(values['node'] ?? ''),
    places: (values['places'] ?? []) as string[],
    commands: (values['commands'] ?? []) as string[],
  }))
  if (hampers.length === 0) throw new SettingsError(1, 'there is no hamper')
  const claims = before instanceof Map ? (before as Map<string, number>) : recordedClaims(host)
  const now = (): number => host.date().getTime() / 1000
  const pause = (used['pause'] as number) / (behaviour.reads['pause']!.unit === 'ticks' ? 20 : 1)
  const names = ['hamper', ...(used['also'] as string[])]
  const money = (): Money | null => host.service<Money>('money')
  const show = (amount: number): string => money()?.show(amount) ?? String(amount)

  const claim = (player: string, wanted: string): string[] => {
    const hamper = hampers.find((item) => item.key === wanted.toLowerCase())
    if (!hamper) return [text('claim.none', { hamper: wanted })]
    const due = hamper.price * (1 + (used['tax'] as number))
    const purse = money()
    const values = {
      player,
      hamper: hamper.name,
      price: show(due),
      balance: purse ? show(purse.balance(player)) : '',
      wait: wait(hamper.cooldown * 60),
      left: String(hampers.length - 1),
    }
    if (
      (used['closed-in'] as string[]).includes(host.placeOf(player)) ||
      (hamper.places.length > 0 && !hamper.places.includes(host.placeOf(player)))
    )
      return [text('claim.closed', values)]
    if (hamper.node !== '' && !host.hasNode(player, hamper.node)) return [text('claim.locked', values)]
    const last = claims.get(`${player}/${hamper.key}`)
    if (last !== undefined && now() - last < hamper.cooldown * 60)
      return [text('claim.wait', { ...values, wait: wait(hamper.cooldown * 60 - (now() - last)) })]
    const latest = claims.get(player)
    if (latest !== undefined && now() - latest < pause && !host.hasNode(player, 'hampers.skip-pause')) return [text('claim.pause', values)]
    if (due > 0 && purse && !purse.take(player, due)) return [text('claim.poor', values)]
    claims.set(player, now())
    claims.set(`${player}/${hamper.key}`, now())
    // rounded down: nobody waits longer after a restart
    host.record(
      RECORD,
      [...claims]
        .filter(([key]) => key.includes('/'))
        .map(([key, at]) => `"${key}": ${Math.floor(at)}`)
        .join('\n') + '\n',
    )
    const message = String(used['message'])
    if (message !== '') host.say(plainText(fill(message, values)))
    for (const command of hamper.commands) if (command.startsWith('say ')) host.say(plainText(fill(command.slice(4), values)))
    const paid = due > 0 ? [text('claim.paid', { ...values, balance: purse ? show(purse.balance(player)) : '' })] : []
    return [text('claim.done', values), `You get ${hamper.items.join(', ')}.`, ...paid]
  }
  const list = (player: string): string[] => [
    text('list.head', { title: String(used['title']), player }),
    ...hampers
      .filter((item) => item.node === '' || host.hasNode(player, item.node))
      .map(
        (item) =>
          `${item.key}: ${text('list.line', { hamper: item.name, price: item.price === 0 ? 'free' : show(item.price * (1 + (used['tax'] as number))) })}`,
      ),
  ]
  return {
    summary: `${hampers.length} hampers, pause ${pause} s`,
    service: { state: claims },
    asPlayer(player, words) {
      if (!names.includes(words[0]!)) return null
      const lines = words[1] === 'claim' && words[2] ? claim(player, words[2]) : list(player)
      return lines.map(plainText)
    },
  }
}

function fill(text: string, values: Readonly<Record<string, string>>): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => values[name] ?? whole)
}

function wait(seconds: number): string {
  if (seconds >= 86400) return `${Math.ceil(seconds / 86400)} d`
  if (seconds >= 3600) return `${Math.ceil(seconds / 3600)} h`
  return seconds >= 60 ? `${Math.ceil(seconds / 60)} min` : `${Math.ceil(seconds)} s`
}

const RECORD = 'claims.yml'

/** When players claimed what the last time, in seconds since 1970. */
function recordedClaims(host: Host): Map<string, number> {
  return new Map(Object.entries((parse(host.recorded(RECORD) ?? '') as Record<string, number> | null) ?? {}))
}
