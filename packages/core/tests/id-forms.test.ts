import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formOf, isOfGame, writeId, writtenId, type IdForm } from '../src/rules/id-forms'
import { inferRules } from '../src/rules/infer'
import { parse } from '../src/formats/registry'

const LIST = new Set(['clay', 'fired_brick', 'eel', 'lands:net', 'tin_bell2'])
const id = fc.constantFrom(...LIST)
/** The ways authors write them, each by a function of its own. */
const WAYS: Readonly<Record<string, (id: string) => string>> = {
  listed: (one) => one,
  upper: (one) => one.toUpperCase(),
  prefixed: (one) => `game:${one.replace('lands:', '')}`,
  'prefixed in capitals': (one) => `game:${one.replace('lands:', '').toUpperCase()}`,
  bare: (one) => one.replace('lands:', ''),
}
const way = fc.constantFrom(...Object.values(WAYS))

describe('ids in other ways of writing', () => {
  it('stand for the one of the list that they were made of, and are written again as they were', () => {
    fc.assert(
      fc.property(id, way, (one, write) => {
        const found = writtenId(LIST, write(one))
        expect(found?.id).toBe(one)
        expect(writeId(one, found!.form)).toBe(write(one))
      }),
    )
  })

  it('tell the way from many: another id is written in it as its author would', () => {
    fc.assert(
      fc.property(fc.uniqueArray(id, { minLength: 2 }), way, id, (ids, write, other) => {
        const form = formOf(LIST, ids.map(write))
        // where nothing tells ways apart, another may be told
        if (form) expect(ids.map((one) => writeId(one, form))).toEqual(ids.map(write))
        if (form && new Set([...ids, other].map(write)).size > ids.length)
          expect(writtenId(LIST, writeId(other, form))?.id ?? other).toBe(other)
      }),
    )
  })

  it.each([['Clay'], ['fired-brick'], ['Fired_Brick'], ['cLAY'], ['clayx'], [''], [':'], ['clay:']])('%j is none', (text) => {
    expect(writtenId(LIST, text)).toBeNull()
  })

  it('are none where two of the list are the same but for what is before them', () => {
    const twins = new Set(['sea:net', 'river:net', 'eel'])
    expect(writtenId(twins, 'net')).toBeNull()
    expect(writtenId(twins, 'NET')).toBeNull()
    expect(writtenId(twins, 'sea:net')?.id).toBe('sea:net')
    expect(writtenId(twins, 'EEL')?.id).toBe('eel')
  })

  it.each<[texts: string[], strange: number, form: IdForm | null]>([
    [['CLAY', 'EEL'], 0, { isUpper: true, prefix: null }],
    [['CLAY', 'eel'], 0, null],
    [['CLAY', 'EEL', 'eel'], 1, { isUpper: true, prefix: null }],
    [['g:CLAY', 'g:EEL'], 0, { isUpper: true, prefix: 'g:' }],
    [['g:clay', 'h:eel'], 0, null],
    [['CLAY', 'WOOD'], 0, null],
    [['CLAY', 'EEL', 'WOOD'], 1, { isUpper: true, prefix: null }],
    [[], 0, null],
  ])('%j with %i strange ones', (texts, strange, form) => {
    expect(formOf(LIST, texts, strange)).toEqual(form)
  })

  it('tell what a setting is, but only of what is the game’s own', () => {
    const rules = inferRules(parse('goods: [CLAY, FIRED_BRICK]\nrate:\n  CLAY: 4\n  EEL: 1\nranks: [WARDEN, BAKER]\n', 'yaml'), {
      items: LIST,
      groups: new Set(['warden', 'baker']),
    })
    const of = (path: string): unknown =>
      rules.filter((rule) => rule.path === path).map(({ means, registry, keys }) => ({ means, registry, keys }))
    expect(of('/goods')).toMatchObject([{ means: 'id', registry: 'items' }])
    expect(of('/rate')).toMatchObject([{ keys: 'items' }])
    expect(rules.find(({ path }) => path === '/ranks')?.registry).toBeUndefined()
    expect(['items', 'groups', 'places', 'players'].filter(isOfGame)).toEqual(['items'])
  })
})
