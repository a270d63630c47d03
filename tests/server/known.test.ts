import { mkdirSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { knownOf } from '../../server/services/known'
import { registryOf } from '../../server/services/registries'
import { makeWorld, type World } from './world'

let world: World
let server: Server
beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
})
afterEach(() => world.close())

describe('what is known of a server', () => {
  it('are its own lists with their groups, and the names of sections', async () => {
    mkdirSync(world.path('registry'), { recursive: true })
    writeFileSync(world.path('registry/items.json'), '[{ "id": "reed", "category": "reed" }, { "id": 7 }, "clay", { "name": "none" }]')
    mkdirSync(world.path('extras/Wardkeys'), { recursive: true })
    writeFileSync(world.path('extras/Wardkeys/settings.yml'), 'groups:\n  mudlark: { weight: 1 }\n  warden: {}\n')
    const { registries } = await knownOf(world.context, server)
    expect(registries['items']).toEqual([
      { id: 'reed', name: null, group: 'reed' },
      { id: '7', name: null, group: null },
      { id: 'clay', name: null, group: null },
    ])
    expect(registries['groups']?.map(({ id }) => id)).toEqual(['mudlark', 'warden'])
    expect(registries['places']?.map(({ id }) => id)).toContain('delta')
    expect(await registryOf(server, 'items')).toEqual(['reed', '7', 'clay'])
  })

  it('are none where a list cannot be read, and the others are there', async () => {
    mkdirSync(world.path('registry/items.json'), { recursive: true })
    writeFileSync(world.path('registry/sounds.json'), '[{ "id": "bell", ')
    const known = await knownOf(world.context, server)
    expect(known.registries['items']).toEqual([])
    expect(known.registries['places']?.length).toBeGreaterThan(0)
  })

  it('are the ports that settings name, as drafts have them, and what texts are made of', async () => {
    const { packages } = world.context
    expect(packages).toBeDefined()
    const known = await knownOf(world.context, server)
    expect(known.texts).toMatchObject({ placeholder: ['{', '}'], lineBreak: '[br]', codes: '\\[/?[a-z]*\\]' })
    expect(known.texts.marks).toContainEqual({ code: '[b]', bold: true })
    expect(known.nodes.every(({ id, plugin }) => id !== '' && plugin !== '')).toBe(true)
  })
})
