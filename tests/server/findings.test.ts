import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { unzipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { requireServer, type Server } from '../../server/services/context'
import { endCheck, findingsOf, progressOf, setAside, takeUp, type ShownFinding } from '../../server/services/findings'
import { giveRule } from '../../server/services/rules'
import { applyTray, listTray } from '../../server/services/tray'
import { viewFile } from '../../server/services/settings'
import { workspaceFor } from '../../server/services/workspace'
import { addPackage, draft, makeWorld, type World } from './world'

const GROUPS = 'extras/Wardkeys/settings.yml'

describe('findings of a server', () => {
  let world: World
  let server: Server
  const put = (path: string, text: string | Buffer): void => {
    mkdirSync(dirname(world.path(path)), { recursive: true })
    writeFileSync(world.path(path), text)
  }
  const found = async (): Promise<readonly ShownFinding[]> => (await findingsOf(world.context, server)).findings
  const codes = async (): Promise<string[]> => (await found()).map(({ file, line, code }) => `${file}:${line} ${code}`)

  beforeEach(async () => {
    world = await makeWorld()
    server = await requireServer(world.context, 'lantern-row')
    put(GROUPS, Buffer.from(unzipSync(world.pack('wardkeys-5.0'))['defaults/settings.yml']!))
    put('registry/items.json', JSON.stringify([{ id: 'clay' }, { id: 'fired_brick' }]))
    server.inventory.forget()
  })
  afterEach(() => world.close())

  it('are told with their line, what stands there, and the plugin', async () => {
    const { findings, files, ms } = await findingsOf(world.context, server)
    expect(findings.filter(({ severity }) => severity === 'error')).toEqual([])
    expect(files).toBeGreaterThan(0)
    expect(ms).toBeGreaterThanOrEqual(0)
    await draft(world, GROUPS, (text) => text.replace('group: mudlark', 'group: mudlarks'))
    const [finding] = (await found()).filter(({ code }) => code === 'unknown-group')
    expect(finding).toMatchObject({
      plugin: 'Wardkeys',
      severity: 'error',
      excerpt: { text: 'group: mudlarks', from: 7, to: 15 },
      fix: { label: 'mudlark' },
      aside: null,
    })
  })

  it('say of a setting that the installed version does not read which version in the pantry does', async () => {
    put('extras/Hampers.pack', world.pack('hampers-3.0'))
    const shipped = Buffer.from(unzipSync(world.pack('hampers-3.0'))['defaults/settings.yml']!).toString()
    const path = 'extras/Hampers/settings.yml'
    put(path, shipped.replace('  keep-for: 10', '  pause: 2\n  keep-for: 10'))
    server.inventory.forget()
    const told = async () =>
      (await found()).filter((one) => one.code === 'unknown-setting' && one.file === path).map(({ message }) => message)
    expect(await told()).toEqual([expect.stringContaining('The plugin ships no setting “pause” here.')])
    await addPackage(world.context, server, world.pack('hampers-2.4'), 'hampers-2.4.pack', 'test', 'maren')
    expect(await told()).toEqual(['“pause” was dropped in 3.0.0; 2.4.0 was the last to read it. Take it out.'])
    const { others } = await viewFile(world.context, server, path)
    expect(others).toMatchObject({ installed: '3.0.0', versions: [{ version: '2.4.0', isNewer: false }] })
  })

  it('hold the tray where they are errors, and are let through by their code, which the record keeps', async () => {
    await draft(world, GROUPS, (text) => text.replace('inherits: [mudlark]', 'inherits: [wardens]'))
    const [file] = await listTray(world.context, server)
    expect(file!.held).toEqual([{ code: 'unknown-group', count: 1 }])
    const reviewed = [{ path: file!.path, sha: file!.sha }]
    await expect(applyTray(world.context, server, reviewed, 'maren')).rejects.toMatchObject({
      code: 'has-errors',
      message: expect.stringMatching(/^Line \d+ of .*wardens.*overrule “unknown-group”/) as unknown,
    })
    await expect(applyTray(world.context, server, reviewed, 'maren', [{ code: 'odd-amount', reason: 'no' }])).rejects.toMatchObject({
      code: 'has-errors',
    })
    await applyTray(world.context, server, reviewed, 'maren', [{ code: 'unknown-group', reason: 'It is made tomorrow.' }])
    const record = (await world.context.db('record').select()) as unknown
    expect(JSON.stringify(record)).toContain('unknown-group: It is made tomorrow.')
  })

  it('that are set aside hold nothing while their value stays', async () => {
    await draft(world, GROUPS, (text) => text.replace('inherits: [mudlark]', 'inherits: [wardens]'))
    const [finding] = (await found()).filter(({ code }) => code === 'unknown-group')
    await setAside(world.context, server, finding!.subject, 'It is made tomorrow.', 'maren')
    expect((await found()).find(({ subject }) => subject === finding!.subject)!.aside).toMatchObject({
      reason: 'It is made tomorrow.',
      by: 'maren',
    })
    expect((await listTray(world.context, server))[0]!.held).toEqual([])
    // a line more above it does not make it another
    await draft(world, GROUPS, (text) => `# more\n${text}`)
    expect((await found()).find(({ code }) => code === 'unknown-group')!.aside).not.toBeNull()
    await draft(world, GROUPS, (text) => text.replace('[wardens]', '[wardenz]'))
    expect((await found()).find(({ code }) => code === 'unknown-group')!.aside).toBeNull()
    await expect(setAside(world.context, server, 'nothing', 'x', 'maren')).rejects.toMatchObject({ code: 'not-found' })
    await takeUp(world.context, server, finding!.subject, 'maren')
    await expect(takeUp(world.context, server, finding!.subject, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('follow what somebody says a setting is', async () => {
    expect(await codes()).not.toContainEqual(expect.stringContaining('unknown-id'))
    await draft(world, GROUPS, (before) => before + 'token: fired_brik\n')
    await giveRule(world.context, server, GROUPS, { path: '/token', means: 'id', registry: 'items' }, 'maren')
    const hit = (await found()).find(({ code }) => code === 'unknown-id')
    expect(hit).toMatchObject({ severity: 'error', fix: { label: 'fired_brick' } })
    expect(hit!.excerpt!.text).toBe('token: fired_brik')
  })

  it('name packages in the wrong folder, files of nobody, and files that are no text', async () => {
    put('extras/Fireworks/settings.yml', 'rockets: 12\n')
    put('extras/Wardkeys/Stray.pack', 'no archive')
    put('extras/Wardkeys/latin.yml', Buffer.from('one: märk\n', 'latin1'))
    server.inventory.forget()
    const told = await codes()
    expect(told).toEqual(
      expect.arrayContaining([
        'extras/Fireworks/settings.yml:1 file-of-nobody',
        'extras/Wardkeys/Stray.pack:1 misplaced-package',
        'extras/Wardkeys/latin.yml:1 not-utf8',
      ]),
    )
    rmSync(world.path('extras/Wardkeys/Stray.pack'))
    expect(existsSync(world.path('extras/Wardkeys/Stray.pack'))).toBe(false)
    expect((await codes()).join()).not.toContain('misplaced-package')
  })

  it('never tell what a secret is', async () => {
    put('extras/Wardkeys/other.yml', 'gate: { password: hunter2-very-secret, id: 77000000000000012 }\nid: 77000000000000012\n')
    server.inventory.forget()
    const shown = JSON.stringify(await found())
    expect(shown).toContain('"text":"id: 77000000000000012"')
    expect(shown).toContain('gate: { password: ••••••••')
    expect(shown).not.toContain('hunter2')
  })

  it('of many files are looked for in threads, with how far it is, and can be ended', async () => {
    for (let i = 0; i < 120; i++) put(`extras/Wardkeys/many/${i}.yml`, `# From 1 to 9.\nport: ${42_000 + (i % 100)}\nname: n${i}\n`)
    server.inventory.forget()
    expect(progressOf(server)).toBeNull()
    const whole = workspaceFor(world.context, server)
    await expect.poll(() => progressOf(server)?.total ?? 0, { interval: 1 }).toBeGreaterThan(100)
    expect(endCheck(server)).toBe(true)
    await expect(whole).rejects.toMatchObject({ code: 'ended' })
    expect(endCheck(server)).toBe(false)
    const told = await found()
    expect(told.filter(({ code }) => code === 'port-twice')).toHaveLength(40)
  })
})
