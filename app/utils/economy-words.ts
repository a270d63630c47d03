import type { DrawTable, FlowGroup, Mover, Moving } from '@pasticcio/core'

/** A name of a setting as words: `fire-kiln` reads “Fire kiln”. */
export function asWords(name: string): string {
  const words = name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[_:.\s-]+/g, ' ')
    .trim()
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/** Money as people read it: whole where it is large, with two digits where it is small. */
export function amountWords(amount: number): string {
  const size = Math.abs(amount)
  const digits = size >= 100 || Number.isInteger(amount) ? 0 : size >= 10 ? 1 : 2
  const text = Number(size.toFixed(digits)).toLocaleString('en', { maximumFractionDigits: digits })
  return amount < 0 && text !== '0' ? `−${text}` : text
}

/** Large money in short, as it stands on an axis: three digits, thousands and millions by a letter. */
export function largeWords(amount: number): string {
  const [size, letter] = Math.abs(amount) >= 999_500 ? [1e6, ' M'] : Math.abs(amount) >= 9_995 ? [1e3, ' k'] : [1, '']
  return size === 1 ? amountWords(Math.round(amount)) : `${Number((amount / size).toPrecision(3))}${letter}`.replace('-', '−')
}

/** From one to another, the letter said once where it is the same. */
export function rangeWords(low: number, high: number): string {
  const [from, to] = [largeWords(low), largeWords(high)]
  const letter = / [Mk]$/.exec(to)?.[0]
  return `${letter && from.endsWith(letter) ? from.slice(0, -letter.length) : from}–${to}`
}

/** The same with a sign for what is more, too. */
export const changeWords = (amount: number): string => (amount > 0 ? `+${amountWords(amount)}` : amountWords(amount))

/** A share as true percent; small ones keep two digits that say something. */
export function percentWords(share: number): string {
  const percent = share * 100
  if (percent === 0) return '0 %'
  const text = percent >= 10 ? percent.toFixed(1) : percent.toPrecision(2)
  return `${Number(text).toLocaleString('en', { maximumSignificantDigits: 6 })} %`
}

/** Hours of play in words; a dash for never. */
export const hoursWords = (hours: number | null): string =>
  hours === null ? 'never' : hours < 0.05 ? 'at once' : `${amountWords(Number(hours.toFixed(1)))} h`

/** What a group of the flow is called, and what stands below it. */
export function groupWords({ streams }: Pick<FlowGroup, 'streams'>): { readonly title: string; readonly under: string } {
  const first = streams[0]!
  const { doing, name, deed, plugin } = first
  const section = asWords(first.section)
  // what is paid at least and at most is one of them
  const count = new Set(streams.map(({ activity }) => activity)).size
  const several = (one: string): string => `${plugin}, ${counted(count, one)}`
  const called: Readonly<Record<Moving['doing'], readonly [string, string]>> = {
    once: ['Newcomers’ start', plugin],
    payout: count === 1 ? [asWords(deed), plugin] : [section || 'Payouts', several('payout')],
    price: count === 1 ? [asWords(name), plugin] : [section ? `${section} for a price` : 'Prices', several('price')],
    fee: count === 1 ? [`Fee of ${asWords(name).toLowerCase()}`, plugin] : [section ? `${section}: fees` : 'Fees', several('fee')],
    share: [asWords(lastOf(first)), plugin],
    tax: [/^tax$/i.test(name) ? 'Tax' : `Tax, ${asWords(name).toLowerCase()}`, plugin],
    buys: ['Buying', `${plugin}, ${counted(first.settings, 'price')}`],
    sells: ['Selling', `${plugin}, ${counted(first.settings, 'price')}`],
    loop: [`${asWords(name)} loop`, `sold on at ${plugin}`],
  }
  const [title, under] = called[doing]
  return { title, under }
}

const lastOf = ({ keys, name }: Moving): string => {
  const last = keys.at(-1) ?? ''
  return last === name ? name : `${name} ${last}`
}

/** What players do, for a row of what they are assumed to do. */
export function activityWords({ doing, deed, plugin }: Pick<Moving, 'doing' | 'deed' | 'plugin'>): string {
  const words: Readonly<Partial<Record<Moving['doing'], string>>> = {
    buys: `Buy at ${plugin}`,
    sells: `Sell at ${plugin}`,
    loop: `${asWords(deed)} loop`,
    share: `${asWords(deed)}, times a day`,
    fee: `Fee of ${asWords(deed).toLowerCase()}`,
  }
  return words[doing] ?? asWords(deed)
}

/** A setting by what it is called; of two that say how much one deed pays, which it is. */
export const streamWords = ({ name, bound }: Pick<Moving, 'name' | 'bound'>): string =>
  bound === null ? asWords(name) : `${asWords(name)}, at ${bound}`

/** A setting among those that move most. */
export function moverWords({ stream, side }: Pick<Mover, 'stream' | 'side'>): string {
  if (side !== null) return `${asWords(stream.name)}, where it is ${side === 'buy' ? 'bought' : 'sold'}`
  if (stream.doing === 'buys') return `Everything at ${stream.plugin}`
  if (stream.doing === 'sells') return `All that ${stream.plugin} pays`
  if (stream.doing === 'once') return 'Newcomers’ start'
  if (stream.doing === 'tax') return `Tax of ${stream.plugin}`
  return stream.doing === 'share' ? asWords(lastOf(stream)) : streamWords(stream)
}

/** A table by the name of its entry, or its own. */
export const tableWords = ({ name }: Pick<DrawTable, 'name'>): string => {
  const words = name.split(' ')
  return asWords(words.length > 1 && SAYS_NOTHING.test(words.at(-1)!) ? words.slice(0, -1).join(' ') : name)
}

const SAYS_NOTHING = /^(?:yields?|weights?|chances?|odds|loot|drops?|draws?|rewards?|items?)$/i
