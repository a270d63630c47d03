import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { buildApp, freePort, killed, makeBareWorld, startBare, until, type BareApp } from './app'

const MB = 1024 * 1024
const S = '/api/servers/lantern-row'

/** A game that prints 100 MB when it is told to, and a line that never ends. */
const GAME = `console.log('12:00:00.000 info   ready, 0 plugins running')
process.stdin.on('data', (part) => {
  if (String(part).startsWith('stop')) process.exit(0)
  if (String(part).startsWith('flood')) {
    let left = 1000
    const more = () => {
      if (left-- > 0) process.stdout.write(('12:00:00.000 info   ' + 'x'.repeat(80) + '\\n').repeat(1000), more)
      else console.log('12:00:00.000 info   the flood is over')
    }
    more()
  }
  if (String(part).startsWith('endless')) process.stdout.write('y'.repeat(50 * 1024 * 1024), () => console.log('\\n12:00:00.000 info   it ended'))
})
`

describe('what the application takes', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-bounds-'))
  const game = join(folder, 'game.mjs')
  let app: BareApp
  const start = async (env: Record<string, string> = {}): Promise<BareApp> => {
    const server = {
      slug: 'lantern-row',
      familyId: 'archive',
      folder: join(folder, 'servers/lantern-row'),
      command: [process.execPath, game],
      start: true,
    }
    return startBare(folder, await freePort(), { PASTICCIO_SERVER: JSON.stringify(server), ...env })
  }
  beforeAll(async () => {
    buildApp()
    makeBareWorld(folder)
    writeFileSync(game, GAME)
    app = await start()
    await until(async () => ((await app.call('/api/servers')).data as { status: string }[])[0]?.status === 'running')
  }, 240_000)
  afterAll(async () => {
    await killed(app.child)
    spawnSync('pkill', ['-9', '-f', game])
    rmSync(folder, { recursive: true, force: true })
  })
  /** What the process holds in memory, in MB. */
  const memory = (): number => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.child.pid}/status`, 'utf8'))![1]) / 1024
  const incoming = (): string[] => readdirSync(join(folder, 'data/incoming'))

  /** Sends bytes for as long as the other side takes them, without saying how many there will be. */
  function pour(path: string, method: string, megabytes: number, cookie: string): Promise<{ status: number; text: string; sent: number }> {
    return new Promise((resolve, reject) => {
      let sent = 0
      let over = false
      const request = httpRequest(app.origin + path, { method, headers: { cookie, 'content-type': 'application/json' } }, (response) => {
        let text = ''
        response.on('data', (part: Buffer) => (text += part.toString()))
        response.on('end', () => {
          over = true
          request.destroy()
          resolve({ status: response.statusCode ?? 0, text, sent })
        })
      })
      request.on('error', (error) => over || reject(error))
      const part = Buffer.alloc(256 * 1024, 32)
      const more = (): void => {
        while (!over && sent < megabytes * MB) {
          sent += part.length
          if (!request.write(part)) return void request.once('drain', more)
        }
        if (!over) request.end()
      }
      more()
    })
  }

  it.each([
    ['a sign-in of 600 MB, without a session', '/api/sign-in', 'POST', 600, false],
    ['a draft of 60 MB', `${S}/draft`, 'PUT', 60, true],
    ['a console line of 10 MB', `${S}/console`, 'POST', 10, true],
    ['a package of 90 MB', `${S}/pantry/upload?name=x.pack`, 'POST', 90, true],
  ] as const)('%s is refused while it comes, and held nowhere', async (_what, path, method, megabytes, signedIn) => {
    const before = memory()
    const { status, text } = await pour(path, method, megabytes, signedIn ? app.cookie() : '')
    expect([status, JSON.parse(text)]).toEqual([
      413,
      expect.objectContaining({ code: 'too-large', title: expect.stringMatching(/has more than \d+ [KM]B/) as unknown }),
    ])
    expect(memory() - before).toBeLessThan(100)
    await until(async () => incoming().length === 0)
    expect((await app.call('/api/me')).status).toBe(200)
  })

  it('a package that breaks off leaves nothing', async () => {
    await new Promise<void>((resolve) => {
      const request = httpRequest(`${app.origin}${S}/pantry/upload?name=x.pack`, { method: 'POST', headers: { cookie: app.cookie() } })
      request.on('error', () => resolve())
      request.write(Buffer.alloc(MB))
      void until(async () => incoming().length > 0).then(() => request.destroy())
    })
    await until(async () => incoming().length === 0)
  })

  it('a hundred readers and 100 MB on the console: bounded, with what was left out said', { timeout: 120_000 }, async () => {
    const stop = new AbortController()
    const heard: string[] = []
    const decoder = new TextDecoder()
    for (let i = 0; i < 100; i++)
      void fetch(`${app.origin}${S}/events`, { headers: { cookie: app.cookie() }, signal: stop.signal })
        .then(async (response) => {
          // half of them never read what comes
          if (i % 2 === 1) return
          for await (const part of response.body as unknown as AsyncIterable<Uint8Array>)
            if (i === 0) heard.push(decoder.decode(part, { stream: true }))
        })
        .catch(() => undefined)
    const before = memory()
    let slowest = 0
    for (const line of ['endless', 'flood']) {
      await app.call(`${S}/console`, 'POST', { line })
      const words = line === 'flood' ? 'the flood is over' : 'it ended'
      await until(async () => {
        const from = performance.now()
        await app.call('/api/me')
        slowest = Math.max(slowest, performance.now() - from)
        return heard.join('').includes(words)
      })
    }
    expect(memory() - before).toBeLessThan(250)
    // said in a word each, since what was heard is long
    const all = heard.join('')
    expect([/… \d+ lines left out/.test(all), /… \d+ more characters/.test(all), all.length < 5 * MB]).toEqual([true, true, true])
    process.stdout.write(
      `100 readers, 150 MB of console: ${(memory() - before).toFixed(0)} MB more memory, slowest other answer ${slowest.toFixed(0)} ms\n`,
    )
    stop.abort()
  })

  it('answers to its own names alone, where these are set', async () => {
    await killed(app.child)
    app = await start({ PASTICCIO_HOSTS: 'panel.example' })
    const ask = (host: string): Promise<number> =>
      new Promise((resolve) =>
        httpRequest(`${app.origin}/api/me`, { headers: { host } }, (response) => resolve(response.resume().statusCode ?? 0)).end(),
      )
    expect(await ask('panel.example')).toBe(401)
    expect(await ask('elsewhere.example')).toBe(403)
  })
})
