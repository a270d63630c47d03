import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'
import { layer } from '../src/carry/layer'
import type { CarryResult, Decision } from '../src/carry/types'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import { parsePointer } from '../src/tree/pointer'
import { changes, model, mutate, style, type Section, type Style } from './arbitraries'
import { DIALECTS, normal, readAlikeOurs, readOthers, readOurs, type Dialect } from './dialects'

const runs = Number(process.env['FC_RUNS'] ?? 400)

/** Three versions of a file: the old factory copy, mine made from it, and the update made from it, in one style each or all alike. */
const versions = fc.record({
  section: model,
  mineChanges: changes,
  updateChanges: changes,
  how: style,
  otherHow: style,
  sameStyle: fc.boolean(),
})
type Versions = typeof versions extends fc.Arbitrary<infer T> ? T : never

function write(given: Versions, dialect: Dialect): { factory: string; mine: string; update: string } {
  const render = (section: Section, how: Style): string => dialect.render(dialect.restrict(section), how)
  const updateStyle = given.sameStyle ? given.how : given.otherHow
  return {
    factory: render(given.section, given.how),
    mine: render(mutate(given.section, given.mineChanges), given.how),
    update: render(mutate(given.section, given.updateChanges), updateStyle),
  }
}

function lookup(data: unknown, pointer: string): { found: boolean; value: unknown } {
  let at = data
  for (const key of parsePointer(pointer)!) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return { found: false, value: undefined }
    at = Object.getOwnPropertyDescriptor(at, key)!.value
  }
  return { found: true, value: at }
}

const covers = (pointer: string, path: string): boolean =>
  path === pointer || path.startsWith(pointer + '/') || pointer.startsWith(path + '/')
const about = (result: CarryResult, path: string): Decision[] =>
  result.decisions.filter(
    (item) => covers(item.path, path) || (item.from !== undefined && covers(item.from, path)) || covers(item.id, path),
  )

/** Leaves of plain data with their pointers; lists and empty sections count as leaves. */
function leaves(data: unknown, at = ''): [string, unknown][] {
  if (typeof data !== 'object' || data === null || Array.isArray(data) || Object.keys(data).length === 0) return [[at, data]]
  return Object.entries(data).flatMap(([key, value]) => leaves(value, `${at}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`))
}

