import { lastWord, nameWords } from '../carry/likeness'
import { amountOf } from '../tree/compare'
import { formatPointer } from '../tree/pointer'
import type { FileLooks } from './looks'
import type { WorkspaceFile } from './workspace'

/** What one of another money is worth, in the money of the server. */
export interface ExchangeFact {
  readonly currency: string
  readonly rate: number
  readonly pointer: string
  readonly from: number
}

/** Settings of a section of rates of exchange, or an `exchange-rate` beside what its money is called. */
export function exchangeIn({ document }: WorkspaceFile, { values }: FileLooks): ExchangeFact[] {
  return values.flatMap(({ keys, node, rule }): ExchangeFact[] => {
    // looked for in the letters first: there are many settings and few rates
    if (keys.length < 2 || !(EXCHANGE.test(keys.at(-1)!) || EXCHANGE.test(keys.at(-2)!))) return []
    const isNamed = nameWords(keys.at(-2)!).includes('exchange')
    const isOfEntry = nameWords(keys.at(-1)!).includes('exchange') && RATES.has(lastWord(keys.at(-1)!))
    const rate = (isNamed || isOfEntry) && !rule?.role ? amountOf(document, node) : null
    if (rate === null || rate <= 0) return []
    return [{ currency: isOfEntry ? keys.at(-2)! : keys.at(-1)!, rate, pointer: formatPointer(keys), from: node.from }]
  })
}

const EXCHANGE = /exchange/i
const RATES = new Set(['exchange', 'rate', 'value', 'worth'])
