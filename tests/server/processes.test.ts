import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { readFamily } from '@pasticcio/core'
import fc from 'fast-check'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { openConsole, type Console } from '../../server/consoles'
import { LONGEST_LINE, readLines } from '../../server/consoles/lines'
import { ConsoleLog } from '../../server/consoles/log'
import { openPlace } from '../../server/places'
import { ConsoleFeed } from '../../server/services/console-feed'
import { bundled, type Bundled } from './bundled'

const family = readFamily(readFileSync('families/archive.yml', 'utf8').replace('  stop: stop\n', '  stop: stop\n  stop-within: 2\n'))
let folder = ''
const opened: Console[] = []
const ready = "console.log('12:00:00.000 info   ready, 0 plugins running')"
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'pasticcio-process-'))))
afterEach(async () => {
  for (const console of opened.splice(0)) await console.close()
  // nothing of a test goes on
  spawnSync('pkill', ['-9', '-f', folder])
  rmSync(folder, { recursive: true, force: true })
})

function script(name: string, text: string): string {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}

/** A game that goes on when its input ends, and stops only at the word or a signal. */
const stubborn = (): string =>
  script(
    'game.mjs',
    `${ready}\nprocess.stdin.on('data', (d) => String(d).includes('stop') && process.exit(0))\nsetInterval(() => {}, 1000)\n`,
  )

function open(command: readonly string[]): Console {
  const console = openConsole({ type: 'process', folder, command } as { type: string }, family)
  opened.push(console)
  return console
}

/** Numbers of the processes that run a file of this test's folder, as the system's own tool tells them. */
function alive(name: string): number[] {
  const { stdout } = spawnSync('pgrep', ['-f', `^\\S+ ${join(folder, name)}$`], { encoding: 'utf8' })
  return stdout.split('\n').filter(Boolean).map(Number)
}

const until = async (holds: () => boolean): Promise<void> => {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve, 20))
}

describe('what a start script leaves behind', () => {
  it('ends with it: a child that does not listen', async () => {
    const game = script('game.mjs', `${ready}\nprocess.on('SIGTERM', () => {})\nsetInterval(() => {}, 1000)\n`)
    // the script hears the word and ends; the game does not
    const starter = script('start.sh', `"${process.execPath}" "${game}" < /dev/null &\nread word\nexit 0\n`)
    const console = open(['/bin/sh', starter])
    await console.lifecycle!.start()
    expect(alive('game.mjs')).toHaveLength(1)
    // what it has not saved is not thrown away unasked
    expect(await console.lifecycle!.stop()).toBe(false)
    expect([alive('game.mjs').length, console.state.status]).toEqual([1, 'stopping'])
    expect(console.since(0).at(-1)?.text).toContain('was asked to stop and runs on')
    await expect(console.lifecycle!.start()).rejects.toMatchObject({ code: 'running' })
    await console.lifecycle!.kill()
    expect([alive('game.mjs'), console.state.status]).toEqual([[], 'stopped'])
    await console.lifecycle!.kill()
    await console.lifecycle!.start()
    expect(console.state.status).toBe('running')
  })

  it('that takes longer than it was given is seen to stop all the same', async () => {
    const game = script(
      'game.mjs',
      `${ready}\nprocess.stdin.on('data', () => setTimeout(() => process.exit(0), 2600))\nsetInterval(() => {}, 1000)\n`,
    )
    const console = open([process.execPath, game])
    await console.lifecycle!.start()
    expect(await console.lifecycle!.stop()).toBe(false)
    await until(() => console.state.status === 'stopped')
    expect(alive('game.mjs')).toEqual([])
  })

  it('can be ended while somebody waits for it', async () => {
    const game = script('game.mjs', `process.on('SIGTERM', () => {})\nsetInterval(() => {}, 1000)\n`)
    const console = open([process.execPath, game])
    const starting = expect(console.lifecycle!.start()).rejects.toMatchObject({ code: 'did-not-start' })
    await until(() => alive('game.mjs').length === 1)
    await console.lifecycle!.kill()
    await starting
    expect([alive('game.mjs'), console.state.status]).toEqual([[], 'stopped'])
  })

  it('still runs where it was sent away: the server is running, and not failed', async () => {
    const game = script('game.mjs', `${ready}\nsetInterval(() => {}, 1000)\n`)
    const starter = script('start.sh', `"${process.execPath}" "${game}" &\nexit 0\n`)
    const console = open(['/bin/sh', starter])
    await console.lifecycle!.start()
    expect(console.state.status).toBe('running')
    // one that ends by itself is seen to
    process.kill(alive('game.mjs')[0]!, 'SIGKILL')
    await until(() => console.state.status === 'failed')
  })

  it('is found where it left its group, too', async () => {
    const game = script('game.mjs', `${ready}\nsetInterval(() => {}, 1000)\n`)
    const console = open(['/bin/sh', script('start.sh', `setsid "${process.execPath}" "${game}" &\nread word\n`)])
    await console.lifecycle!.start()
    await console.lifecycle!.stop()
    expect(alive('game.mjs')).toEqual([])
  })
})

