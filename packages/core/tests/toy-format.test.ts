import { afterAll, describe, expect, it } from 'vitest'
import { turnOff, turnOn } from '../src/formats/commented'
import { setValue } from '../src/formats/operations'
import { LENIENT } from '../src/formats/reading'
import { FORMAT_IDS, formatOf, parse, registerFormat, type FormatId } from '../src/formats/registry'
import { applyEdits } from '../src/text/edits'
import { carry } from '../src/carry/carry'
import { layer } from '../src/carry/layer'
import { checkRules } from '../src/rules/check'
import { inferRules } from '../src/rules/infer'
import { DIALECTS, type Dialect } from './dialects'
import { formatContract } from './format-contract'
import { toData } from './arbitraries'
import { arrowFormat } from './toys/arrow-format'

/* One folder, one line in the registry, one dialect: nothing else of the core knows this format. */
const forget = registerFormat(arrowFormat)
afterAll(forget)
const id = arrowFormat.id as string as FormatId

const properties = DIALECTS.find((dialect) => dialect.name === 'properties')!
const word = (value: unknown): string => String(value ?? '').replace(/[\r\n]/g, ' ')
const arrows: Dialect = {
  ...properties,
  name: 'arrows',
  format: id,
  nameOf: (key) => properties.nameOf(key).replace(/^%/, 'p') || 'empty',
  restrict: (section) => ({
    entries: properties.restrict(section).entries.flatMap((entry, i, all) => {
      const key = entry.key.replace(/^%/, 'p')
      return key === '' || all.findIndex((other) => other.key.replace(/^%/, 'p') === key) < i
        ? []
        : [{ ...entry, key, value: word(entry.value) }]
    }),
  }),
  restrictValue: (value) => word(properties.restrictValue(value)),
  render: (section, how) =>
    section.entries
      .flatMap((entry) => [
        ...(how.blankLines ? [''] : []),
        ...(how.comments && entry.comment ? [`% ${entry.comment}`] : []),
        `${entry.key} => ${String(toData(entry.value))}`,
      ])
      .join(how.eol) + how.eol,
  // a reading of the tests' own
  others: (text) => {
    const data = {}
    for (const line of text.split(/\r\n|\r|\n/)) {
      const at = line.indexOf(' => ')
      if (!line.startsWith('%') && at > 0)
        Object.defineProperty(data, line.slice(0, at), { value: line.slice(at + 4), enumerable: true, configurable: true, writable: true })
    }
    return [data]
  },
}

formatContract(arrows)

describe('a format that was only just registered', () => {
  const text = '% How many seconds, from 5 to 60.\npause => 30\n% fast => yes\n'

  it('is known by its ending, and not to the shipped list', () => {
    expect(formatOf('extras/Purse/words.arrow')).toBe('arrow')
    expect(FORMAT_IDS).not.toContain('arrow')
  })

  it('switches settings on and off', () => {
    const document = parse(text, id)
    expect(applyEdits(text, turnOn(document, [], 'fast'))).toContain('\nfast => yes\n')
    expect(applyEdits(text, turnOff(document, ['pause']))).toContain('\n% pause => 30\n')
  })

  it('has its rules inferred, its layer told, and is carried', () => {
    const mine = applyEdits(text, setValue(parse(text, id), ['pause'], '90'))
    const document = parse(mine, id, LENIENT)
    expect(checkRules(document, inferRules(parse(text, id))).map((finding) => finding.code)).toEqual(['out-of-range'])
    expect(layer(parse(text, id), document).map((item) => item.path)).toEqual(['/pause'])
    const update = text.replace('30', '40') + 'new => 1\n'
    expect(carry({ factory: text, mine, update, format: id }).text).toBe(update.replace('40', '90'))
  })

  it('cannot be registered twice', () => {
    expect(() => registerFormat(arrowFormat)).toThrow(RangeError)
  })
})
