import { mkdirSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { attach, detach, sheetOf, takeSheet } from '../../server/services/rule-sheets'
import { dropRule, giveRule } from '../../server/services/rules'
import { viewFile } from '../../server/services/settings'
import { workspaceFor } from '../../server/services/workspace'
import { makeWorld, type World } from './world'

let world: World
let server: Server
const path = 'extras/Wardkeys/settings.yml'
beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
  mkdirSync(world.path('extras/Wardkeys'), { recursive: true })
  writeFileSync(world.path(path), 'ladder: [mudlark]\n')
})
afterEach(() => world.close())

describe('what people say settings are', () => {
  it('is kept, overrules what the author says, is checked, and taken back', async () => {
    const pointer = 'ladder'
    await giveRule(world.context, server, path, { path: `/${pointer}`, kind: 'number', min: 5 }, 'maren')
    const rule = { path: `/${pointer}`, kind: 'number', min: 5, source: 'yours' }
    expect((await viewFile(world.context, server, path)).rules).toEqual([rule])
    const { files } = await workspaceFor(world.context, server)
    expect(files.get(path)?.findings.some(({ message }) => message.includes(`“${pointer}” takes a number`))).toBe(true)
    await giveRule(world.context, server, path, { path: `/${pointer}`, kind: 'map' }, 'maren')
    expect((await viewFile(world.context, server, path)).rules).toHaveLength(1)
    await dropRule(world.context, server, path, `/${pointer}`, 'maren')
    expect((await viewFile(world.context, server, path)).rules).toEqual([])
    await expect(dropRule(world.context, server, path, `/${pointer}`, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })

  it.each([[{ path: 'x' }], [{ path: '/x', means: 'cheese' }], ['nothing']])('%j is no rule', async (data) => {
    await expect(giveRule(world.context, server, path, data, 'maren')).rejects.toMatchObject({ code: 'bad-input', status: 400 })
  })

  it('files of nobody have none', async () => {
    await expect(giveRule(world.context, server, 'start.sh', { path: '/x' }, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('stands before what the author declares in the package', async () => {
    writeFileSync(world.path('extras/Nightfair.pack'), world.pack('nightfair-1.3'))
    mkdirSync(world.path('extras/Nightfair'), { recursive: true })
    writeFileSync(world.path('extras/Nightfair/lanterns.json'), '{ "hanging": 50 }')
    server.inventory.forget()
    const lanterns = 'extras/Nightfair/lanterns.json'
    const { rules } = await viewFile(world.context, server, lanterns)
    expect(rules.find((rule) => rule.path === '/hanging')).toMatchObject({ source: 'declared', max: 40, wholeNumber: true })
    const { files } = await workspaceFor(world.context, server)
    expect(files.get(lanterns)?.findings.map(({ code }) => code)).toContain('out-of-range')
    await giveRule(world.context, server, lanterns, { path: '/hanging', max: 60 }, 'maren')
    expect((await workspaceFor(world.context, server)).files.get(lanterns)?.findings.map(({ code }) => code)).not.toContain('out-of-range')
    // what was kept of it in the pantry says so too
    await server.inventory.remember()
    expect((await viewFile(world.context, server, lanterns)).rules.map(({ source }) => source)).toContain('declared')
  })

  it('stand before a description that somebody attached, which stands before the file’s own words', async () => {
    const schema = { properties: { ladder: { type: 'array', maxItems: 0, title: 'The ladder' } } }
    const about = { path, name: 'wardkeys.schema.json', text: JSON.stringify(schema) }
    expect(await attach(world.context, server, about, 'maren')).toEqual({ rules: 1 })
    const codes = async () =>
      (await workspaceFor(world.context, server)).files.get(path)?.findings.map(({ code, severity }) => [code, severity])
    expect(await codes()).toContainEqual(['too-many-items', 'error'])
    const sheet = await sheetOf(world.context, server, 'Wardkeys')
    expect(sheet).toMatchObject({ rules: 0, descriptions: [{ path, name: 'wardkeys.schema.json', by: 'maren' }] })
    expect(sheet.text).not.toContain('ladder')
    await giveRule(world.context, server, path, { path: '/ladder', maxItems: 3 }, 'maren')
    expect((await codes())?.map(([code]) => code)).not.toContain('too-many-items')
    expect((await viewFile(world.context, server, path)).rules).toHaveLength(2)
    // the rule by hand is still there once the description is not
    await detach(world.context, server, path, 'maren')
    expect((await viewFile(world.context, server, path)).rules).toMatchObject([{ maxItems: 3, source: 'yours' }])
    await expect(detach(world.context, server, path, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })

  it.each([
    ['{ "properties": { "x": { "x-means": "cheese" } } }', 'Line 1 of a.json: the schema of /x: “means” must be one of'],
    ['rules:\n  - path: /a\n  - path: b\n', 'Line 3 of a.json: rule 2: “path” must be a JSON Pointer'],
    ['{\n  "properties": {\n', 'Line '],
    ['{}', 'says nothing of any setting'],
    ['ladder', 'says nothing of any setting'],
  ])('%j describes nothing, and is refused with its line', async (text, message) => {
    const refused = expect(attach(world.context, server, { path, name: 'a.json', text }, 'maren')).rejects
    await refused.toMatchObject({ code: 'bad-input', status: 400, message: expect.stringContaining(message) as unknown })
  })

  it('describes no files of nobody', async () => {
    const about = { path: 'start.sh', name: 'a.json', text: '[{ "path": "/x" }]' }
    await expect(attach(world.context, server, about, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('are kept as a sheet, taken in on another server, and refused for other versions', async () => {
    await giveRule(world.context, server, path, { path: '/ladder', maxItems: 4, says: 'No more than four.' }, 'maren')
    const { name, text, rules } = await sheetOf(world.context, server, 'Wardkeys')
    expect([name, rules]).toEqual(['Wardkeys-5.0.2.rules.yml', 1])
    await dropRule(world.context, server, path, '/ladder', 'maren')
    expect(await takeSheet(world.context, server, text, 'maren')).toEqual({ plugin: 'Wardkeys', rules: 1 })
    expect((await viewFile(world.context, server, path)).rules).toEqual([
      { path: '/ladder', maxItems: 4, says: 'No more than four.', source: 'yours' },
    ])
    const refused = (sheet: string) => expect(takeSheet(world.context, server, sheet, 'maren')).rejects
    await refused(text.replace('>=5.0.2', '<5')).toMatchObject({ code: 'does-not-fit' })
    await refused(text.replace('settings.yml', 'other.yml')).toMatchObject({ code: 'bad-input' })
    await refused(text.replace('"Wardkeys"', '"Nobody"')).toMatchObject({ code: 'not-found' })
    await refused('plugin: [').toMatchObject({ code: 'bad-input', message: expect.stringContaining('Line 1') as unknown })
  })
})
