import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { BARE_SECRET, buildApp, freePort, killed, makeBareWorld, startBare, until, type BareApp } from './app'

/** By hand more of them: KILLS=500. */
const ROUNDS = Number(process.env['KILLS'] ?? 15)
const FILES = ['one.yml', 'two.yml', 'three.yml']

/** A game that takes reloads, goes on when its input ends, and stops at the word or a signal. */
const GAME = `import { appendFileSync } from 'node:fs'
console.log('12:00:00.000 info   ready, 1 plugins running')
let rest = ''
process.stdin.on('data', (part) => {
  for (const line of (rest + part).split('\\n')) {
    if (line === 'stop') process.exit(0)
    if (line === 'reload Purse') console.log('12:00:00.000 info   Purse 1.8.0 reloaded: as it should be')
    // what is said of players is noted before it is answered
    if (line.startsWith('rank ')) {
      appendFileSync('said.txt', line + '\\n')
      setTimeout(() => console.log('12:00:00.000 reply  rank: done'), 10)
    }
  }
  rest = ''
})
process.stdout.on('error', () => undefined)
setInterval(() => undefined, 1000)
`

describe('the application, killed again and again while it writes', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-kills-'))
  const home = join(folder, 'servers/lantern-row')
  const game = join(folder, 'game.mjs')
  const extras = join(home, 'extras/Purse')
  let port = 0
  let app: BareApp
  const call: BareApp['call'] = (...all) => app.call(...all)
  const S = '/api/servers/lantern-row'
  const start = async (cookie = ''): Promise<void> => {
    const server = { slug: 'lantern-row', familyId: 'archive', folder: home, command: [process.execPath, game], start: true }
    app = await startBare(folder, port, { PASTICCIO_SERVER: JSON.stringify(server) }, cookie)
    // what was interrupted is settled, and the server is up in one way or the other
    await until(async () => !((await call(`${S}/history`)).data as { status: string }[]).some(({ status }) => status === 'running'))
    await until(async () => ['running', 'unattended'].includes(await status()))
  }
  const status = async (): Promise<string> => ((await call('/api/servers')).data as { status: string }[])[0]!.status
  const kill = (): Promise<void> => killed(app.child)
  const games = (): number =>
    spawnSync('pgrep', ['-f', `^\\S+ ${game}$`], { encoding: 'utf8' })
      .stdout.split('\n')
      .filter(Boolean).length
  const values = (): number[] => FILES.map((name) => Number(/value: (\d+)/.exec(readFileSync(join(extras, name), 'utf8'))?.[1] ?? -1))

  beforeAll(async () => {
    buildApp()
    makeBareWorld(folder)
    cpSync(join(folder, 'site/purse-1.8.pack'), join(home, 'extras/Purse.pack'))
    mkdirSync(extras, { recursive: true })
    for (const name of FILES) writeFileSync(join(extras, name), 'value: 0\n')
    writeFileSync(game, GAME)
    port = await freePort()
    await start()
  }, 240_000)
  afterAll(async () => {
    await kill()
    spawnSync('pkill', ['-9', '-f', game])
    rmSync(folder, { recursive: true, force: true })
  })

  it(`${ROUNDS} times: old files or new ones, the tray as it should be, and one game at most`, { timeout: 3_600_000 }, async () => {
    const ends = { old: 0, new: 0, taken: 0 }
    for (let round = 1; round <= ROUNDS; round++) {
      const [before] = values()
      await call(`${S}/tray`, 'DELETE')
      for (const name of FILES) {
        const view = (await call(`${S}/file?path=extras/Purse/${name}`)).data as { sha: string }
        const draft = { path: `extras/Purse/${name}`, text: `value: ${before! + 1}\n`, baseSha: view.sha, draftSha: null }
        expect((await call(`${S}/draft`, 'PUT', draft)).status).toBe(200)
      }
      const drafts = ((await call(`${S}/tray`)).data as { path: string; sha: string }[]).map(({ path, sha }) => ({ path, sha }))
      expect(drafts).toHaveLength(FILES.length)
      const applying = call(`${S}/tray/apply`, 'POST', { drafts }).catch(() => null)
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 120))
      await kill()
      await applying
      expect(games()).toBeLessThanOrEqual(1)
      await start(app.cookie())
      expect(games()).toBe(1)
      const now = values()
      expect(new Set(now).size, now.join()).toBe(1)
      expect([before, before! + 1]).toContain(now[0])
      const end = now[0] === before ? 'old' : 'new'
      ends[end]++
      expect(((await call(`${S}/tray`)).data as unknown[]).length, `round ${round}: ${end}`).toBe(end === 'old' ? FILES.length : 0)
      expect(readdirSync(extras).filter((name) => name.endsWith('.tmp'))).toEqual([])
      // now and then the game is taken over, by stopping and starting it
      if (round % 3 === 0 && (await status()) === 'unattended') {
        await call(`${S}/control`, 'POST', { action: 'stop' })
        expect(games()).toBe(0)
        expect((await call(`${S}/control`, 'POST', { action: 'start' })).status).toBe(200)
        ends.taken++
      }
      expect(games()).toBe(1)
    }
    process.stdout.write(
      `killed ${ROUNDS} times over HTTP: ${ends.old} old, ${ends.new} new, 0 mixed; one game each time, taken over ${ends.taken} times\n`,
    )
  })

  it('while it says twelve commands: what was not said is in the tray, and what left it was said', { timeout: 600_000 }, async () => {
    const rounds = Math.ceil(ROUNDS / 3)
    const said = (): string[] => (existsSync(join(home, 'said.txt')) ? readFileSync(join(home, 'said.txt'), 'utf8').split('\n') : [])
    const waiting = async (): Promise<{ id: number; command: string }[]> =>
      (await call(`${S}/tray/commands`)).data as { id: number; command: string }[]
    const ends: number[] = []
    for (let round = 1; round <= rounds; round++) {
      if ((await status()) !== 'running') {
        await call(`${S}/control`, 'POST', { action: 'stop' })
        expect((await call(`${S}/control`, 'POST', { action: 'start' })).status).toBe(200)
        await until(async () => (await status()) === 'running')
      }
      await call(`${S}/tray`, 'DELETE')
      for (let i = 0; i < 12; i++) {
        const change = { player: `p${round}-${i}`, what: 'node', name: 'ferry.bell', word: 'granted', term: null }
        expect((await call(`${S}/permissions/player`, 'PUT', change)).status).toBe(200)
      }
      const before = await waiting()
      expect(before).toHaveLength(12)
      const applying = call(`${S}/tray/apply`, 'POST', { drafts: [], commands: before.map(({ id }) => id) }).catch(() => null)
      await new Promise((resolve) => setTimeout(resolve, 20 + Math.random() * 200))
      await kill()
      await applying
      await start(app.cookie())
      const open = new Set((await waiting()).map(({ command }) => command))
      const lines = said()
      for (const { command } of before) expect(open.has(command) || lines.includes(command), command).toBe(true)
      ends.push(12 - open.size)
    }
    process.stdout.write(`killed ${rounds} times while it said twelve commands: ${ends.join(', ')} had left the tray, all of them said\n`)
    await call(`${S}/tray`, 'DELETE')
  })

  it('a second application on the same data folder is refused', async () => {
    const second = spawnSync(process.execPath, ['.output/server/index.mjs'], {
      encoding: 'utf8',
      timeout: 20_000,
      env: { PATH: process.env['PATH'], NITRO_PORT: '0', PASTICCIO_DATA: join(folder, 'data'), PASTICCIO_SECRET: BARE_SECRET },
    })
    expect(second.status).toBe(1)
    expect(second.stderr).toContain('another Pasticcio works on')
    expect(existsSync(join(folder, 'data/lock'))).toBe(true)
    expect((await call('/api/me')).status).toBe(200)
  })
})
