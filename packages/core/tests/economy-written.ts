import fc from 'fast-check'
import { stringify } from 'yaml'
import { NO_KNOWLEDGE } from '../src/checks'
import { factsOf, type FileFacts } from '../src/checks/facts'
import { workspaceFile, workspaceOf } from '../src/checks/workspace'
import { economyFacts, type EconomyFacts } from '../src/economy'
import { UNSAID } from '../src/formats/reading'
import type { KnownIds } from '../src/rules/infer'
import type { Rule } from '../src/rules/rule'

/* Economies as data, written in any format by others than those who read them here. */

export const ITEMS = ['rope', 'lamp_oil', 'clay', 'fired_brick', 'eel', 'reed', 'tin_bell', 'net', 'oak_plank', 'honeycomb'] as const
export const LISTS = { items: new Set<string>(ITEMS) }
export type Data = null | string | number | boolean | readonly Data[] | { readonly [key: string]: Data }

const luaOf = (data: Data): string => {
  if (data === null) return 'nil'
  if (typeof data !== 'object') return JSON.stringify(data)
  if (Array.isArray(data)) return `{ ${(data as readonly Data[]).map(luaOf).join(', ')} }`
  return `{ ${Object.entries(data)
    .map(([key, value]) => `["${key}"] = ${luaOf(value)}`)
    .join(', ')} }`
}
export const WRITE = {
  yml: (data: Data) => stringify(data),
  json: (data: Data) => JSON.stringify(data, null, 2),
  lua: (data: Data) => `return ${luaOf(data)}\n`,
}
export type Ending = keyof typeof WRITE
export const ending = fc.constantFrom<Ending>('yml', 'json', 'lua')

/** What one file says, of a server with these lists. @param factory what its plugin ships in its place */
export function factsFor(path: string, text: string, factory = text, lists: KnownIds = LISTS, rules: readonly Rule[] = []): FileFacts {
  const file = workspaceFile({ path, plugin: path.split('/')[0]!, text, factory, reading: UNSAID, known: lists, rules })!
  return factsOf(workspaceOf([file], null, [], { ...NO_KNOWLEDGE, lists }), file)
}
export const gathered = (path: string, text: string, lists: KnownIds = LISTS): EconomyFacts =>
  economyFacts([factsFor(path, text, text, lists)])
export const offers = (facts: EconomyFacts): string[] =>
  facts.offers.map(({ item, way, amount, count }) => `${way} ${count} ${item} for ${amount}`).sort()
