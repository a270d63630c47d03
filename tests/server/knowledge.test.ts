import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { unzipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { requireServer, type Server } from '../../server/services/context'
import { knowledgeFor, type ServerKnowledge } from '../../server/services/knowledge'
import { workspaceFor } from '../../server/services/workspace'
import { pngOf } from '../png'
import { draft, makeWorld, type World } from './world'

const GROUPS = 'extras/Wardkeys/settings.yml'

describe('what is known of a server beside its settings', () => {
  let world: World
  let server: Server
  const put = (path: string, text: string | Uint8Array): void => {
    mkdirSync(dirname(world.path(path)), { recursive: true })
    writeFileSync(world.path(path), text)
    server.inventory.forget()
  }
  async function known(): Promise<ServerKnowledge> {
    const drafts = new Map((await world.context.drafts.list(server.row.id)).map(({ path, sha }) => [path, sha]))
    return knowledgeFor(world.context, server, await server.inventory.plugins(), drafts)
  }

  beforeEach(async () => {
    world = await makeWorld()
    server = await requireServer(world.context, 'lantern-row')
    put(GROUPS, unzipSync(world.pack('wardkeys-5.0'))['defaults/settings.yml']!)
  })
  afterEach(() => world.close())

  it('is its lists, ports, commands, groups, and what its plugins declare', async () => {
    put('registry/items.json', '[{ "id": "clay", "category": "clay" }, { "id": "eel", "category": "water" }]')
    const { knowledge, lists } = await known()
    expect([...knowledge.lists['items']!]).toEqual(['clay', 'eel'])
    expect([...knowledge.lists['categories']!]).toEqual(['clay', 'water'])
    expect([...knowledge.lists['groups']!]).toEqual(['mudlark', 'ferryman', 'warden'])
    expect(knowledge.lists['sounds']).toBeUndefined()
    expect(lists['items']).toEqual([
      { id: 'clay', name: null, group: 'clay' },
      { id: 'eel', name: null, group: 'water' },
    ])
    expect(knowledge.ports).toEqual([{ name: 'game', port: 40100, file: 'brackwater.yml' }])
    expect(knowledge.commands!.has('say')).toBe(true)
    expect(knowledge.groups).toEqual({ file: GROUPS, at: '/groups' })
    expect(knowledge.plugins.map(({ name, isOff }) => [name, isOff])).toContainEqual(['Wardkeys', false])
    expect([...knowledge.filledIn.get('Wardkeys')!]).toEqual([])
  })

  it('is the same object as long as nothing is another, so that threads need not be told again', async () => {
    const first = await known()
    expect(await known()).toBe(first)
    put('registry/items.json', '[{ "id": "clay" }]')
    const second = await known()
    expect(second).not.toBe(first)
    expect(second.version).not.toBe(first.version)
    expect(await known()).toBe(second)
  })

  it('takes groups as the draft has them', async () => {
    await draft(world, GROUPS, (text) => text.replace('  ferryman:', '  boatman:'))
    expect([...(await known()).knowledge.lists['groups']!]).toContain('boatman')
  })

  it('has pictures with their sizes, also those that wait in the tray', async () => {
    put('extras/Wardkeys/gate.png', pngOf(64, 32))
    put('extras/Wardkeys/broken.png', 'no picture')
    const { knowledge } = await known()
    expect(knowledge.pictures.get('extras/Wardkeys/gate.png')).toEqual({ width: 64, height: 32 })
    expect(knowledge.pictures.has('extras/Wardkeys/broken.png')).toBe(false)
    expect(knowledge.paths!.has('extras/Wardkeys/broken.png')).toBe(true)
    const sha = await world.context.blobs.put(Buffer.from(pngOf(16, 16)))
    const { knowledge: staged } = await knowledgeFor(
      world.context,
      server,
      await server.inventory.plugins(),
      new Map([['extras/Wardkeys/gate.png', sha]]),
    )
    expect(staged.pictures.get('extras/Wardkeys/gate.png')).toEqual({ width: 16, height: 16 })
    put('extras/Wardkeys/gate.png', pngOf(8, 8))
    expect((await known()).knowledge.pictures.get('extras/Wardkeys/gate.png')).toEqual({ width: 8, height: 8 })
  })

  it('that cannot be read is not known, and keeps nothing back', async () => {
    put('registry/items.json', 'no json')
    put('brackwater.yml', Buffer.from('name: märz\nport: 1\n', 'latin1'))
    const { knowledge } = await known()
    expect(knowledge.lists['items']).toBeUndefined()
    expect(knowledge.ports).toEqual([])
    const { findings } = await workspaceFor(world.context, server)
    expect(findings.filter(({ severity }) => severity === 'error')).toEqual([])
  })

  it('follows what is put there and taken away', async () => {
    put('extras/Purse.pack', world.pack('purse-1.8'))
    put('extras/Errands.pack', world.pack('errands-1.0'))
    const before = (await known()).knowledge
    expect(before.plugins.map(({ name }) => name)).toEqual(expect.arrayContaining(['Errands', 'Purse']))
    expect(before.facts).toEqual([])
    rmSync(world.path('extras/Purse.pack'))
    server.inventory.forget()
    expect((await known()).knowledge.facts).toMatchObject([{ what: 'requires-missing', values: { plugin: 'Errands', needs: 'Purse' } }])
  })
})