describe.each(DIALECTS.map((dialect) => [dialect.name, dialect] as const))('carrying %s forward', (_name, dialect) => {
  const { format } = dialect
  it('1: what nobody changed stays byte for byte', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        expect(carry({ factory, mine: factory, update, format }).text).toBe(update)
        expect(carry({ factory, mine, update: factory, format }).text).toBe(mine)
      }),
      { numRuns: runs },
    )
  })

  it('1b: the merge itself, not only its short cut, leaves the update alone when I changed nothing', () => {
    fc.assert(
      fc.property(versions, fc.constantFrom('plain', 'single', 'double'), (given, quotes) => {
        const { factory, update } = write(given, dialect)
        fc.pre(update !== factory)
        const restyled = dialect.render(dialect.restrict(given.section), { ...given.how, quotes: quotes as 'plain' })
        expect(carry({ factory, mine: restyled, update, format }).text).toBe(update)
      }),
      { numRuns: runs },
    )
  })

  it('2: no customisation is lost: it is in the result or named', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        const result = carry({ factory, mine, update, format })
        const [data, updated] = readAlikeOurs([result.text, update, mine, factory], format)
        for (const item of layer(parse(factory, format, LENIENT), parse(mine, format, LENIENT))) {
          if (item.kind === 'comment') continue
          // an order of mine: the list is named by the decision about it
          if (item.kind === 'moved' && item.mine === undefined) {
            expect(about(result, item.path.slice(0, item.path.lastIndexOf('/'))).length, `${item.path} is named`).toBeGreaterThan(0)
            continue
          }
          const named = about(result, item.path)
          if (named.some((decision) => decision.attention)) continue
          const here = lookup(data, item.path)
          if (item.kind === 'removed') {
            const inUpdate = lookup(updated, item.path)
            expect(!here.found || !inUpdate.found || named.length > 0, `${item.path} came back\n${result.text}`).toBe(true)
          } else {
            const kept = named.some(
              (decision) =>
                lookup(data, decision.path).found &&
                JSON.stringify(normal(lookup(data, decision.path).value)) === JSON.stringify(normal(item.mine)),
            )
            const there = here.found && JSON.stringify(sorted(here.value)) === JSON.stringify(sorted(normal(item.mine)))
            expect(
              kept || there || isMerged(item.factory, item.mine, here.value) || leafwise(result, data, item.path, item.mine),
              `${item.kind} ${item.path} = ${JSON.stringify(item.mine)} is missing\n--- factory\n${factory}\n--- mine\n${mine}\n--- update\n${update}\n--- result\n${result.text}\n${JSON.stringify(result.decisions, null, 1)}`,
            ).toBe(true)
          }
        }
      }),
      { numRuns: runs },
    )
  })

  it('3: what I did not customise reads as in the update', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        const result = carry({ factory, mine, update, format })
        const [data, known] = readAlikeOurs([result.text, update, mine, factory], format)
        const mineOnly = result.decisions.filter(
          (item) => !['took-update', 'added-by-update', 'same-change', 'stamp'].includes(item.outcome),
        )
        const touched = (path: string): boolean => mineOnly.some((item) => covers(item.path, path) || covers(item.id, path))
        for (const [path, value] of leaves(known))
          if (!touched(path)) expect(sorted(lookup(data, path).value), `${path}\n${result.text}`).toEqual(sorted(value))
        for (const [path] of leaves(data))
          if (!lookup(known, path).found && path !== '') expect(touched(path), `${path} came from nowhere\n${result.text}`).toBe(true)
      }),
      { numRuns: runs },
    )
  })

  it('4: independent parsers read the result as we do', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        for (const shape of ['update', 'mine'] as const) {
          const { text } = carry({ factory, mine, update, format }, { shape })
          const ours = readOurs(text, format)
          for (const other of readOthers(text, dialect)) expect(other, text).toEqual(ours)
        }
      }),
      { numRuns: runs },
    )
  })

  it('5: carrying twice changes nothing more, and the same inputs give the same plan', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        const once = carry({ factory, mine, update, format })
        expect(carry({ factory, mine, update, format })).toEqual(once)
        expect(carry({ factory: update, mine: once.text, update, format }).text).toBe(once.text)
      }),
      { numRuns: runs },
    )
  })

  it('both shapes read the same', () => {
    fc.assert(
      fc.property(versions, (given) => {
        const { factory, mine, update } = write(given, dialect)
        const theirs = carry({ factory, mine, update, format })
        const own = carry({ factory, mine, update, format }, { shape: 'mine' })
        const [first, second] = readAlikeOurs([own.text, theirs.text], format)
        expect(sorted(first), own.text).toEqual(sorted(second))
      }),
      { numRuns: runs },
    )
  })
})

/** A list of values both sides changed: what I put in is there, and as much of it. */
function isMerged(factory: unknown, mine: unknown, here: unknown): boolean {
  // one element of XML is no list by itself
  if (!Array.isArray(here) || (Array.isArray(factory) && !Array.isArray(mine) && typeof mine === 'object')) return false
  const count = (list: unknown, text: string): number =>
    (Array.isArray(list) ? (list as unknown[]) : list === undefined ? [] : [list]).filter(
      (item) => JSON.stringify(sorted(normal(item))) === text,
    ).length
  const texts = new Set((Array.isArray(mine) ? (mine as unknown[]) : [mine]).map((item) => JSON.stringify(sorted(normal(item)))))
  return [...texts].every((text) => count(here, text) >= Math.max(0, count(mine, text) - count(factory, text)))
}

/** Added sections that met others in the update are merged inside: then each part is there or named. */
function leafwise(result: CarryResult, data: unknown, path: string, mine: unknown): boolean {
  const isSection = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value)
  if (JSON.stringify(mine) === '{}' && isSection(lookup(data, path).value)) return true
  return leaves(mine, path).every(([at, value]) => {
    const here = lookup(data, at)
    // two lists of sections that were both added are one list with the items of both
    if (Array.isArray(value) && Array.isArray(here.value) && value.some(isSection))
      return value.every((item) =>
        (here.value as unknown[]).some((other) => JSON.stringify(sorted(other)) === JSON.stringify(sorted(normal(item)))),
      )
    return (
      (here.found && JSON.stringify(sorted(here.value)) === JSON.stringify(sorted(normal(value)))) ||
      about(result, at).some((item) => item.attention)
    )
  })
}

/** Keys in order, since the order of a section's keys has no meaning. */
function sorted(data: unknown): unknown {
  if (Array.isArray(data)) return data.map(sorted)
  if (typeof data !== 'object' || data === null) return data
  return Object.entries(data)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, value]) => [key, sorted(value)])
}
