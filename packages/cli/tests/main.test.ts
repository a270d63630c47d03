import { chmodSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { main } from '../src/main'

describe('pasticcio', () => {
  let folder: string
  const at = (name: string): string => join(folder, name)
  const put = (name: string, text: string): string => {
    writeFileSync(at(name), text)
    return at(name)
  }
  const read = (name: string): string => readFileSync(at(name), 'utf8')
  async function run(...args: string[]): Promise<{ code: number; out: string; err: string }> {
    let out = ''
    let err = ''
    const code = await main(args, { out: (text) => (out += text), err: (text) => (err += text) })
    return { code, out, err }
  }
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pasticcio-cli-'))
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  it('carries one file, reports decisions, and says with its exit code whether something needs a look', async () => {
    const args = ['--factory', put('f.yml', 'a: 1\nb: 2\n'), '--mine', put('m.yml', 'a: 9\nb: 2\n')]
    expect(
      await run('carry', ...args, '--update', put('u.yml', '# new\na: 1\nb: 3\n'), '--out', at('r.yml'), '--report', at('r.json')),
    ).toMatchObject({ code: 0 })
    expect(read('r.yml')).toBe('# new\na: 9\nb: 3\n')
    const report = JSON.parse(read('r.json')) as { decisions: Record<string, unknown>[] }
    expect(
      report.decisions.map(({ path, outcome, attention, factory, mine, update, result }) => [
        path,
        outcome,
        attention,
        factory,
        mine,
        update,
        result,
      ]),
    ).toEqual([
      ['/a', 'kept-mine', false, 1, 9, 1, 9],
      ['/b', 'took-update', false, 2, 2, 3, 3],
    ])
    expect(await run('carry', ...args, '--update', put('u2.yml', 'a: 5\nb: 2\n'))).toMatchObject({
      code: 3,
      out: 'a: 9\nb: 2\n',
      err: expect.stringContaining('needs a look: /a: default-moved') as unknown,
    })
  })

  it('carries folders, and names files the update does not have', async () => {
    for (const name of ['f', 'm', 'u']) mkdirSync(at(name))
    put('f/a.yml', 'x: 1\n')
    put('m/a.yml', 'x: 2\n')
    put('u/a.yml', 'x: 1\ny: 1\n')
    put('f/gone.yml', 'z: 1\n')
    put('m/gone.yml', 'z: 5\n')
    const result = await run('carry', '--factory', at('f'), '--mine', at('m'), '--update', at('u'), '--out', at('r'))
    expect(result.code).toBe(3)
    expect(result.err).toContain('gone.yml')
    expect(read('r/a.yml')).toBe('x: 2\ny: 1\n')
  })

  it('lists what is mine', async () => {
    const args = ['layer', '--factory', put('f.yml', 'a: 1\nb: 2\n'), '--mine', put('m.yml', 'a: 9\n# ours\nc: 3\n')]
    expect((await run(...args)).out).toBe('/a: 1 → 9\n/c: added: 3\n/b: removed, was 2\n/c: own comment "# ours"\n')
    expect(JSON.parse((await run(...args, '--json')).out)).toHaveLength(4)
  })

  it('checks, strict for .json and relaxed where asked', async () => {
    const file = put('a.json', '{\n  // why\n  "a": 1,\n}\n')
    const strict = await run('check', file, '--json')
    expect(strict.code).toBe(3)
    expect(
      (JSON.parse(strict.out) as { line: number; column: number; severity: string; code: string; file: string }[]).map(({ line, code }) => [
        line,
        code,
      ]),
    ).toEqual([
      [2, 'comment-not-allowed'],
      [3, 'extra-comma'],
    ])
    expect(await run('check', file, '--relaxed-json')).toMatchObject({ code: 0, out: '' })
    expect(await run('check', put('b.jsonc', '{ "a": 1, }'))).toMatchObject({ code: 0 })
    const rules = put('rules.json', '[{ "path": "/price", "kind": "number", "min": 0 }]')
    expect((await run('check', put('p.yml', 'price: -1\n'), '--rules', rules)).out).toContain(':1:8: error:')
    const schema = put('schema.json', '{ "properties": { "price": { "type": "number", "minimum": 0 } } }')
    expect((await run('check', put('p.yml', 'price: -1\n'), '--rules', schema)).out).toContain(':1:8: error:')
  })

  it('sets one value and touches no other byte, nor mode, nor link', async () => {
    put('real.yml', "# top\r\na: 'x'   # why\r\nb: [1, 2]")
    chmodSync(at('real.yml'), 0o640)
    symlinkSync(at('real.yml'), at('link.yml'))
    expect(await run('set', at('link.yml'), '/a', 'it’s on')).toMatchObject({ code: 0 })
    expect(read('real.yml')).toBe("# top\r\na: 'it’s on'   # why\r\nb: [1, 2]")
    expect(statSync(at('real.yml')).mode & 0o777).toBe(0o640)
    expect(readdirSync(folder).sort()).toEqual(['link.yml', 'real.yml'])
    const before = statSync(at('real.yml')).mtimeMs
    expect((await run('set', at('real.yml'), '/b/0', '1')).err).toContain('already')
    expect(statSync(at('real.yml')).mtimeMs).toBe(before)
    await run('set', at('real.yml'), '/c', '1.50')
    expect(await run('get', at('real.yml'), '/c')).toMatchObject({ out: '1.50\n' })
  })

  it.each([
    [['get', 'no.yml', '/a'], 1],
    [['get', 'ok.yml', 'a'], 1],
    [['get', 'ok.yml', '/zz'], 1],
    [['get', 'ok.unknown', '/a'], 1],
    [['get', 'bad.yml', '/a'], 2],
    [['set', 'ok.yml', '/a/b', '1'], 1],
    [['carry', '--mine', 'x'], 1],
    [['nonsense'], 1],
    [['--help'], 0],
  ])('%j ends with %i', async (args, code) => {
    put('ok.yml', 'a: 1\n')
    put('ok.unknown', 'a: 1\n')
    put('bad.yml', 'a: "x\nb: 1\n')
    const result = await run(...args.map((word) => (/\.\w+$/.test(word) ? at(word) : word)))
    expect(result.code).toBe(code)
    if (code === 2) expect(result.err).toContain('bad.yml:1:4: The quote opened here')
  })
})
