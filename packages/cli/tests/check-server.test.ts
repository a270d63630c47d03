import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import Ajv from 'ajv'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { buildPack } from '../../standin/src/pack/build-pack'
import { main } from '../src/main'

const BUNDLES = 'packages/standin/demo/bundles'
const FAMILY = 'families/bundle.yml'
const schema = JSON.parse(
  readFileSync(createRequire(import.meta.url).resolve('schemastore/schemas/json/sarif-2.1.0.json'), 'utf8'),
) as object

interface Row {
  readonly file: string
  readonly line: number
  readonly severity: string
  readonly code: string
  readonly message: string
}

describe('pasticcio check of a whole server', () => {
  let folder: string
  const put = (path: string, text: string): void => {
    mkdirSync(dirname(join(folder, path)), { recursive: true })
    writeFileSync(join(folder, path), text)
  }
  const change = (path: string, from: string, to: string): void => put(path, readFileSync(join(folder, path), 'utf8').replace(from, to))
  async function run(...args: string[]): Promise<{ code: number; out: string; err: string }> {
    let out = ''
    let err = ''
    const code = await main(['check', folder, '--family', FAMILY, ...args], { out: (text) => (out += text), err: (text) => (err += text) })
    return { code, out, err }
  }
  const rows = async (): Promise<Row[]> => JSON.parse((await run('--json')).out) as Row[]

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pasticcio-check-'))
    for (const [from, to] of [
      ['ferrybook-1.0', 'ferrybook'],
      ['regatta-1.5', 'regatta'],
    ] as const)
      cpSync(join(BUNDLES, from), join(folder, 'bundles', to), { recursive: true })
    put('harbour.cfg', '# What is opened.\nset bundles on\nberth ferrybook\nberth regatta\n')
    put('registry/items.json', JSON.stringify(['glass_float', 'rope_coil', 'tin_bell'].map((id) => ({ id, category: 'rope' }))))
    put('profile/server.json', '{ "game": "7.1" }\n')
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  it('finds nothing wrong where nothing is', async () => {
    expect((await rows()).filter(({ severity }) => severity !== 'note')).toEqual([])
    expect((await run()).code).toBe(0)
  })

  it('finds mistakes across files, with their lines, and ends with 3 where one of them is an error', async () => {
    change('bundles/regatta/settings.lua', 'buoy = "glass_float"', 'buoy = "glassfloat"')
    expect((await run()).code).toBe(0)
    change('harbour.cfg', 'berth ferrybook\nberth regatta', 'berth regatta\nberth ferrybook')
    const told = (await rows()).filter(({ severity }) => severity !== 'note')
    expect(told.map(({ file, line, severity, code }) => `${file}:${line} ${severity} ${code}`)).toEqual([
      'bundles/regatta/settings.lua:10 warning unknown-id',
      'harbour.cfg:3 error registered-early',
    ])
    const { code, out } = await run()
    expect(code).toBe(3)
    expect(out).toMatch(/^harbour\.cfg:3:1: error: Regatta needs Ferrybook.*\(registered-early\)$/m)
  })

  it('says how far it is while many files are looked at in threads, and tells of them as one by one', async () => {
    change('bundles/regatta/settings.lua', 'buoy = "glass_float"', 'buoy = "glassfloat"')
    const text = readFileSync(join(folder, 'bundles/regatta/settings.lua'), 'utf8')
    for (let i = 0; i < 40; i++) {
      put(`bundles/copy${i}/bundle.lua`, `return { name = "Copy${i}", version = "1.0.0", game = "*" }`)
      put(`bundles/copy${i}/settings.lua`, text)
    }
    const said: string[] = []
    let out = ''
    const streams = { out: (more: string) => void (out += more), err: () => undefined, progress: (more: string) => void said.push(more) }
    await main(['check', folder, '--family', FAMILY, '--json'], streams)
    const wrong = (JSON.parse(out) as Row[]).filter(({ code }) => code === 'unknown-id').map(({ file, line }) => `${file}:${line}`)
    const expected = ['regatta', ...Array.from({ length: 40 }, (_, i) => `copy${i}`)].map((name) => `bundles/${name}/settings.lua:10`)
    expect(wrong.sort()).toEqual(expected.sort())
    expect(said.length).toBeGreaterThan(3)
    expect(said.at(-2)).toMatch(/^(\d+) of \1 files$/)
    expect(said.at(-1)).toBe('')
  })

  it('names what looks like a package and is none', async () => {
    put('bundles/lookouts/bundle.lua', 'return { version = "1.0.0" ')
    expect((await rows()).filter(({ code }) => code === 'bad-package')).toMatchObject([
      {
        file: 'bundles/lookouts/bundle.lua',
        line: 1,
        severity: 'warning',
        message: expect.stringContaining('describes no plugin') as unknown,
      },
    ])
  })

  it('takes what was shipped from a folder of packages', async () => {
    change('bundles/regatta/settings.lua', 'strength = 0.4', 'strenght = 0.4')
    expect((await rows()).map(({ code }) => code)).not.toContain('unknown-setting')
    const packages = mkdtempSync(join(tmpdir(), 'pasticcio-packages-'))
    rmSync(packages, { recursive: true })
    expect((await run('--packages', packages)).code).toBe(1)
  })

  it('takes what people say from a rule sheet, which can be an error', async () => {
    put('sheet.yml', 'plugin: Regatta\nversions: ">=1.5"\nfiles:\n  settings.lua:\n    - { path: /round/laps, max: 2 }\n')
    const sheet = join(folder, 'sheet.yml')
    const { code, out } = await run('--rules', sheet)
    expect(code).toBe(3)
    expect(out).toMatch(/^bundles\/regatta\/settings\.lua:\d+:\d+: error: “laps” is 3, and .* \(out-of-range\)$/m)
    put('sheet.yml', 'plugin: Regatta\nversions: ">=2"\nfiles:\n  settings.lua:\n    - { path: /round/laps, max: 2 }\n')
    expect((await run('--rules', sheet)).code).toBe(0)
    put('sheet.yml', 'plugin: Regatta\nfiles:\n  settings.lua:\n    - { path: laps }\n')
    expect(await run('--rules', sheet)).toMatchObject({
      code: 1,
      err: expect.stringContaining('sheet.yml line 4: rule 1 of settings.lua') as unknown,
    })
  })

  it('tells it as SARIF that fits its schema', async () => {
    change('harbour.cfg', 'berth ferrybook\n', 'berth ferrybok\n')
    change('bundles/regatta/settings.lua', 'seconds = 180,', 'seconds = 180')
    const { code, out } = await run('--sarif')
    expect(code).toBe(3)
    const log = JSON.parse(out) as { runs: { results: { ruleId: string; level: string; locations: unknown[] }[] }[] }
    const validate = new Ajv({ schemaId: 'auto', logger: false }).compile(schema)
    expect(validate(log), JSON.stringify(validate.errors)).toBe(true)
    expect(log.runs[0]!.results.map(({ ruleId }) => ruleId)).toEqual(expect.arrayContaining(['registered-nobody', 'missing-comma']))
    expect(JSON.stringify(log.runs[0]!.results[0]!.locations)).toContain('"startLine"')
  })

  it('says what it cannot take', async () => {
    const none = await main(['check', join(folder, 'nowhere'), '--family', FAMILY], { out: () => undefined, err: () => undefined })
    expect(none).toBe(1)
    put('wrong.yml', 'id: 5\n')
    let err = ''
    expect(
      await main(['check', folder, '--family', join(folder, 'wrong.yml')], { out: () => undefined, err: (text) => (err += text) }),
    ).toBe(1)
    expect(err).toContain('no description of a server family')
    expect(await main(['check', folder, '--family', FAMILY, '--sarif', '--json'], { out: () => undefined, err: () => undefined })).toBe(1)
  })
})