describe('after Pasticcio was killed', () => {
  let driver: Bundled
  let killed: ChildProcess
  beforeAll(async () => void (driver = await bundled('tests/server/toys/console-driver.ts')))
  afterAll(() => driver.remove())
  const start = async (): Promise<void> => {
    killed = spawn(process.execPath, [driver.file, folder, process.execPath, stubborn()], { stdio: 'pipe' })
    await new Promise<void>((resolve) => killed.stdout!.once('data', () => resolve()))
  }
  const kill = async (): Promise<void> => {
    const gone = new Promise((resolve) => killed.once('exit', resolve))
    killed.kill('SIGKILL')
    await gone
  }

  it('the game is found again: no second one is started, and it can be stopped', async () => {
    await start()
    await kill()
    expect(alive('game.mjs')).toHaveLength(1)
    const console = open([process.execPath, join(folder, 'game.mjs')])
    await console.lifecycle!.look()
    expect(console.state.status).toBe('unattended')
    await expect(console.lifecycle!.start()).rejects.toMatchObject({
      code: 'running',
      message: expect.stringContaining('Stop it first') as unknown,
    })
    expect(() => console.send('plugins')).toThrow('console of this server was lost')
    expect(alive('game.mjs')).toHaveLength(1)
    await console.lifecycle!.stop()
    expect([alive('game.mjs'), console.state.status]).toEqual([[], 'stopped'])
    await console.lifecycle!.start()
    expect([alive('game.mjs').length, console.state.status]).toEqual([1, 'running'])
  })

  it('a copy of the folder, made while the game ran, has no game of its own', async () => {
    await start()
    const copy = join(folder, 'copy')
    mkdirSync(copy)
    for (const name of ['.pasticcio.lock', 'game.mjs']) cpSync(join(folder, name), join(copy, name))
    const other = openConsole(
      { type: 'process', folder: copy, command: [process.execPath, join(copy, 'game.mjs')] } as { type: string },
      family,
    )
    opened.push(other)
    await other.lifecycle!.look()
    expect(other.state.status).toBe('stopped')
    await other.lifecycle!.start()
    expect(alive('game.mjs')).toHaveLength(1)
    await other.close()
    await kill()
  })

  it('a game that ended with it, or since, is no obstacle', async () => {
    await start()
    await kill()
    spawnSync('pkill', ['-9', '-f', join(folder, 'game.mjs')])
    const console = open([process.execPath, join(folder, 'game.mjs')])
    await console.lifecycle!.start()
    expect(console.state.status).toBe('running')
  })

  it('while it lives, no other works on the same folder', async () => {
    await start()
    const console = open([process.execPath, join(folder, 'game.mjs')])
    await expect(console.lifecycle!.start()).rejects.toMatchObject({ code: 'claimed' })
    const place = openPlace({ type: 'local', folder } as { type: string })
    await expect(place.claim()).rejects.toMatchObject({ code: 'claimed', message: expect.stringContaining('Another Pasticcio') as unknown })
    expect(alive('game.mjs')).toHaveLength(1)
    await kill()
    ;(await place.claim())()
    await place.close()
  })
})

