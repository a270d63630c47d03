import { afterEach, describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE, type LookedFile, type WorkspaceInput } from '@pasticcio/core'
import { CheckEnded, Checkers } from '@pasticcio/check'
import { UNSAID } from '../../packages/core/src/formats/reading'

/** A thread that answers with the length of each text, and that some texts end. */
const PROGRAM = `
const { parentPort } = require('node:worker_threads')
parentPort.on('message', ({ kind, id, files }) => {
  if (kind !== 'files') return
  if (files.some(({ text }) => text.includes('dies'))) process.exit(1)
  if (files.some(({ text }) => text.includes('throws'))) return parentPort.postMessage({ id, error: 'it threw' })
  parentPort.postMessage({ id, looked: files.map(({ text }) => ({ lines: text.length })) })
})
`
const input = (text: string, i: number): WorkspaceInput => ({ path: `${i}.yml`, plugin: 'A', text, factory: null, reading: UNSAID })

describe('threads that check files', () => {
  const checkers = new Checkers(async () => PROGRAM)
  afterEach(() => checkers.close())

  async function look(
    texts: readonly string[],
    goesOn = (): boolean => true,
  ): Promise<{ lines: Record<string, number>; failed: string[] }> {
    const lines: Record<string, number> = {}
    const failed: string[] = []
    await checkers.look(texts.map(input), NO_KNOWLEDGE, {
      done(files, looked) {
        files.forEach(({ path }, i) => (lines[path] = (looked[i] as LookedFile).lines))
        return goesOn()
      },
      failed: ({ path }) => void failed.push(path),
    })
    return { lines, failed }
  }
  const texts = Array.from({ length: 60 }, (_, i) => 'x'.repeat(i + 1))

  it('answer for each file, in whichever order they come', async () => {
    const { lines, failed } = await look(texts)
    expect(lines).toEqual(Object.fromEntries(texts.map((text, i) => [`${i}.yml`, text.length])))
    expect(failed).toEqual([])
  })

  it.each(['dies', 'throws'])('lose nothing but the one that %s', async (word) => {
    const { lines, failed } = await look(texts.map((text, i) => (i === 17 || i === 40 ? word : text)))
    expect(failed.sort()).toEqual(['17.yml', '40.yml'])
    expect(Object.keys(lines)).toHaveLength(58)
    // and are there for the next who asks
    expect(Object.keys((await look(texts)).lines)).toHaveLength(60)
  })

  it('stop where nobody wants to know any more', async () => {
    await expect(look(texts, () => false)).rejects.toThrow(CheckEnded)
  })
})
