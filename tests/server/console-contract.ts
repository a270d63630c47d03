import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { NOT_RUNNING, type Console, type NumberedLine, type ServerState } from '../../server/consoles'

export interface TriedConsole {
  readonly console: Console
  /** A line to send, and what the server is known to answer with. */
  readonly ask: string
  readonly answer: RegExp
  close(): void
}

const WITHIN = 10_000

/** The laws every console keeps. */
export function consoleContract(name: string, make: () => Promise<TriedConsole>): void {
  describe(`the console ${name}`, () => {
    let tried: TriedConsole
    let console: Console
    beforeEach(async () => {
      tried = await make()
      console = tried.console
    })
    afterEach(async () => {
      await console.close()
      tried.close()
    })
    const running = async (): Promise<void> => {
      if (console.lifecycle) await console.lifecycle.start()
      expect(console.state.status).toBe('running')
    }
    const answers = ({ text }: NumberedLine): boolean => tried.answer.test(text)

    it('numbers lines from 1 without gaps, and gives those after any', async () => {
      await running()
      const all = console.since(0)
      expect(all.map((line) => line.seq)).toEqual(all.map((_line, i) => i + 1))
      expect(console.lastSeq).toBe(all.length)
      expect(console.since(1)).toEqual(all.slice(1))
      expect(console.since(console.lastSeq)).toEqual([])
    })

    it('sends a line, and waits for what comes', async () => {
      await running()
      const from = console.lastSeq
      console.send(tried.ask)
      const line = await console.waitFor(answers, from, WITHIN)
      expect(line?.text).toMatch(tried.answer)
      // what came already is found as well
      expect(await console.waitFor(answers, from, WITHIN)).toEqual(line)
      expect(await console.waitFor(() => false, from, 20)).toBeNull()
    })

    it('sends one line and never two', async () => {
      await running()
      const from = console.lastSeq
      console.send(`${tried.ask}\n${tried.ask}`)
      console.send(tried.ask)
      await console.waitFor(answers, from, WITHIN)
      expect(console.since(from).filter((line) => line.text === tried.ask)).toEqual([])
    })

    it('is heard until one stops hearing', async () => {
      const lines: NumberedLine[] = []
      const states: ServerState[] = []
      const stop = console.listen({ line: (line) => lines.push(line), state: (state) => states.push(state) })
      await running()
      console.send(tried.ask)
      const answer = await console.waitFor(answers, 0, WITHIN)
      expect(lines).toContainEqual(answer)
      stop()
      const heard = lines.length
      console.send(tried.ask)
      await console.waitFor(answers, answer!.seq, WITHIN)
      expect(lines.length).toBe(heard)
      if (console.lifecycle) expect(states.map((state) => state.status)).toContain('running')
    })

    it('takes nothing once it is closed', async () => {
      await running()
      await console.close()
      expect(console.state.status).toBe('stopped')
      expect(() => console.send(tried.ask)).toThrow(expect.objectContaining({ code: 'not-running' }))
    })

    it('starts and stops where that is ours to do', async () => {
      const { lifecycle } = console
      if (!lifecycle) return
      expect(console.state).toEqual(NOT_RUNNING)
      expect(() => console.send(tried.ask)).toThrow(expect.objectContaining({ code: 'not-running' }))
      await lifecycle.stop()
      await lifecycle.start()
      await expect(lifecycle.start()).rejects.toMatchObject({ code: 'running' })
      await lifecycle.stop()
      expect(console.state.status).toBe('stopped')
      await lifecycle.start()
      expect(console.state.status).toBe('running')
    })
  })
}
