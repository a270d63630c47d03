import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { PermissionBook } from '@pasticcio/core'
import type { Server } from '../../server/services/context'
import { startServer } from '../../server/services/control'
import { askRights, permissionsOf } from '../../server/services/permissions'
import { draft, makeWorld, type World } from './world'

const GROUPS = 'extras/Wardkeys/settings.yml'

describe('who may do what on a server', () => {
  let world: World
  let server: Server
  const put = (at: string, text: string): void => {
    mkdirSync(dirname(world.path(at)), { recursive: true })
    writeFileSync(world.path(at), text)
    server.inventory.forget()
  }
  beforeEach(async () => {
    world = await makeWorld()
    server = await world.server()
    put(GROUPS, readFileSync('packages/standin/demo/wardkeys-5.0/defaults/settings.yml', 'utf8'))
    put(
      'extras/Wardkeys/players.yml',
      'players:\n  "77004418209365501": { name: maren, groups: [warden] }\n  "77004418209365544": { name: jory, groups: [mudlark], nodes: [-hampers.claim] }\n',
    )
  })
  afterEach(() => world.close())

  it('is read from the files of its permission plugin, with lines, players and operators', async () => {
    const told = await permissionsOf(world.context, server)
    expect(told).toMatchObject({ file: GROUPS, plugin: 'Wardkeys', standing: null, canAsk: true, findings: [] })
    expect(told.permissions.groups.map(({ name, weight }) => [name, weight])).toEqual([
      ['mudlark', 10],
      ['ferryman', 20],
      ['warden', 90],
    ])
    expect(told.permissions).toMatchObject({ everybody: 'mudlark', wins: 'nearest' })
    expect(told.permissions.ladder.map(({ name }) => name)).toEqual(['mudlark', 'ferryman', 'warden'])
    expect(told.permissions.players.map(({ name, isOperator }) => [name, isOperator])).toEqual([
      ['maren', true],
      ['jory', false],
    ])
    const text = readFileSync(world.path(GROUPS), 'utf8')
    for (const { grants } of told.permissions.groups)
      for (const { node, pointer } of grants) expect(text.split('\n')[told.lines[pointer]! - 1]).toContain(node)
    expect(told.nodes.find(({ node }) => node === 'wardkeys.admin')).toMatchObject({
      says: 'Change ranks',
      isDeclared: true,
      isStaff: true,
    })
    // given to a group, and of a plugin that is not here
    expect(told.nodes.find(({ node }) => node === 'hampers.claim')).toMatchObject({ isDeclared: false, plugin: '' })
    const book = new PermissionBook(told.permissions, told.nodes)
    expect([book.may({ player: 'jory' }, 'hampers.claim'), book.may({ player: 'jory' }, 'purse.look')]).toEqual([false, true])
  })

  it('as the draft has it, beside what stands on the server', async () => {
    await draft(world, GROUPS, (text) => text.replace('      - purse.look\n', '      - purse.look\n      - wardkeys.admin\n'))
    const { permissions, standing, nodes, findings } = await permissionsOf(world.context, server)
    const [after, before] = [permissions, standing!].map((one) => new PermissionBook(one, nodes))
    expect([before!.may({ group: 'mudlark' }, 'wardkeys.admin'), after!.may({ group: 'mudlark' }, 'wardkeys.admin')]).toEqual([false, true])
    expect(findings.map(({ code }) => code)).toEqual(['staff-node-for-all'])
  })

  it('names the settings that ask for a node', async () => {
    const pack = world.pack('clayworks-1.2')
    put('extras/Clayworks.pack', '')
    writeFileSync(world.path('extras/Clayworks.pack'), pack)
    const settings = readFileSync('packages/standin/demo/clayworks-1.2/defaults/settings.yml', 'utf8')
    put('extras/Clayworks/settings.yml', settings)
    const { nodes } = await permissionsOf(world.context, server)
    expect(nodes.find(({ node }) => node === 'clayworks.dig.kiln')).toMatchObject({
      says: 'Dig in the kiln pit',
      asked: [
        {
          plugin: 'Clayworks',
          file: 'extras/Clayworks/settings.yml',
          pointer: '/pits/kiln/node',
          line: settings.slice(0, settings.indexOf('node: clayworks.dig.kiln')).split('\n').length,
          only: [],
        },
      ],
    })
  })

  it('names what asks for no node, and for whom or where it is by lists of its own', async () => {
    put('extras/Hampers.pack', '')
    writeFileSync(world.path('extras/Hampers.pack'), world.pack('hampers-2.4'))
    const settings = readFileSync('packages/standin/demo/hampers-2.4/defaults/settings.yml', 'utf8')
    put('extras/Hampers/settings.yml', settings.replace('    places: [undertow]', '    places: [undertow]\n    players: [nessa, talan]'))
    const { open, nodes } = await permissionsOf(world.context, server)
    const lineOf = (text: string): number => settings.slice(0, settings.indexOf(text)).split('\n').length
    expect(open.map(({ pointer, only }) => [pointer, only.map(({ kind, names }) => `${kind} ${names.join(' ')}`)])).toEqual([
      ['/hampers/welcome/node', []],
      ['/hampers/kilnkeeper/node', ['places delta upriver']],
      ['/hampers/mudlark/node', ['places undertow', 'players nessa talan']],
    ])
    expect(nodes.find(({ node }) => node === 'hampers.claim.angler')!.asked[0]!.only).toEqual([
      { kind: 'places', names: ['saltpans'], pointer: '/hampers/angler/places', line: lineOf('    places: [saltpans]') },
    ])
  })

  it('is nobody’s where no plugin keeps groups', async () => {
    put(GROUPS, '')
    expect((await permissionsOf(world.context, server)).permissions.groups).toEqual([])
  })
})

describe('the running server', () => {
  it('is asked what a player may, and answers as its files say; one that does not run is not', async () => {
    const world = await makeWorld()
    try {
      const server = await world.server()
      await expect(askRights(server, 'nessa')).rejects.toMatchObject({ code: 'server-stopped' })
      await startServer(world.context, server)
      const { permissions, nodes } = await permissionsOf(world.context, server)
      const book = new PermissionBook(permissions, nodes)
      for (const player of ['nessa', 'maren']) {
        const told = await askRights(server, player)
        const declared = nodes.filter(({ isDeclared }) => isDeclared).map(({ node }) => node)
        expect([player, ...told]).toEqual([player, ...declared.filter((node) => player === 'maren' || book.may({ player }, node))])
      }
    } finally {
      await world.close()
    }
  })
})
