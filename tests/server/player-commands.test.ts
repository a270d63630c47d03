import { readFileSync, writeFileSync } from 'node:fs'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { PermissionBook, type PlayerChange } from '@pasticcio/core'
import type { Server } from '../../server/services/context'
import { startServer, stopServer } from '../../server/services/control'
import { applyDetail } from '../../server/services/history'
import { askRights, permissionsOf } from '../../server/services/permissions'
import { discardCommand, stagePlayerChange } from '../../server/services/player-changes'
import { settle } from '../../server/services/recovery'
import { applyTray, discardDrafts, listTray } from '../../server/services/tray'
import { undoApply } from '../../server/services/undo'
import { draft, makeWorld, type World } from './world'

const PLAYERS = 'extras/Wardkeys/players.yml'
const GROUPS = 'extras/Wardkeys/settings.yml'
const ISOLDE = '77004418209365512'
const change = (name: string, word: PlayerChange['word'], more: Partial<PlayerChange> = {}): PlayerChange => ({
  player: ISOLDE,
  what: 'node',
  name,
  word,
  term: null,
  ...more,
})

describe('what is one player’s alone', () => {
  let world: World
  let server: Server
  const stage = (one: PlayerChange) => stagePlayerChange(world.context, server, one, 'maren')
  const record = (): Record<string, { groups?: string[]; nodes?: unknown[] }> =>
    (parse(readFileSync(world.path(PLAYERS), 'utf8')) as { players: Record<string, { groups?: string[]; nodes?: unknown[] }> }).players
  const ids = async (): Promise<number[]> => (await world.context.playerCommands.staged(server.row.id)).map(({ id }) => id)
  async function applyAll(): ReturnType<typeof applyTray> {
    const drafts = (await listTray(world.context, server)).map(({ path, sha }) => ({ path, sha }))
    return applyTray(world.context, server, drafts, 'maren', [], await ids())
  }

  beforeEach(async () => {
    world = await makeWorld()
    server = await world.server()
    await startServer(world.context, server)
    const text = `# Written by Wardkeys.\nplayers:\n  "${ISOLDE}": { name: isolde, groups: [ferryman], nodes: [purse.admin] }\n`
    writeFileSync(world.path(PLAYERS), text)
    server.console.send('reload Wardkeys')
  })
  afterEach(() => world.close())

  it('waits as a command, counts in what is shown, and nothing is said before it is applied', async () => {
    const [staged] = await stage(change('wardkeys.admin', 'granted', { term: { amount: 7, unit: 'day' } }))
    expect(staged).toMatchObject({ command: 'rank isolde +wardkeys.admin 7d', called: 'isolde', changedBy: 'maren' })
    const { permissions, standing, nodes, players } = await permissionsOf(world.context, server)
    const [after, before] = [permissions, standing!].map((one) => new PermissionBook(one, nodes))
    expect([before!.may({ player: ISOLDE }, 'wardkeys.admin'), after!.may({ player: ISOLDE }, 'wardkeys.admin')]).toEqual([false, true])
    expect(players).toMatchObject({ file: PLAYERS, by: 'commands', units: ['minute', 'hour', 'day'], hasDeny: true, hasGroups: true })
    expect(readFileSync(world.path(PLAYERS), 'utf8').split('\n')[players.lines[`/players/${ISOLDE}/nodes/0`]! - 1]).toContain('purse.admin')
    expect(record()[ISOLDE]!.nodes).toEqual(['purse.admin'])
  })

  it('takes the place of what waited for the same, and goes where it is so already', async () => {
    await stage(change('wardkeys.admin', 'granted'))
    await stage(change('purse.admin', null))
    const staged = await stage(change('wardkeys.admin', 'denied'))
    expect(staged.map(({ command }) => command)).toEqual(['rank isolde =purse.admin', 'rank isolde -wardkeys.admin'])
    await stage(change('wardkeys.admin', null))
    expect((await stage(change('purse.admin', 'granted'))).length).toBe(0)
  })

  it('is said to the console together with what is written, read back, and taken back the same way', async () => {
    await draft(world, GROUPS, (text) => text.replace('  ask-after: 3', '  ask-after: 4'))
    await stage(change('wardkeys.admin', 'granted'))
    await stage(change('purse.admin', null))
    await stage(change('warden', 'granted', { what: 'group' }))
    const row = await applyAll()
    expect(row).toMatchObject({ status: 'verified', title: '1 change in Wardkeys, 3 commands' })
    expect(row.outcome.message).toContain('The console took 3 commands.')
    expect(record()[ISOLDE]).toEqual({ name: 'isolde', groups: ['ferryman', 'warden'], nodes: ['wardkeys.admin'] })
    expect(await askRights(server, 'isolde')).toContain('wardkeys.admin')
    expect(await ids()).toEqual([])
    expect((await applyDetail(world.context, server, row.id)).commands).toEqual([
      { command: 'rank isolde +wardkeys.admin', state: 'done', reason: '' },
      { command: 'rank isolde =purse.admin', state: 'done', reason: '' },
      { command: 'rank isolde into warden', state: 'done', reason: '' },
    ])

    const undone = await undoApply(world.context, server, row.id, 'maren')
    expect(undone.status).toBe('verified')
    expect(record()[ISOLDE]).toEqual({ name: 'isolde', groups: ['ferryman'], nodes: ['purse.admin'] })
    expect(readFileSync(world.path(GROUPS), 'utf8')).toContain('  ask-after: 3')
    expect(await context(row.id)).toBe('undone')
  })
  const context = async (id: number): Promise<string> => (await world.context.applies.get(id))!.status

  it('ends after its term, and what is left of one is given back', async () => {
    await stage(change('wardkeys.admin', 'granted', { term: { amount: 2, unit: 'day' } }))
    await applyAll()
    const held = record()[ISOLDE]!.nodes!.at(-1) as { node: string; until: string }
    expect(held.node).toBe('wardkeys.admin')
    const days = (Date.parse(held.until) - Date.now()) / 86_400_000
    expect(days).toBeGreaterThan(1.99)
    expect(days).toBeLessThan(2.01)
    await stage(change('wardkeys.admin', null))
    const taken = await applyAll()
    expect(await askRights(server, 'isolde')).not.toContain('wardkeys.admin')
    // the server goes by its own clock, which is that of this machine
    await undoApply({ ...world.context, now: () => new Date() }, server, taken.id, 'maren')
    const again = record()[ISOLDE]!.nodes!.at(-1) as { node: string; until: string }
    expect(Math.abs(Date.parse(again.until) - Date.parse(held.until))).toBeLessThan(120_000)
    server.console.send(`clock ${3 * 86_400}`)
    expect(await askRights(server, 'isolde')).not.toContain('wardkeys.admin')
  })

  it('somebody whom the permission plugin does not know yet is called as the server knows him', async () => {
    const staged = await stage(change('wardkeys.admin', 'granted', { player: '77004418209365561' }))
    expect(staged.map(({ command, called }) => [command, called])).toEqual([['rank nessa +wardkeys.admin', 'nessa']])
    const { permissions } = await permissionsOf(world.context, server)
    expect(permissions.players.find(({ id }) => id === '77004418209365561')).toMatchObject({ name: 'nessa' })
    await stage(change('wardkeys.admin', 'denied', { player: 'nessa' }))
    expect(await ids()).toHaveLength(1)
    await stage(change('wardkeys.admin', 'granted', { player: 'nessa' }))
    await applyAll()
    expect(record()['77004418209365561']).toEqual({ name: 'nessa', nodes: ['wardkeys.admin'] })
    expect(await askRights(server, 'nessa')).toContain('wardkeys.admin')
  })

  it('a console that does not answer is told no more, and all of it stays in the tray', async () => {
    const { commands } = server.family.permissions
    const mute = {
      ...server,
      family: { ...server.family, permissions: { ...server.family.permissions, commands: { ...commands!, grant: 'say {player} {node}' } } },
    }
    await stagePlayerChange(world.context, mute, change('wardkeys.admin', 'granted'), 'maren')
    await stage(change('purse.admin', null))
    const row = await applyTray(world.context, server, [], 'maren', [], await ids())
    expect(row.status).toBe('complained')
    expect(row.outcome.message).toContain('did not answer')
    expect(await ids()).toHaveLength(2)
    expect((await applyDetail(world.context, server, row.id)).commands.map(({ state }) => state)).toEqual(['sent', 'waiting'])
    expect(record()[ISOLDE]!.nodes).toEqual(['purse.admin'])
  })

  it('what no command takes back is told when the rest is', async () => {
    await stage(change('purse.admin', null))
    await stage(change('warden', 'granted', { what: 'group' }))
    const row = await applyAll()
    const { leave: _leave, ...commands } = server.family.permissions.commands!
    const without = { ...server, family: { ...server.family, permissions: { ...server.family.permissions, commands: commands as never } } }
    const undone = await undoApply(world.context, without, row.id, 'maren')
    expect(undone.outcome.message).toContain('Not taken back, since no command does so: rank isolde into warden.')
    expect(record()[ISOLDE]).toMatchObject({ groups: ['ferryman', 'warden'], nodes: ['purse.admin'] })
  })

  it('what the console refuses stays in the tray, with its words', async () => {
    await stage(change('nowhere', 'granted', { what: 'group' }))
    await stage(change('wardkeys.admin', 'granted'))
    const row = await applyAll()
    expect(row.status).toBe('complained')
    expect(row.outcome.message).toContain('rank isolde into nowhere: there is no group nowhere')
    expect((await world.context.playerCommands.staged(server.row.id)).map(({ command }) => command)).toEqual(['rank isolde into nowhere'])
    expect(await askRights(server, 'isolde')).toContain('wardkeys.admin')
  })

  it('is not begun where the server does not run, or where it was changed since it was looked at', async () => {
    const [first] = await stage(change('wardkeys.admin', 'granted'))
    await stage(change('wardkeys.admin', 'denied'))
    await expect(applyTray(world.context, server, [], 'maren', [], [first!.id])).rejects.toMatchObject({ code: 'draft-changed' })
    await expect(discardCommand(world.context, server, first!.id)).rejects.toMatchObject({ code: 'draft-changed' })
    await stopServer(server)
    await draft(world, GROUPS, (text) => text.replace('  ask-after: 3', '  ask-after: 4'))
    await expect(applyAll()).rejects.toMatchObject({ code: 'server-stopped' })
    expect(readFileSync(world.path(GROUPS), 'utf8')).toContain('  ask-after: 3')
    await discardDrafts(world.context, server)
    expect(await ids()).toEqual([])
  })

  it('names that are more than one word are told, not sent', async () => {
    for (const name of ['a b', 'a\nstop', '-x', ''])
      await expect(stage(change(name, 'granted'))).rejects.toMatchObject({ code: 'bad-input' })
    await expect(stage(change('a.b', 'granted', { player: 'is olde' }))).rejects.toMatchObject({ code: 'bad-input' })
    expect(await ids()).toEqual([])
  })

  it('where Pasticcio is stopped in between, what is open stays in the tray and is told', async () => {
    const [one] = await stage(change('wardkeys.admin', 'granted'))
    const { change: said, called, command, id } = one!
    const before = { word: null, until: null }
    const at = world.context.now().toISOString()
    const begun = {
      serverId: server.row.id,
      kind: 'settings',
      title: '1 command',
      undoes: null,
      startedBy: 'maren',
      startedAt: at,
    } as const
    const planned = [{ stagedId: id, change: said, called, command, before }]
    const apply = await world.context.applies.begin(begun, [], [], planned)
    await world.context.playerCommands.note(apply, 0, 'sent')
    server.settled = null
    await settle(world.context, server)
    const row = (await world.context.applies.get(apply))!
    expect(row.status).toBe('written')
    expect(row.outcome.message).toContain('Still in the tray: rank isolde +wardkeys.admin.')
    expect(row.outcome.message).toContain('may have been taken')
    expect(await ids()).toEqual([id])
  })
})
