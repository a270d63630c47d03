import { describe, expect, it } from 'vitest'
import { carry } from '../src/carry/carry'

/** What the corpus of cases (corpus/) cannot say in files alone. */
describe('carry', () => {
  it('an entry goes at the end of a file without final line end while another comes above it', () => {
    const input = { factory: 'a:\n  x: 1\nb: 2', mine: 'a:\n  x: 1\nb: 2', update: 'a:\n  x: 1\n  y: 2', format: 'yaml' as const }
    expect(carry({ ...input, mine: '# mine\na:\n  x: 1\nb: 2' }, { shape: 'mine' }).text).toBe('# mine\na:\n  x: 1\n  y: 2\n')
    expect(
      carry({ factory: 'a:\n  x: 1\nb: 2', mine: 'a:\n  x: 1\n  y: 2', update: 'a:\n  x: 1\nb: 2\n#', format: 'yaml' }).decisions.filter(
        (item) => item.attention,
      ),
    ).toEqual([])
  })

  it('shape mine keeps my text and brings the update’s changes into it', () => {
    const mine = '# my order\nb: 9\na: 1   # mine\n'
    const result = carry({ factory: 'a: 1\nb: 2\n', mine, update: 'a: 5\nb: 2\nc: 3\n', format: 'yaml' }, { shape: 'mine' })
    expect(result.text).toBe('# my order\nb: 9\na: 5   # mine\nc: 3\n')
  })
})
