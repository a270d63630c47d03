import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'
import { layer } from '../src/carry/layer'
import { Items } from '../src/carry/pairing/items'
import { pairItems } from '../src/carry/pairing/pair-items'
import { Prints } from '../src/carry/pairing/prints'
import { parse } from '../src/formats/registry'
import type { Document, ListNode, MapNode } from '../src/tree/nodes'
import { parsePointer } from '../src/tree/pointer'
import type { Customisation } from '../src/carry/types'
import type { Section } from './arbitraries'
import { DIALECTS, readOurs } from './dialects'
import { isFields, isItems, toModel, type Kind, type Part } from './lineage'
import { PLAIN_STYLE, holds, judge, lineageOf, texts } from './lineage-judge'

const KINDS: readonly Kind[] = ['codes', 'ids', 'sections', 'steps', 'nested', 'mixed', 'deep']
const runs = Number(process.env['FC_RUNS'] ?? 400)
const first = Number(process.env['FC_SEED'] ?? 1)
const seeds = Array.from({ length: runs }, (_x, i) => first + i)
const lists = DIALECTS.filter((dialect) => ['yaml', 'json', 'lua', 'xml'].includes(dialect.format))
const yaml = DIALECTS.find((dialect) => dialect.name === 'yaml')!

describe.each(KINDS)('lists of %s: the result is what the hidden lineages say, or asks about mine', (kind) => {
  it.each(lists.map((dialect) => [dialect.name, dialect] as const))('%s', (_name, dialect) => {
    let carries = 0
    for (const seed of seeds) {
      const lineage = lineageOf(kind, seed)
      if (!holds(dialect, lineage)) continue
      carries++
      expect(judge(lineage, dialect).fault, `seed ${seed}`).toBe(null)
    }
    expect(carries).toBeGreaterThan(runs / 2)
  })

  it('with edits only nothing is offered, taken out or put in', () => {
    // single values of the update among sections are known by what they say alone
    if (kind === 'mixed') return
    for (const seed of seeds) {
      const lineage = lineageOf(kind, seed, ['set', 'add'], ['set', 'add', 'addAll'])
      const { decisions } = carry({ ...texts(lineage, yaml), format: 'yaml' })
      const whole = decisions.filter((item) => ['offered', 'dropped', 'stays-removed', 'kept-aside'].includes(item.outcome))
      expect(whole, `seed ${seed}`).toEqual([])
    }
  })

  it('the layer put onto the factory copy gives mine, and an empty one means equal data in equal order', () => {
    for (const seed of seeds) {
      const lineage = lineageOf(kind, seed)
      const { factory, mine } = texts(lineage, yaml)
      const found = layer(parse(factory, 'yaml'), parse(mine, 'yaml'))
      expect(put(found, readOurs(factory, 'yaml'), readOurs(mine, 'yaml')), `seed ${seed}`).toEqual(readOurs(mine, 'yaml'))
    }
  })
})

/** Kinds whose items have names: there nothing is in doubt as long as nobody renames. */
describe.each(['codes', 'ids', 'sections', 'deep'] as const)('named items (%s)', (kind) => {
  it('nothing is asked where the changes of the two sides do not meet', () => {
    for (const seed of seeds) {
      const lineage = lineageOf(kind, seed, ['set', 'add'], ['set', 'add'])
      if ([...lineage.byMe.inside].some((item) => lineage.byUpdate.inside.has(item))) continue
      const { decisions } = carry({ ...texts(lineage, yaml), format: 'yaml' })
      expect(
        decisions.filter((item) => item.attention),
        `seed ${seed}`,
      ).toEqual([])
    }
  })
})

/** A file with every key of its items passed through a function, and their order turned round where asked. */
function rewritten(part: Part, key: (name: string) => string, turn: boolean): Part {
  if (isItems(part)) return { items: part.items.map((item) => ({ ...item, part: rewritten(item.part, key, turn) })) }
  if (!isFields(part)) return part
  const fields = [...part.fields].map(([name, value]) => [key(name), rewritten(value, key, turn)] as const)
  return { fields: new Map(turn ? fields.reverse() : fields) }
}

function pairsOf(from: Part, to: Part, edited: boolean): string {
  const read = (part: Part): Document => parse(yaml.render(yaml.restrict(toModel(part) as Section), PLAIN_STYLE), 'yaml')
  const [a, b] = [read(from), read(to)]
  const list = ({ root }: Document): ListNode => (root as MapNode).entries.find((entry) => entry.value.type === 'list')!.value as ListNode
  const prints = new Prints([a, b])
  const pairs = pairItems(new Items(a, list(a), prints), new Items(b, list(b), prints), edited)
  return pairs.map((pair) => `${pair.a}-${pair.b}`).join()
}

describe.each(KINDS)('pairs of %s do not depend on how keys are called or ordered', (kind) => {
  it.each([
    ['turned round', (name: string) => name, true],
    ['renamed in all versions alike', (name: string) => `q-${name}`, false],
  ] as const)('%s', (_how, key, turn) => {
    for (const seed of seeds.slice(0, 200)) {
      const { factory, mine, update } = lineageOf(kind, seed)
      for (const [to, edited] of [
        [mine, true],
        [update, false],
      ] as const) {
        const again = pairsOf(rewritten(factory, key, turn), rewritten(to, key, turn), edited)
        expect(again, `seed ${seed}`).toBe(pairsOf(factory, to, edited))
      }
    }
  })
})

/** The factory copy's data with the customisations of a layer put onto it, as its docs say what they mean. */
function put(found: readonly Customisation[], factory: unknown, mine: unknown): unknown {
  const from = new Map(found.filter((item) => item.kind === 'moved').map((item) => [item.path, item.from!]))
  const gone = new Set([...found.filter((item) => item.kind === 'removed').map((item) => item.path), ...from.values()])
  const own = new Map(found.filter((item) => item.kind === 'changed' || item.kind === 'added').map((item) => [item.path, item.mine]))
  const at = (data: unknown, pointer: string): unknown =>
    parsePointer(pointer)!.reduce<unknown>((inner, key) => (inner as Record<string, unknown>)[key], data)
  const build = (f: unknown, fPath: string, m: unknown, mPath: string): unknown => {
    if (own.has(mPath)) return own.get(mPath)
    if (Array.isArray(f) && Array.isArray(m)) {
      const left = f.map((item: unknown, i) => ({ item, path: `${fPath}/${i}` })).filter(({ path }) => !gone.has(path))
      return m.map((item: unknown, i) => {
        const path = `${mPath}/${i}`
        if (own.has(path) && !from.has(path) && found.some((one) => one.path === path && one.kind === 'added')) return own.get(path)
        const old = from.has(path) ? { item: at(factory, from.get(path)!), path: from.get(path)! } : left.shift()
        return old ? build(old.item, old.path, item, path) : 'nothing is left'
      })
    }
    if (typeof f !== 'object' || f === null || typeof m !== 'object' || m === null) return f
    const keys = [
      ...Object.keys(f).filter((key) => !gone.has(`${fPath}/${key}`)),
      ...Object.keys(m).filter((key) => !Object.hasOwn(f, key) && own.has(`${mPath}/${key}`)),
    ]
    return Object.fromEntries(
      keys.map((key) => [
        key,
        build((f as Record<string, unknown>)[key], `${fPath}/${key}`, (m as Record<string, unknown>)[key], `${mPath}/${key}`),
      ]),
    )
  }
  return build(factory, '', mine, '')
}
