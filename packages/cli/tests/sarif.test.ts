import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import Ajv from 'ajv'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CAUSES, type FindingCode, type Severity } from '@pasticcio/core'
import { sarifOf, type Row } from '../src/sarif'

const schema = JSON.parse(
  readFileSync(createRequire(import.meta.url).resolve('schemastore/schemas/json/sarif-2.1.0.json'), 'utf8'),
) as object
const validate = new Ajv({ schemaId: 'auto', logger: false }).compile(schema)

interface Log {
  readonly runs: readonly {
    readonly tool: { readonly driver: { readonly rules: readonly { readonly id: string }[] } }
    readonly results: readonly {
      readonly ruleId: string
      readonly ruleIndex: number
      readonly level: string
      readonly locations: readonly {
        readonly physicalLocation: { readonly artifactLocation: { readonly uri: string }; readonly region: { readonly startLine: number } }
      }[]
      readonly relatedLocations?: readonly unknown[]
    }[]
  }[]
}

const row: fc.Arbitrary<Row> = fc.record({
  file: fc.constantFrom('extras/Purse/settings.yml', "settings/Wardens' Desk.json", 'extras/ü 100%/a#b.yml', 'harbour.cfg'),
  line: fc.integer({ min: 1, max: 9999 }),
  column: fc.integer({ min: 1, max: 999 }),
  severity: fc.constantFrom<Severity>('error', 'warning', 'note'),
  code: fc.constantFrom(...(Object.keys(CAUSES) as FindingCode[])),
  message: fc.string({ minLength: 1, maxLength: 80 }),
  related: fc.array(
    fc.record({ file: fc.constant('extras/Other/settings.yml'), line: fc.integer({ min: 1, max: 99 }), why: fc.string({ minLength: 1 }) }),
    { maxLength: 2 },
  ),
})

describe('a SARIF log', () => {
  it('fits its schema, and says of each finding what and where', () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 12 }), (rows) => {
        const log = sarifOf(rows, '0.1.0') as Log
        expect(validate(JSON.parse(JSON.stringify(log))), JSON.stringify(validate.errors)).toBe(true)
        const [run] = log.runs
        const { rules } = run!.tool.driver
        expect(rules.map(({ id }) => id)).toEqual([...new Set(rows.map(({ code }) => code))].sort())
        run!.results.forEach((result, i) => {
          const { code, severity, file, line, related } = rows[i]!
          const { artifactLocation, region } = result.locations[0]!.physicalLocation
          expect([rules[result.ruleIndex]!.id, result.ruleId, result.level, region.startLine]).toEqual([code, code, severity, line])
          expect(decodeURIComponent(artifactLocation.uri)).toBe(file)
          expect(result.relatedLocations?.length ?? 0).toBe(related!.length)
        })
      }),
    )
  })
})