describe('pasticcio check of servers whose packages stay packed', () => {
  const PACKS = ['purse-1.8', 'hampers-2.4'] as const
  let folder: string
  const settings = (name: string): string => join(folder, 'extras', name, 'settings.yml')
  const check = async (...args: string[]): Promise<{ code: number; rows: Row[] }> => {
    let out = ''
    const code = await main(['check', ...args, '--family', 'families/archive.yml', '--json'], {
      out: (text) => (out += text),
      err: () => undefined,
    })
    return { code, rows: code === 1 ? [] : (JSON.parse(out) as Row[]) }
  }
  const wrong = async (...folders: string[]): Promise<string[]> =>
    (await check(...folders)).rows.filter(({ severity }) => severity !== 'note').map(({ file, line, code }) => `${file}:${line} ${code}`)

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pasticcio-packed-'))
    for (const pack of PACKS) {
      const home = join('packages/standin/demo', pack)
      const name = /^name: (.+)$/m.exec(readFileSync(join(home, 'pack.yml'), 'utf8'))![1]!
      mkdirSync(join(folder, 'extras'), { recursive: true })
      writeFileSync(join(folder, 'extras', `${name}.pack`), buildPack(home))
      cpSync(join(home, 'defaults'), join(folder, 'extras', name), { recursive: true })
    }
    writeFileSync(join(folder, 'brackwater.yml'), 'game-version: "7.2"\nport: 40100\nplaces: [delta, upriver, saltpans, undertow]\n')
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  it('holds settings against what the packages on the server ship', async () => {
    expect(await wrong(folder)).toEqual([])
    writeFileSync(
      settings('Purse'),
      readFileSync(settings('Purse'), 'utf8').replace('save-every: 120', 'save-every: 1').replace('debt:', 'dept:'),
    )
    writeFileSync(settings('Hampers'), readFileSync(settings('Hampers'), 'utf8').replace('places: [saltpans]', 'places: [saltpan]'))
    expect(await wrong(folder)).toEqual([
      'extras/Hampers/settings.yml:117 unknown-id',
      'extras/Purse/settings.yml:18 unknown-setting',
      'extras/Purse/settings.yml:20 out-of-range',
    ])
    expect((await check(folder)).code).toBe(0)
  })

  it('names what others need and is not there, and files nobody reads any more', async () => {
    rmSync(join(folder, 'extras/Purse.pack'))
    const { code, rows } = await check(folder)
    expect(code).toBe(3)
    expect(rows.map(({ file, severity, code: what }) => `${severity} ${file} ${what}`)).toEqual([
      'error extras/Hampers.pack needs-plugin',
      'note extras/Purse/settings.yml file-of-nobody',
      'note extras/Purse/texts.properties file-of-nobody',
    ])
  })

  it('takes several servers, whose files begin with their folders', async () => {
    const other = `${folder}-other`
    cpSync(folder, other, { recursive: true })
    rmSync(join(other, 'extras/Purse.pack'))
    expect(await wrong(folder, other)).toEqual([join(other, 'extras/Hampers.pack:1 needs-plugin')])
    rmSync(other, { recursive: true })
  })

  it('tells of what is no package, and of all else as if it were not there', async () => {
    writeFileSync(join(folder, 'extras/Broken.pack'), 'no archive')
    expect(await wrong(folder)).toEqual(['extras/Broken.pack:1 bad-package'])
  })
})
