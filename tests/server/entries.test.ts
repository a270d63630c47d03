import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse as parseYaml } from 'yaml'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { saveDraft } from '../../server/services/drafts'
import { copyEntry, groupsOf, referencesTo } from '../../server/services/entries'
import { viewFile } from '../../server/services/settings'
import { OtherServer, standin } from './other-server'
import { addPackage, installOne, makeWorld, type World } from './world'

let world: World
let server: Server
const hampers = 'extras/Hampers/settings.yml'
const nodes = 'extras/Wardkeys/settings.yml'
const json = 'extras/Nightfair/lanterns.json'
const entriesOf = (text: string): Record<string, { icon: string }> =>
  (parseYaml(text) as { hampers: Record<string, { icon: string }> }).hampers
const install = async (name: string): Promise<void> =>
  void (await installOne(
    world.context,
    server,
    (await addPackage(world.context, server, world.pack(name), `${name}.pack`, 'test', 'maren')).id,
    'maren',
  ))
async function stage(path: string, change: (text: string) => string): Promise<void> {
  const { text, sha, draft } = await viewFile(world.context, server, path)
  const base = draft ? { baseSha: draft.baseSha, draftSha: draft.sha } : { baseSha: sha, draftSha: null }
  await saveDraft(world.context, server, { path, text: change(draft?.text ?? text), ...base }, 'maren')
}
const draftOf = async (path: string): Promise<string> => (await viewFile(world.context, server, path)).draft?.text ?? ''

beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
  await install('hampers-2.4')
})
afterEach(() => world.close())

describe('what refers to an entry of a file', () => {
  it('is told with files and lines, as drafts have them', async () => {
    const [name] = Object.keys(entriesOf(world.read(hampers)))
    await stage(nodes, (text) => text.replace(/nodes:\n/, `nodes:\n      - hampers.claim.${name}\n`))
    const told = await referencesTo(world.context, server, hampers, `/hampers/${name}`)
    expect(told.name).toBe(name)
    const line = (await draftOf(nodes)).split('\n').findIndex((one) => one.includes(`hampers.claim.${name}`)) + 1
    expect(told.references).toContainEqual(
      expect.objectContaining({ file: nodes, plugin: 'Wardkeys', line, text: `hampers.claim.${name}`, isSure: true, what: 'value' }),
    )
  })

  it('is not told of what is not there', async () => {
    await expect(referencesTo(world.context, server, hampers, '/hampers/nobody')).rejects.toMatchObject({
      code: 'not-found',
      status: 404,
    })
    await expect(referencesTo(world.context, server, 'nowhere.yml', '/x')).rejects.toMatchObject({ status: 404 })
    await expect(referencesTo(world.context, server, hampers, 'hampers')).rejects.toMatchObject({ status: 400 })
  })
})

describe('an entry copied into another file', () => {
  const from = (pointer: string) => ({ server, path: hampers, pointer })
  it('of another format is in its draft, and what does not fit is told', async () => {
    await install('nightfair-1.3')
    await stage(json, (text) => text.replace('"enabled"', '"hampers": {},\n  "enabled"'))
    const [name, entry] = Object.entries(entriesOf(world.read(hampers)))[0]!
    const before = world.read(json)
    expect(await groupsOf(world.context, server, json)).toContainEqual({ pointer: '/hampers', size: 0, kind: 'section' })
    const to = { server, path: json, group: '/hampers', name: 'copied' }
    const options = { isTrial: false, account: 'maren' }
    const trial = await copyEntry(world.context, from(`/hampers/${name}`), to, { ...options, isTrial: true })
    expect(await draftOf(json)).not.toContain('copied')
    expect(await copyEntry(world.context, from(`/hampers/${name}`), to, options)).toEqual(trial)
    const { hampers: there } = JSON.parse(await draftOf(json)) as { hampers: Record<string, object> }
    const expected = JSON.parse(JSON.stringify(entry).replaceAll(`.${name}`, '.copied')) as object
    expect(Object.keys(there['copied']!)).toEqual(Object.keys(expected))
    expect(there['copied']).toMatchObject({ icon: entry.icon })
    expect(world.read(json)).toBe(before)
    await expect(copyEntry(world.context, from(`/hampers/${name}`), to, options)).rejects.toMatchObject({ code: 'name-taken', status: 409 })
  })

  it('to a server whose game has other items names those that it has not', async () => {
    const other = new OtherServer()
    const there = await other.open(world, 'night-market', 'script', standin())
    await other.put({ packages: await other.add('satchels-1.3.tide', 'Satchels.tide'), switchOn: true })
    mkdirSync(join(other.home, 'settings'), { recursive: true })
    writeFileSync(join(other.home, 'settings/Satchels.json'), '{ "announce": true }\n')
    const [name, { icon }] = Object.entries(entriesOf(world.read(hampers)))[0]!
    for (const [at, ids] of [
      [world.path('registry'), [icon, 'reed']],
      [join(other.home, 'registry'), ['reed']],
    ] as const) {
      mkdirSync(at, { recursive: true })
      writeFileSync(join(at, 'items.json'), JSON.stringify(ids))
    }
    const to = { server: there, path: 'settings/Satchels.json', group: '', name: 'from-afar' }
    const { misfits } = await copyEntry(world.context, from(`/hampers/${name}`), to, { isTrial: false, account: 'maren' })
    expect(misfits).toContainEqual({ what: 'unknown-id', setting: '/icon', says: `the other server has no ${icon} in its items` })
    const draft = (await viewFile(world.context, there, 'settings/Satchels.json')).draft!.text
    expect((JSON.parse(draft) as Record<string, { icon: string }>)['from-afar']!.icon).toBe(icon)
  })
})
