import { afterEach, describe, expect, it } from 'vitest'
import { commandFor, parse, readPlayers, withChanges, type PlayerChange } from '@pasticcio/core'
import { nextTick } from 'vue'
import GroupGraph from '../../app/components/permissions/GroupGraph.vue'
import GroupNote from '../../app/components/permissions/GroupNote.vue'
import OpenFeatures from '../../app/components/permissions/OpenFeatures.vue'
import RightsPlayers from '../../app/components/permissions/RightsPlayers.vue'
import StagedCommands from '../../app/components/review/StagedCommands.vue'
import WhatMayBeDone from '../../app/components/permissions/WhatMayBeDone.vue'
import PermissionsPage from '../../app/pages/s/[server]/permissions.vue'
import { useDraftsStore } from '../../app/stores/drafts'
import { usePermissionsStore } from '../../app/stores/permissions'
import { useRightChangesStore } from '../../app/stores/right-changes'
import { useTrayStore } from '../../app/stores/tray'
import { graphOf } from '../../app/utils/group-graph'
import { differsWords, pastedLines, peopleOf } from '../../app/utils/permission-people'
import { untilWords } from '../../app/utils/until-words'
import type { ServerPermissions } from '../../app/utils/types'
import { FILE, NODES, SOURCE, answerOf, permissionWorld, read } from './permission-world'
import { button, show, text } from './pages'
import { until } from './world'

const LADDER = `ladder: [mudlark, keeper, warden]\n${SOURCE}`
const WAYS: ServerPermissions['players'] = {
  file: 'extras/Wardkeys/players.yml',
  by: 'commands',
  units: ['hour', 'day'],
  hasDeny: true,
  hasGroups: true,
  at: '/players',
  lines: {},
  id: '^7700\\d{13}$',
}
const COMMANDS = { grant: 'rank {player} +{node} {term}', deny: 'rank {player} -{node} {term}', clear: 'rank {player} ={node}' }
const SAYS = { ...COMMANDS, join: 'rank {player} into {group}', leave: 'rank {player} from {group}', done: '^rank', term: { day: 'd' } }

afterEach(async () => {
  await useDraftsStore().flushAll()
  await useDraftsStore().leaveBeside()
})
const drafted = (asked: readonly { readonly key: string; readonly body: unknown }[]): string =>
  (asked.findLast(({ key }) => key === 'PUT /draft')?.body as { text: string } | undefined)?.text ?? ''

/** A server that keeps what is to be said to it, as its own does. */
function sayingWorld(more: Partial<ServerPermissions> = {}) {
  let staged: ServerPermissions['staged'] = []
  let count = 0
  return permissionWorld(
    {},
    {
      'GET /permissions': () => {
        const stands = read(SOURCE)
        const players = withChanges(
          stands.players,
          staged.map(({ change }) => change),
          Date.now(),
        )
        return answerOf(SOURCE, {
          permissions: { ...stands, players },
          standing: staged.length > 0 ? stands : null,
          players: WAYS,
          staged,
          ...more,
        })
      },
      'GET /tray/commands': () => staged,
      'PUT /permissions/player': (body: unknown) => {
        const change = body as PlayerChange
        const others = staged.filter(({ change: one }) => one.player !== change.player || one.name !== change.name)
        const command = commandFor(SAYS, change, change.player) ?? ''
        staged = [...others, { id: ++count, change, called: change.player, command, changedBy: 'maren', changedAt: '' }]
        return staged
      },
      'DELETE /tray': (_body: unknown, url: string) => {
        const id = Number(new URL(url, 'http://x').searchParams.get('command'))
        staged = staged.filter((one) => one.id !== id)
        return { ok: true }
      },
    },
  )
}

