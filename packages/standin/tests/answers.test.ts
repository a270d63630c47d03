import { cpSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import fc from 'fast-check'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { drawn } from '../src/behaviours/answers'
import { changed } from '../src/demo/changed'
import { readPack } from '../src/pack/read-pack'
import { ServerConsole } from '../src/server/console'
import { GameServer } from '../src/server/game-server'
import { offersIn } from '../src/site/offers'

const standin = join(dirname(fileURLToPath(import.meta.url)), '..')

describe('the demo as it is lived in', () => {
  let world: string
  let folder: string
  let lines: string[]
  let server: GameServer
  beforeAll(() => {
    world = mkdtempSync(join(tmpdir(), 'standin-demo-'))
    execFileSync(process.execPath, [join(standin, 'dist/demo.mjs'), world])
  })
  afterAll(() => rmSync(world, { recursive: true, force: true }))
  /** The packages at the site that are for this server. */
  const packs = (): string[] => readdirSync(join(world, 'site')).filter((name) => name.endsWith('.pack'))
  beforeEach(() => {
    folder = mkdtempSync(join(world, 'copy-'))
    cpSync(join(world, 'servers/lantern-row'), folder, { recursive: true })
    lines = []
    server = new GameServer(
      folder,
      new ServerConsole(
        (line) => lines.push(line.slice(13)),
        () => new Date(0),
      ),
      () => 0.99,
      () => 0,
    )
  })
  const say = (line: string): string[] => {
    const from = lines.length
    server.command(line)
    return lines.slice(from).map((text) => text.replace(/^reply wenna reads: /, ''))
  }

  it('runs eight plugins, with nothing to complain of', () => {
    server.start()
    expect(lines.at(-1)).toBe('info  ready, 8 plugins running')
    expect(lines.filter((line) => /^(error|warn)|generated/.test(line))).toEqual([])
  })

  it.each([
    [
      'stall',
      [
        'Night market on the Row',
        "fishwife: The fishwife's barrow, 5 goods",
        'ropewalk: The rope walk, 6 goods',
        "hives: Wenna's hives, 4 goods",
      ],
    ],
    ['stall hives', ["You stand at Wenna's hives. It sells honeycomb, beeswax, candle, mead."]],
    ['stall lamps', ['The lamp wright is not open to you yet.']],
    ['stall nowhere', ['There is no stall called nowhere.']],
    ['dig low-bank', ['You dig at The low bank and find eel.']],
    ['dig nowhere', ['Nobody digs at nowhere.']],
    ['banner', ['The Lantern Row', 'Night market tonight'].map((text, i) => (i === 0 ? text : `reply ${text}`))],
    ['board', ['The Lantern Row', 'wenna', '', 'Purse: 3520 marks', 'Rank: reedcutter', '', 'Tide: low']],
    ['tideclear', ['The next clearing is within 15 min.', '4 kinds are kept: ferry_token, permit, ledger_book, tin_bell.']],
    ['bars', ['tide: The flood comes in low in water', 'market: Night market at the row in amber']],
  ])('answers %s from its settings', (command, expected) => {
    server.start()
    expect(say(`as wenna ${command}`)).toEqual(expected)
  })

  it('does as its settings say after a reload, and is paid', () => {
    server.start()
    server.command('grant wenna stallholder.stall.lamps')
    expect(say('as wenna stall lamps')[0]).toContain('You stand at The lamp wright')
    expect(say('as wenna purse')).toEqual(['Your purse holds 3515 marks.'])
    const path = join(folder, 'extras/Stallholder/settings.yml')
    writeFileSync(path, readFileSync(path, 'utf8').replace('fee: 5', 'fee: 9000').replace('title: "Night', 'title: "Late night'))
    expect(say('as wenna stall')[0]).toBe('Night market on the Row')
    server.command('reload Stallholder')
    expect(say('as wenna stall')[0]).toBe('Late night market on the Row')
    expect(say('as wenna stall lamps')).toEqual(['To come in at The lamp wright costs 9000, and you have 3515 marks.'])
  })

  it('names the line of a value it cannot use', () => {
    const path = join(folder, 'extras/Clayworks/settings.yml')
    const text = readFileSync(path, 'utf8').replace('digs: 120', 'digs: many')
    writeFileSync(path, text)
    server.start()
    const line = text.split('\n').findIndex((item) => item.includes('digs: many')) + 1
    expect(lines).toContain(`error Clayworks 1.2.0 failed: settings.yml line ${line}: pits.weir.digs must be a number, not "many"`)
  })

  it('has two versions at least of every plugin at the site, of all families, and others that fit', () => {
    const offers = offersIn(join(world, 'site')) as { name: string; version: string; family: string }[]
    const names = [...new Set(offers.map(({ name }) => name))]
    for (const name of names) {
      const versions = offers.filter((offer) => offer.name === name).map(({ version }) => version)
      expect([name, new Set(versions).size >= 2]).toEqual([name, true])
    }
    const there = readdirSync(join(folder, 'extras')).map((name) => name.replace('.pack', ''))
    const others = names.filter(
      (name) => !there.includes(name) && offers.some((offer) => offer.name === name && offer.family === 'archive'),
    )
    expect(others.sort()).toEqual(['BackwaterBridge', 'BackwaterGate', 'Errands', 'Moorings', 'Nightfair', 'Wharfside'])
    expect([...new Set(offers.map(({ family }) => family))].sort()).toEqual(['archive', 'bundle', 'script'])
    expect(names).toHaveLength(22)
  })

  it('takes away what lies about at its minutes, after it said so', () => {
    server.start()
    expect(say('clock 1200').filter((line) => line.includes('[chat]'))).toEqual([
      'info  [chat] The tide clears the banks in a minute.',
      'info  [chat] 10 seconds until the tide.',
      'info  [chat] The tide took 40 things.',
    ])
  })

  it('writes its settings anew at each start, where it is one that does', () => {
    server.start()
    writeFileSync(join(folder, 'extras/Errands.pack'), readFileSync(join(world, 'site/errands-1.1.pack')))
    server.command('load Errands')
    expect(readFileSync(join(folder, 'extras/Errands/settings.yml'), 'utf8')).toContain('\nconfig-version: 2\n')
  })

  it('ships settings that general readers read, in every version', () => {
    for (const name of packs())
      for (const [file, text] of readPack(join(world, 'site', name)).defaults)
        if (file.endsWith('.yml')) expect(parse(text), `${name} ${file}`).toBeTypeOf('object')
  })
})

it('makes a change only where its place is the only one', () => {
  expect(changed('a', 'x: 1\ny: 1\n', [{ from: 'y: 1', to: 'y: $&2' }])).toBe('x: 1\ny: $&2\n')
  expect(() => changed('a', 'x: 1\ny: 1\n', [{ from: ': 1', to: ': 2' }])).toThrow('a holds “: 1” 2 times')
  expect(() => changed('a', 'x: 1\n', [{ from: 'z', to: 'y' }])).toThrow('0 times')
})

it('draws by weight', () => {
  expect(drawn({ a: 0, b: 0 }, 0.5)).toBe('nothing')
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 5 }), (weights) => {
      const total = weights.reduce((sum, weight) => sum + weight, 0)
      fc.pre(total > 0)
      const names = Object.fromEntries(weights.map((weight, i) => [`item${i}`, weight]))
      const hits = Array.from({ length: total }, (_, i) => drawn(names, (i + 0.5) / total))
      expect(weights.map((_, i) => hits.filter((hit) => hit === `item${i}`).length)).toEqual(weights)
    }),
  )
})
