import { readFileSync, readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { readCase, runCase, writeCase } from './corpus'

const folder = fileURLToPath(new URL('./corpus/', import.meta.url))
const cases = readdirSync(folder).filter((name) => name.endsWith('.md') && name !== 'README.md')

describe('the corpus of carrying forward', () => {
  it.each(cases)('%s', (name) => {
    const text = readFileSync(folder + name, 'utf8')
    const item = readCase(text)
    const { result, says } = runCase(item)
    expect(result).toEqual(item.result)
    expect(says).toEqual(item.says)
    // every case is written as the tool writes it, so that all read alike
    expect(writeCase(item)).toBe(text)
  })

  it('has a case for every row of the table', () => {
    expect(cases.length).toBeGreaterThan(40)
  })
})