describe('groups are changed from the page', () => {
  it('copied, and made to inherit from no group that inherits from them', async () => {
    const { asked } = permissionWorld()
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    const parents = (): string[] => permissions.groupBy('keeper')!.inherits.map(({ name }) => name)
    await changes.inherit(permissions.groupBy('mudlark')!, 'warden')
    expect(permissions.problem).toContain('go round in a circle')
    await changes.copy(permissions.groupBy('mudlark')!, 'reedcutter')
    expect(drafted(asked)).toContain('  reedcutter:\n    weight: 10\n')
    await changes.inherit(permissions.groupBy('keeper')!, 'reedcutter')
    expect(parents()).toEqual(['mudlark', 'reedcutter'])
    await changes.inherit(permissions.groupBy('keeper')!, 'mudlark')
    expect(parents()).toEqual(['reedcutter'])
    await changes.undo()
    await until(() => expect(parents()).toEqual(['mudlark', 'reedcutter']))
  })

  it('made anew with settings of the same names, and nothing in them', async () => {
    const { asked } = permissionWorld()
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    expect(await changes.add(permissions.groupBy('keeper')!, 'watch')).toBe(true)
    const [watch] = read(drafted(asked)).groups.filter(({ name }) => name === 'watch')
    expect(watch).toMatchObject({
      weight: 30,
      prefix: '',
      inherits: [],
      grants: [],
      grantsAt: { pointer: '/groups/watch/nodes', shape: 'list' },
    })
    expect(drafted(asked).startsWith(SOURCE)).toBe(true)
  })

  it('given several nodes as one step, which is one step back', async () => {
    const { asked } = permissionWorld()
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    await changes.change('mudlark', ['ferry.bell', 'hampers.claim'], 'granted')
    expect(drafted(asked)).toBe(SOURCE.replace('- ferry.ride\n', '- ferry.ride\n      - ferry.bell\n      - hampers.claim\n'))
    await changes.undo()
    await until(() => expect(drafted(asked)).toBe(SOURCE))
  })

  it('moved in the order of promotion, by one and by two', async () => {
    const { asked } = permissionWorld({}, {}, LADDER)
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    await changes.promote(2, 0)
    expect(drafted(asked)).toContain('ladder: [warden, mudlark, keeper]\n')
    await changes.promote(0, 1)
    expect(drafted(asked)).toContain('ladder: [mudlark, warden, keeper]\n')
    await changes.promote(1, 1)
    await changes.undo()
    await until(() => expect(drafted(asked)).toContain('ladder: [warden, mudlark, keeper]\n'))
  })

  it('taken out with what inherits from them and the order of promotion; newcomers’ own stays', async () => {
    const { asked } = permissionWorld({}, {}, LADDER)
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    expect(await changes.remove(permissions.groupBy('mudlark')!)).toBe(false)
    expect(permissions.problem).toContain('Newcomers start in mudlark')
    expect(await changes.remove(permissions.groupBy('keeper')!)).toBe(true)
    const after = read(drafted(asked))
    expect(after.groups.map(({ name, inherits }) => [name, inherits.length])).toEqual([
      ['mudlark', 0],
      ['warden', 0],
    ])
    expect(after.ladder.map(({ name }) => name)).toEqual(['mudlark', 'warden'])
  })

  it('given words before names and a weight, seen as chat shows them', async () => {
    const { asked } = permissionWorld()
    const permissions = usePermissionsStore()
    await permissions.load()
    show(GroupNote, { group: permissions.groupBy('keeper')! })
    const type = async (id: string, value: string): Promise<void> => {
      const field = document.querySelector<HTMLInputElement>(`#${id}`)!
      field.value = value
      field.dispatchEvent(new Event('change'))
      await nextTick()
    }
    await type('group-prefix', '[amber]keep[/]')
    await until(() => expect(drafted(asked)).toContain("prefix: '[amber]keep[/]'"))
    await type('group-weight', '35')
    await until(() => expect(drafted(asked)).toContain('    weight: 35\n'))
    await type('group-weight', 'heavy')
    document.body.innerHTML = ''
    show(GroupNote, { group: permissions.groupBy('keeper')! })
    expect(document.querySelector('[role="img"]')!.getAttribute('aria-label')).toContain('keep isolde')
    button('take it out …').click()
    await nextTick()
    expect(text()).toContain('1 player of it is then in no group of this name')
    button('Take it out').click()
    await until(() => expect(drafted(asked)).not.toContain('  keeper:'))
  })
})

