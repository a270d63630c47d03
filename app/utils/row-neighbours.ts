import { amountOf, getNode, neededKeys, sharesOf, toJson, type Need, type Rule } from '@pasticcio/core'
import { keysOf, type RowSketch, type SheetInput } from './sheet-sketch'

/** What lies in the slots of a setting, named by the list beside it. */
export interface Rack {
  readonly first: number
  readonly rows: number
  /** The ids of the list beside, in its order; empty where there is none. */
  readonly items: readonly string[]
}

/** The share of a weight among those beside it, in percent; null where nothing can be drawn. */
export function shareOf(row: RowSketch): number | null {
  const beside = row.parent?.entry.value
  if (beside?.type !== 'map') return null
  const amounts = beside.entries.map(({ value }) => (value.type === 'scalar' && typeof value.value === 'number' ? value.value : 0))
  return sharesOf(amounts)?.[beside.entries.indexOf(row.entry)] ?? null
}

/** What lies in the slots: the ids of a list beside them that is as long. */
export function rackBeside(input: SheetInput, row: RowSketch, rule: Rule): Rack {
  const keys = keysOf(row)
  const parent = row.parent?.entry.value
  const own = row.entry.value
  const beside = parent?.type === 'map' && own.type === 'list' ? parent.entries : []
  const named = beside.find(({ key, value }) => {
    const means =
      value.type === 'list' && own.type === 'list' && value.entries.length === own.entries.length ? meaningOf(input, keys, key) : undefined
    return means === 'id' || means === 'amount'
  })
  const rows = beside.find(({ key, value }) => /^rows?$/i.test(key) && value.type === 'scalar' && value.kind === 'number')
  const items = named ? (toJson(input.document, named.value) as unknown[]).map((item) => String(item).split(' ')[0]!) : []
  return { first: rule.first ?? 0, rows: rows ? (amountOf(input.document, rows.value) ?? 1) : 1, items }
}

const meaningOf = ({ rules }: SheetInput, keys: readonly string[], key: string): Rule['means'] =>
  rules.find([...keys.slice(0, -1), key])?.means

/** Why a setting does not count now, in words; null where it does. */
export function waitsFor(input: SheetInput, keys: readonly string[], rule: Rule | null): string | null {
  for (const need of rule?.needs ?? []) {
    const words = 'plugin' in need ? missing(input, need.plugin) : unmet(input, keys, need)
    if (words) return words
  }
  return null
}

const missing = ({ plugins }: SheetInput, plugin: string): string | null =>
  plugins && !plugins.has(plugin) ? `needs ${plugin}, which is not here` : null

const ON = /^(?:true|yes|on|1|enabled)$/i

/** A pattern of a group stands for the entry the setting itself is in. */
function unmet(
  { document, lineOf }: SheetInput,
  keys: readonly string[],
  { setting, is }: Extract<Need, { setting: string }>,
): string | null {
  const path = neededKeys(setting, keys) ?? []
  const node = getNode(document, path)
  if (node?.type !== 'scalar') return null
  const now = typeof is === 'boolean' ? ON.test(String(node.value)) : node.value
  return now === is ? null : `counts once line ${lineOf(node.from)} is ${is === true ? 'on' : is === false ? 'off' : is}`
}