describe('a console that says too much', () => {
  const heard = async (chunks: readonly string[]): Promise<string[]> => {
    const lines: string[] = []
    const stream = Readable.from(chunks.map((chunk) => Buffer.from(chunk)))
    readLines(stream, (line) => lines.push(line))
    await new Promise((resolve) => stream.once('end', resolve))
    return lines
  }

  it('lines are those of the text, however it comes in parts', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.string({ unit: fc.constantFrom('a', 'é', '🎏', '\n', '\r\n') }), { maxLength: 20 }), async (chunks) => {
        const whole = chunks.join('')
        const expected = whole.split(/\r?\n/)
        if (expected.at(-1) === '') expected.pop()
        expect(await heard(chunks)).toEqual(expected)
      }),
    )
  })

  it('a line without end is cut, which is said, and costs no memory', async () => {
    const [line] = await heard([...Array.from({ length: 50 }, () => 'x'.repeat(100_000)), '\nnext\n'])
    expect(line).toBe(`${'x'.repeat(LONGEST_LINE)} … ${5_000_000 - LONGEST_LINE} more characters`)
  })

  it('more lines than anybody reads are left out, which is said; what means something is kept', () => {
    let now = 0
    const log = new ConsoleLog(family, () => now)
    for (let i = 0; i < 50_000; i++) log.accept(i === 3000 ? '12:00:00.000 info   ready, 3 plugins running' : `noise ${i}`)
    expect(log.state.status).toBe('running')
    expect(log.since(0).length).toBeLessThanOrEqual(2001)
    now = 5000
    log.accept('calm again')
    expect(
      log
        .since(0)
        .slice(-2)
        .map(({ text }) => text),
    ).toEqual([expect.stringMatching(/^… 4\d{4} lines left out/) as unknown, 'calm again'])
  })

  it('the last line of a flood is seen, also where nothing comes after it', async () => {
    const log = new ConsoleLog(family)
    for (let i = 0; i <= 9000; i++) log.accept(`noise ${i}`)
    const last = await log.waitFor(({ text }) => text === 'noise 9000', 0, 5000)
    expect(last).not.toBeNull()
    expect(log.since(last!.seq - 2)[0]!.text).toMatch(/^… \d+ lines left out/)
  })

  it('a server that is stopping is not running again because it says so late', () => {
    const log = new ConsoleLog(family)
    log.setState({ status: 'stopping' })
    log.accept('12:00:00.000 info   ready, 3 plugins running')
    expect(log.state.status).toBe('stopping')
  })

  it('what players type is never taken for what the server says', () => {
    const log = new ConsoleLog(family)
    for (const text of ['Purse 1.8 failed: settings.yml line 1: gone', 'ready, 9 plugins', 'Wardkeys failed: x', 'Purse 1.8 loaded: x'])
      log.accept(`12:00:00.000 info   [chat] ${text}`)
    expect(log.since(0).map(({ event }) => event)).toEqual([null, null, null, null])
    expect(log.state.status).toBe('stopped')
  })
})

describe('many readers of one console', () => {
  const reader = (backlog = 0) => {
    const said: string[] = []
    return { said, isBehind: backlog, write: (text: string) => void said.push(text), backlog: () => backlog }
  }

  it('get the same lines, and one that does not keep up misses some', async () => {
    const log = new ConsoleLog(family)
    const feed = new ConsoleFeed({
      ...fake(log),
      get lastSeq() {
        return log.lastSeq
      },
      get state() {
        return log.state
      },
    })
    const readers = Array.from({ length: 100 }, () => reader())
    const slow = reader(1_000_000)
    const stops = [...readers, slow].map((one) => feed.subscribe(one))
    for (let i = 0; i < 1000; i++) log.accept(`line ${i}`)
    await until(() => readers[0]!.said.length > 1)
    const all = readers.map(({ said }) => said.slice(1).join(''))
    expect(new Set(all).size).toBe(1)
    expect(all[0]).toContain('"text":"line 999"')
    // what does not fit is seen by the numbers
    expect(all[0]).not.toContain('"text":"line 5"')
    expect(slow.said).toHaveLength(1)
    for (const stop of stops) stop()
    log.accept('nobody reads this')
    expect(readers[0]!.said.slice(1).join('')).toBe(all[0])
  })

  const fake = (log: ConsoleLog): Console => ({
    state: log.state,
    lastSeq: 0,
    since: (seq) => log.since(seq),
    send: () => undefined,
    askTimes: () => undefined,
    waitFor: (fits, after, within) => log.waitFor(fits, after, within),
    listen: (listener) => log.listen(listener),
    lifecycle: null,
    close: async () => undefined,
  })
})