describe('what is one player’s alone', () => {
  it('waits as a command, counts at once, and is taken back by the same key', async () => {
    const { asked } = sayingWorld()
    show(PermissionsPage)
    await until(() => expect(text()).toContain('5 nodes, 3 groups, 2 players'))
    const permissions = usePermissionsStore()
    permissions.player = '77002'
    permissions.node = 'ferry.bell'
    permissions.column = 'player 77002'
    await until(() => expect(text()).toContain('Why may nessa not ring the ferry bell?'))
    const field = document.querySelector<HTMLInputElement>('input[aria-label="For how long"]')!
    field.value = '7'
    field.dispatchEvent(new Event('input'))
    const unit = document.querySelector<HTMLSelectElement>('select[aria-label="Unit of the term"]')!
    unit.value = 'day'
    unit.dispatchEvent(new Event('change'))
    await nextTick()
    button('Grant it to nessa +').click()
    await until(() => expect(text()).toContain('Why may nessa ring the ferry bell?'))
    expect(asked.find(({ key }) => key === 'PUT /permissions/player')!.body).toEqual({
      player: '77002',
      what: 'node',
      name: 'ferry.bell',
      word: 'granted',
      term: { amount: 7, unit: 'day' },
    })
    expect(useTrayStore().commands.map(({ command }) => command)).toEqual(['rank 77002 +ferry.bell 7d'])
    expect(text()).toContain('not said to the console yet')
    expect(document.querySelector('.right.staged .said')!.textContent).toBe('›_7d')
    expect(permissions.gains.map(({ name, gained }) => [name, gained])).toEqual([['nessa', ['ferry.bell']]])
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'u', bubbles: true }))
    await until(() => expect(text()).toContain('Why may nessa not ring the ferry bell?'))
  })

  it('what waited before waits again where a change is taken back, and where nothing did, nothing waits', async () => {
    sayingWorld()
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    const waiting = (): string[] => permissions.answer.staged.map(({ command }) => command)
    await changes.changePlayer('77002', 'node', 'ferry.bell', 'granted', { amount: 7, unit: 'day' })
    await changes.changePlayer('77002', 'node', 'ferry.bell', 'denied')
    expect(waiting()).toEqual(['rank 77002 -ferry.bell'])
    await changes.undo()
    expect(waiting()).toEqual(['rank 77002 +ferry.bell 7d'])
    await changes.undo()
    expect([waiting(), permissions.problem]).toEqual([[], ''])
  })

  it('where another name is given to a group, its players are put into that', async () => {
    sayingWorld()
    const permissions = usePermissionsStore()
    await permissions.load()
    await useRightChangesStore().moved('keeper', 'watch')
    expect(permissions.answer.staged.map(({ command }) => command)).toEqual(['rank 77001 into watch', 'rank 77001 from keeper'])
  })

  it('is written to the file of players where no command says it', async () => {
    const { asked } = permissionWorld({ players: { ...WAYS, by: 'file', file: FILE, at: '/players' } })
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    await changes.changePlayer('77009', 'node', 'ferry.bell', 'denied')
    expect(drafted(asked)).toContain('-ferry.bell')
    expect(drafted(asked)).toMatch(/players:\n {2}['"]?77009/)
    await changes.changePlayer('77009', 'node', 'ferry.ride', null)
    expect(permissions.problem).toBe('')
  })

  it('one who is new to the file gets an entry like those of others', async () => {
    const hand = 'players:\n  a: { crews: [mate], permissions: { x.y: true } }\n'
    const players = readPlayers(parse(hand, 'yaml'), '/players', new Set())
    const { asked } = permissionWorld(
      { players: { ...WAYS, by: 'file', file: FILE }, permissions: { ...read(SOURCE), players } },
      {},
      `${SOURCE}${hand}`,
    )
    const [permissions, changes] = [usePermissionsStore(), useRightChangesStore()]
    await permissions.load()
    await changes.changePlayer('b', 'group', 'mate', 'granted')
    await changes.changePlayer('c', 'node', 'x.z', 'denied')
    const after = readPlayers(parse(drafted(asked), 'yaml'), '/players', new Set())
    expect(
      after.map(({ id, groups, groupsAt, grants }) => [id, groups, groupsAt.pointer, grants.map((one) => [one.node, one.isDenied])]),
    ).toEqual([
      ['a', ['mate'], '/players/a/crews', [['x.y', false]]],
      ['b', ['mate'], '/players/b/crews', []],
      ['c', [], '/players/c/groups', [['x.z', true]]],
    ])
    expect(after[2]!.grantsAt).toMatchObject({ pointer: '/players/c/permissions', shape: 'map' })
  })

  it('is discarded from the review, one by one', async () => {
    sayingWorld()
    await usePermissionsStore().load()
    await useRightChangesStore().changePlayer('77001', 'node', 'ferry.bell', 'granted')
    show(StagedCommands)
    expect(text()).toContain('›_ rank 77001 +ferry.bell')
    button('Discard rank 77001 +ferry.bell').click()
    await until(() => expect(useTrayStore().isEmpty).toBe(true))
  })
})

