import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { buildPack } from '../src/pack/build-pack'
import { ServerConsole } from '../src/server/console'
import { GameServer } from '../src/server/game-server'

const demo = join(dirname(fileURLToPath(import.meta.url)), '../demo')

describe('the simulated game server', () => {
  let folder: string
  let lines: string[]
  let time = 0
  let server: GameServer
  const settings = (): string => join(folder, 'extras/Hampers/settings.yml')

  function start(packs: readonly string[], game = '7.2'): void {
    mkdirSync(join(folder, 'extras'), { recursive: true })
    writeFileSync(
      join(folder, 'brackwater.yml'),
      `name: Test\ngame-version: "${game}"\ntick-rate: 20\nplaces: [delta]\nplayers: [isolde]\nbanner: "Night market"\nwelcome: "{player} steps off."\n`,
    )
    for (const name of packs) writeFileSync(join(folder, 'extras', `${name.split('-')[0]}.pack`), buildPack(join(demo, name)))
    lines = []
    server = new GameServer(
      folder,
      new ServerConsole(
        (line) => lines.push(line.slice(13)),
        () => new Date(0),
      ),
      () => 0.5,
      () => time,
    )
    server.start()
  }
  const say = (line: string): string[] => {
    const from = lines.length
    server.command(line)
    return lines.slice(from)
  }
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'standin-'))
    time = 0
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  it('loads in the order of requirements and writes settings that are not there', () => {
    start(['hampers-2.4', 'purse-1.8'])
    expect(lines.filter((line) => line.includes(' loaded'))).toEqual([
      'info  Purse 1.8.0 loaded: newcomers start with 250 marks',
      'info  Hampers 2.4.0 loaded: 4 hampers, pause 1.5 s',
    ])
    expect(lines).toContain('info  Hampers generated settings.yml')
  })

  it('says what is missing, and what does not fit the game', () => {
    start(['hampers-2.4'])
    expect(lines).toContain('error Hampers 2.4.0 failed: it needs Purse >=1.6, which is not running')
    start(['purse-1.8'], '9.0')
    expect(lines).toContain('error Purse 1.8.0 failed: it is for game >=7.0 <8, and this is 9.0')
  })

  it('keeps settings in memory until they are reloaded', () => {
    start(['hampers-2.4', 'purse-1.8'])
    writeFileSync(settings(), readFileSync(settings(), 'utf8').replace('price: 50', 'price: 10'))
    expect(say('as wenna hamper').join()).toContain('50 marks')
    say('reload Hampers')
    expect(say('as wenna hamper').join()).toContain('10 marks')
  })

  it.each([
    ['price: 50', 'price: soon', 'line 98: hampers.kilnkeeper.price must be a number, not "soon"'],
    ['loudness: 0.6', 'loudness: 6', 'line 32: claiming.loudness must be at most 1, not 6'],
    ['on-full: refuse', 'on-full: burn', 'line 35: claiming.on-full cannot be "burn"; it is one of refuse, drop, mail'],
    ['  ask-first: true', '  ask-first: [true', 'settings.yml line'],
  ])('%j made %j fails with its line', (from, to, words) => {
    start(['hampers-2.4', 'purse-1.8'])
    writeFileSync(settings(), readFileSync(settings(), 'utf8').replace(from, to))
    expect(say('reload Hampers').join()).toContain(words)
    expect(say('as wenna hamper').join()).toContain('Kilnkeeper')
  })

  it('charges, pauses, cools down, and asks for nodes', () => {
    start(['hampers-2.4', 'purse-1.8', 'wardkeys-5.0'])
    expect(say('as wenna hamper claim kilnkeeper').join('\n')).toContain('You have 200 marks left.')
    expect(say('as wenna hamper claim welcome').join()).toContain('Wait a moment')
    time = 5
    expect(say('as wenna hamper claim kilnkeeper').join()).toContain('is ready again in 12 h')
    expect(say('as wenna purse').join()).toContain('200 marks')
    expect(say('as wenna hamper').join()).not.toContain('Angler')
    say('grant wenna hampers.claim.angler')
    expect(say('as wenna hamper').join()).toContain('Angler')
    expect(say('as wenna banner')).toEqual(['reply wenna reads: Night market'])
  })

  it('keeps accounts and claims in files, and goes on with them when it is started again', () => {
    start(['hampers-2.4', 'purse-1.8'])
    say('purse give isolde 40')
    say('as isolde hamper claim kilnkeeper')
    const record = (path: string): string => readFileSync(join(folder, 'extras', path), 'utf8')
    // 250 to begin with, 40 more, and 50 for the hamper
    expect(record('Purse/accounts.yml')).toBe('accounts:\n  isolde: 240\n')
    expect(record('Hampers/claims.yml')).toMatch(/^"isolde\/kilnkeeper": \d+\n$/)
    start(['hampers-2.4', 'purse-1.8'])
    expect(say('as isolde purse').join(' ')).toContain('240 marks')
    // twelve hours until the next one, also over a restart
    expect(say('as isolde hamper claim kilnkeeper').join(' ')).toContain('is ready again in 12 h')
    expect(record('Purse/accounts.yml')).toBe('accounts:\n  isolde: 240\n')
  })

  it('stops when told, and answers to what it does not know', () => {
    start(['purse-1.8'])
    expect(say('dance').join()).toContain('there is no command dance')
    expect(server.command('stop')).toBe(false)
  })

  it('builds the same bytes from the same folder', () => {
    expect(Buffer.from(buildPack(join(demo, 'purse-1.8'))).equals(Buffer.from(buildPack(join(demo, 'purse-1.8'))))).toBe(true)
  })
})
