import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkWorkspace, workspaceFile, workspaceOf, type OtherVersions } from '../src/checks'
import { UNSAID } from '../src/formats/reading'

const NAMES = ['aviary', 'bellows', 'cormorant', 'dovecote', 'ember', 'fathom', 'gudgeon'] as const
/** A file with settings of some names, of kinds of their own, so that it is no group that people add to. */
const fileOf = (names: readonly string[]): string =>
  `shop:\n  open: true\n  title: Reeds\n${names.map((name, i) => `  ${name}: ${i % 2 === 0 ? i : `text ${i}`}\n`).join('')}`

function messages(text: string, factory: string, others?: OtherVersions): string[] {
  const file = workspaceFile({ path: 'A/a.yml', plugin: 'A', text, factory, reading: UNSAID, ...(others ? { others } : {}) })
  return checkWorkspace(workspaceOf([file]))
    .filter(({ code }) => code === 'unknown-setting')
    .map(({ message }) => message)
}

describe('a setting that the installed version does not ship', () => {
  it('is said to have been dropped, or to come later, by the versions that have it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.subarray([...NAMES]), { minLength: 2, maxLength: 6 }),
        fc.nat(),
        fc.constantFrom(...NAMES),
        (history, at, name) => {
          const here = at % history.length
          const versions = history
            .map((names, i) => ({ version: `${i + 1}.0`, isNewer: i > here, text: fileOf(names) }))
            .filter((_one, i) => i !== here)
          const has = history.map((names) => names.includes(name))
          fc.pre(!has[here])
          const factory = fileOf(history[here]!)
          const [message, ...more] = messages(`${factory}  ${name}: 1\n`, factory, { installed: `${here + 1}.0`, versions })
          expect(more).toEqual([])
          // told from the history itself: the last of the older ones that has it, else the first of the newer ones
          const last = has.lastIndexOf(true, here)
          const next = has.indexOf(true, here)
          if (last >= 0) expect(message).toBe(`“${name}” was dropped in ${last + 2}.0; ${last + 1}.0 was the last to read it. Take it out.`)
          else if (next >= 0) expect(message).toContain(`“${name}” comes with ${next + 1}.0; ${here + 1}.0, which is installed`)
          else expect(message).toContain('ships no setting')
        },
      ),
    )
  })

  it('is named also where it is a section, and where another name is meant', () => {
    const factory = 'shop:\n  open: true\n  title: x\n  bellows: 1\n'
    const older = { version: '1.0', isNewer: false, text: `${factory}  belows: 2\n  tax: { share: 1, to: town }\n` }
    const others = { installed: '2.0', versions: [older] }
    const without = factory.replace('bellows', 'belows')
    expect(messages(without, factory, others)).toEqual(['“belows” was dropped in 2.0; 1.0 was the last to read it. Did you mean bellows?'])
    const section = `${factory}  tax: { share: 1, to: town }\n`
    expect(messages(section, factory, others)).toEqual(['“tax” was dropped in 2.0; 1.0 was the last to read it. Take it out.'])
    expect(messages(section, factory)).toEqual([])
  })

  it('is no finding where people add entries of their own', () => {
    const factory = 'stalls:\n  a: { rows: 1, price: 2 }\n  b: { rows: 2, price: 3 }\n'
    const mine = `${factory}  c: { rows: 1, price: 4 }\n`
    const others = { installed: '2.0', versions: [{ version: '1.0', isNewer: false, text: mine }] }
    expect(messages(mine, factory, others)).toEqual([])
  })
})