describe('players', () => {
  it('stand with all they may beside their rank, and several are given something at once', async () => {
    const { asked } = sayingWorld()
    await usePermissionsStore().load()
    show(RightsPlayers)
    expect(text()).toContain('as others in mudlark')
    expect(text()).toContain('1 fewer than others in keeper')
    const box = document.querySelector<HTMLTextAreaElement>('#pasted-ids')!
    box.value = '77001, 77004418209365512\n770\nnessa'
    box.dispatchEvent(new Event('input'))
    await nextTick()
    expect(text()).toContain('never seen here')
    expect(text()).toContain('it has 3 digits, and ids have 17')
    const give = document.querySelector<HTMLSelectElement>('select[aria-label="What to give them"]')!
    give.value = 'group warden'
    give.dispatchEvent(new Event('change'))
    await nextTick()
    button('Give it to 3 players').click()
    await until(() => expect(box.value).toBe(''))
    const said = asked.flatMap(({ key, body }) => (key === 'PUT /permissions/player' ? [body as PlayerChange] : []))
    expect(said.map(({ player, what, name }) => [player, what, name])).toEqual([
      ['77001', 'group', 'warden'],
      ['77004418209365512', 'group', 'warden'],
      ['77002', 'group', 'warden'],
    ])
    const words = document.querySelector<HTMLInputElement>('input[aria-label="Name or id"]')!
    words.value = 'ness'
    words.dispatchEvent(new Event('input'))
    await nextTick()
    expect([...document.querySelectorAll('.who')].map((one) => one.textContent!.trim())).toEqual(['nessa'])
    document.querySelector<HTMLElement>('.who')!.click()
    expect(usePermissionsStore().column).toBe('player 77002')
  })

  it('are compared with what their rank gives', async () => {
    permissionWorld()
    const permissions = usePermissionsStore()
    await permissions.load()
    const rows = peopleOf(
      permissions.book,
      NODES.map(({ node }) => node),
      permissions.permissions.players,
    )
    expect(rows.map(({ name, rank, count, more, less }) => [name, rank, count, more, less])).toEqual([
      ['isolde', 'keeper', 1, [], ['ferry.ride']],
      ['nessa', 'mudlark', 1, [], []],
    ])
  })
  it.each([
    [['a', 'b'], ['c'], 'keeper', '2 more and 1 fewer than others in keeper'],
    [['a'], [], '', '1 more than others in no group'],
    [[], [], 'keeper', 'as others in keeper'],
  ])('%j %j %s: %s', (more, less, rank, words) => expect(differsWords({ more, less, rank })).toBe(words))

  it.each([
    ['77004418209365561', 'nessa', true, ''],
    ['NESSA', 'nessa', true, ''],
    ['77004418209365599', '', false, ''],
    ['7700441820936559', '', false, 'is no id of this server: it has 16 digits, and ids have 17'],
    ['12345678901234567', '', false, 'is no id of this server: ids begin with 7700'],
    ['wella', 'wella', false, 'was never here by this name; paste the id'],
    ['two words', '', false, 'is more than one word'],
  ])('%s is %s, seen %s: %s', (line, name, isSeen, problem) => {
    const [told] = pastedLines(line, [{ id: '77004418209365561', name: 'nessa' }], /^7700\d{13}$/)
    expect([told!.name, told!.isSeen, told!.problem]).toEqual([name, isSeen, problem])
  })
  it('are pasted in any way, each once, and without a form anything goes', () => {
    expect(pastedLines(' a\n\nb,c ; a', [], null).map(({ text, problem }) => [text, problem])).toEqual([
      ['a', ''],
      ['b', ''],
      ['c', ''],
    ])
    expect(pastedLines('12', [], /^[a-f]+$/)[0]!.problem).toContain('another form')
  })
  it('have things until a date, or as it is written', () => {
    expect(untilWords('2026-12-01T10:00:00Z')).toMatch(/1 Dec/)
    expect(untilWords('soon')).toBe('soon')
  })
})

describe('the graph of who inherits from whom', () => {
  const groups = (sketch: Record<string, readonly string[]>) =>
    Object.entries(sketch).map(
      ([name, parents]) => ({ name, inherits: parents.map((one) => ({ name: one, pointer: '', from: 0 })) }) as never,
    )
  it.each<[Record<string, readonly string[]>, Record<string, number>]>([
    [
      { a: [], b: ['a'], c: ['b'] },
      { a: 0, b: 0, c: 0 },
    ],
    [
      { a: [], b: ['a'], c: ['a'] },
      { a: 0, b: 0, c: 1 },
    ],
    [
      { a: [], b: ['a'], c: ['a'], d: ['b'] },
      { a: 0, b: 0, c: 1, d: 0 },
    ],
    [
      { a: [], b: [] },
      { a: 0, b: 1 },
    ],
    [
      { a: ['b'], b: ['a'] },
      { a: 0, b: 0 },
    ],
  ])('%j has lanes %j', (sketch, lanes) => {
    const { points } = graphOf(groups(sketch))
    expect(points.map(({ column }) => column)).toEqual(points.map((_point, i) => i))
    if (Object.keys(sketch).length > 2) expect(Object.fromEntries(points.map(({ name, lane }) => [name, lane]))).toEqual(lanes)
  })

  async function draw(source = SOURCE) {
    const world = permissionWorld({}, {}, source)
    await usePermissionsStore().load()
    show(GroupGraph, { left: 300, wide: 64 })
    const point = (name: string): SVGElement => document.querySelector(`.point[aria-label^="${name} inherits"]`)!
    const key = async (name: string, pressed: string): Promise<void> => {
      point(name).dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true }))
      await nextTick()
    }
    return { ...world, point, key }
  }
  it('is changed by drawing a point onto another', async () => {
    const { asked, point } = await draw(SOURCE.replace('inherits: [keeper]', 'inherits: []'))
    point('warden').dispatchEvent(new PointerEvent('pointerdown', { button: 0 }))
    point('keeper').dispatchEvent(new PointerEvent('pointerenter'))
    await nextTick()
    expect(document.querySelector('.edge.new')).not.toBeNull()
    window.dispatchEvent(new PointerEvent('pointerup'))
    await until(() => expect(drafted(asked)).toContain('inherits: [keeper]'))
  })
  it('and by keys; what would go round is not offered, and Escape leaves it', async () => {
    const { asked, key } = await draw()
    await key('mudlark', 'Enter')
    // all others inherit from it
    expect(document.querySelector('.taken')).toBeNull()
    await key('warden', 'Enter')
    expect(text()).toContain('warden: inherit from mudlark?')
    await key('warden', 'ArrowRight')
    expect(text()).toContain('warden: end inheriting from keeper?')
    // a click somewhere else does not set what the keys have chosen
    window.dispatchEvent(new PointerEvent('pointerup'))
    expect(drafted(asked)).toBe('')
    await key('warden', 'Escape')
    expect(document.querySelector('.taken')).toBeNull()
    await key('warden', 'Enter')
    await key('warden', 'Enter')
    await until(() => expect(drafted(asked)).toContain('inherits: [keeper, mudlark]'))
  })
})

describe('the spine and the foot', () => {
  it('tell the order of promotion, which goes by keys and by drawing', async () => {
    const { asked } = permissionWorld({}, {}, LADDER)
    const permissions = usePermissionsStore()
    await permissions.load()
    show(WhatMayBeDone)
    await nextTick()
    expect(text()).toContain('Order of promotion')
    const line = (name: string): HTMLElement =>
      [...document.querySelectorAll<HTMLElement>('ol button')].find((one) => one.textContent!.includes(name))!
    line('keeper').click()
    expect(permissions.column).toBe('group keeper')
    line('keeper').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', altKey: true, bubbles: true }))
    await until(() => expect(drafted(asked)).toContain('ladder: [keeper, mudlark, warden]'))
    line('keeper').parentElement!.dispatchEvent(new Event('dragstart'))
    line('warden').parentElement!.dispatchEvent(new Event('dragover'))
    line('warden').parentElement!.dispatchEvent(new Event('drop'))
    await until(() => expect(drafted(asked)).toContain('ladder: [mudlark, warden, keeper]'))
  })

  it('list what asks for no node, with whom it is for, and leave only what is dangerous', async () => {
    const open = [{ plugin: 'Hampers', file: 'h.yml', pointer: '/hampers/angler/node', line: 4 }]
    const only = [{ kind: 'places', names: ['delta'], pointer: '/hampers/angler/places', line: 5 } as const]
    permissionWorld({ open: open.map((one) => ({ ...one, only })) })
    show(OpenFeatures, { visible: true })
    await usePermissionsStore().load()
    await until(() => expect(document.body.textContent).toContain('only in delta'))
    document.body.innerHTML = ''
    permissionWorld({}, {}, SOURCE.replace('- ferry.ride', '- gone.away'))
    show(PermissionsPage)
    await until(() => expect(text()).toContain('1 node of plugins that are gone'))
    button('1 node of plugins that are gone').click()
    await until(() => expect(document.querySelectorAll('[role="row"].line:not(.head)').length).toBe(1))
    expect(document.querySelector('[role="row"].line:not(.head)')!.textContent).toContain('away')
  })
})
