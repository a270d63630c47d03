import { rmSync, writeFileSync } from 'node:fs'
import { strToU8, zipSync } from 'fflate'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { undoApply } from '../../server/services/undo'
import { startServer } from '../../server/services/control'
import { overviewOf } from '../../server/services/overview'
import { addFromLink } from '../../server/services/downloads'
import { saveDraft } from '../../server/services/drafts'
import { viewFile } from '../../server/services/settings'
import { choose } from '../../server/services/shown-update'
import { applyUpdate, listUpdates, planUpdate } from '../../server/services/updates'
import { addPackage, installOne, makeWorld, planFor, repacked, type World, updateAll } from './world'

const HAMPERS = 'extras/Hampers/settings.yml'

describe('installing', () => {
  let world: World
  beforeEach(async () => {
    world = await makeWorld()
  })
  afterEach(() => world.close())
  const add = async (name: string): Promise<number> =>
    (await addPackage(world.context, await world.server(), world.pack(name), `${name}.pack`, 'test', 'maren')).id

  it('says what will happen: Purse comes along, first', async () => {
    rmSync(world.path('extras/Purse.pack'))
    await add('purse-1.8')
    const plan = await planFor(world.context, await world.server(), await add('hampers-2.4'))
    expect(plan.steps.map((step) => [step.name, step.parts[0]!.path, step.requiredBy])).toEqual([
      ['Purse', 'extras/Purse.pack', 'Hampers'],
      ['Hampers', 'extras/Hampers.pack', null],
    ])
    expect(plan.problems).toEqual([])
    expect(plan.after).toBe('restart')
  })

  it('says what is missing when the pantry has it not', async () => {
    rmSync(world.path('extras/Purse.pack'))
    const plan = await planFor(world.context, await world.server(), await add('hampers-2.4'))
    expect(plan.problems).toMatchObject([{ code: 'missing-requirement', severity: 'error' }])
    await expect(installOne(world.context, await world.server(), await add('hampers-2.4'), 'maren')).rejects.toMatchObject({
      code: 'plan-blocked',
    })
  })

  it('says when the game version does not fit', async () => {
    writeFileSync(world.path('brackwater.yml'), world.read('brackwater.yml').replace('"7.2"', '"8.1"'))
    const plan = await planFor(world.context, await world.server(), await add('hampers-2.4'))
    expect(plan.problems.map((item) => item.code)).toEqual(['game-version'])
  })

  it('installs both, starts the server, and keeps the factory copies', async () => {
    rmSync(world.path('extras/Purse.pack'))
    await add('purse-1.8')
    const row = await installOne(world.context, await world.server(), await add('hampers-2.4'), 'maren')
    expect(row).toMatchObject({ status: 'verified', title: 'Install Hampers 2.4.0 with Purse' })
    const view = await viewFile(world.context, await world.server(), HAMPERS)
    expect(view.factory).toBe(view.text)
    const overview = await overviewOf(world.context, await world.server())
    expect(overview.plugins.map((item) => item.name)).toEqual(['Hampers', 'Purse', 'Wardkeys'])
    expect(overview.game).toBe('7.2')
  })

  it('going back from an install takes the package away again', async () => {
    const row = await installOne(world.context, await world.server(), await add('hampers-2.4'), 'maren')
    await undoApply(world.context, await world.server(), row.id, 'maren')
    expect((await overviewOf(world.context, await world.server())).plugins.map((item) => item.name)).toEqual(['Purse', 'Wardkeys'])
  })

  it.each([
    ['no archive', Buffer.from('hello'), 'it is not an archive'],
    ['no descriptor', Buffer.from(zipSync({ 'a.txt': strToU8('x') })), 'it holds no pack.yml'],
    ['a broken descriptor', Buffer.from(zipSync({ 'pack.yml': strToU8('name: "x\nversion: 1\n') })), 'pack.yml line 1'],
    ['a name that leads elsewhere', Buffer.from(zipSync({ 'pack.yml': strToU8('name: ../x\nversion: 1.0.0\n') })), 'cannot be a file name'],
  ])('refuses %s', async (_name, bytes, words) => {
    await expect(addPackage(world.context, await world.server(), bytes, 'x.pack', 'test', 'maren')).rejects.toMatchObject({
      code: 'bad-package',
      message: expect.stringContaining(words) as unknown,
    })
  })

  it('fetches nothing from this machine unless that is allowed', async () => {
    await expect(addFromLink(world.context, await world.server(), { link: 'http://127.0.0.1:1/x.pack' }, 'maren')).rejects.toMatchObject({
      code: 'private-address',
    })
  })
})

describe('updating', () => {
  let world: World
  let packageId: number
  beforeEach(async () => {
    world = await makeWorld()
    const server = await world.server()
    const old = await addPackage(world.context, server, world.pack('hampers-2.4'), 'h.pack', 'test', 'maren')
    await installOne(world.context, server, old.id, 'maren')
    writeFileSync(
      world.path(HAMPERS),
      world.read(HAMPERS).replace('save-every: 300', 'save-every: 120').replace('pause: 1.5', 'pause: 2').replace('price: 50', 'price: 35'),
    )
    packageId = (await addPackage(world.context, server, world.pack('hampers-3.0'), 'h3.pack', 'test', 'maren')).id
  })
  afterEach(() => world.close())

  it('is found in the pantry', async () => {
    expect(await listUpdates(world.context, await world.server())).toEqual([{ plugin: 'Hampers', from: '2.4.0', to: '3.0.0', packageId }])
  })

  it('plans without writing, remembers choices, and applies only when none is open', async () => {
    const server = await world.server()
    const before = world.read(HAMPERS)
    let plan = await planUpdate(world.context, server, 'Hampers', packageId)
    const open = plan.files.flatMap((file) => file.decisions.filter((item) => item.attention).map((item) => [file.path, item] as const))
    expect(open.map(([, item]) => item.outcome).sort()).toEqual(['moved', 'scale-changed'])
    await expect(updateAll(world, 'Hampers', packageId, 'maren')).rejects.toMatchObject({ code: 'decisions-open' })
    for (const [path, item] of open)
      plan = await choose(world.context, server, 'Hampers', {
        packageId,
        path,
        decision: item.id,
        choice: { id: item.outcome === 'moved' ? 'mine' : 'converted' },
      })
    expect(plan.open).toBe(0)
    expect((await planUpdate(world.context, server, 'Hampers', packageId)).open).toBe(0)
    expect(world.read(HAMPERS)).toBe(before)
    const row = await updateAll(world, 'Hampers', packageId, 'maren')
    expect(row.status).toBe('verified')
    expect(world.read(HAMPERS)).toContain('save-every: 120')
    expect(world.read(HAMPERS)).toContain('pause-ticks: 40')
    await undoApply(world.context, server, row.id, 'maren')
    expect(world.read(HAMPERS)).toBe(before)
    expect((await listUpdates(world.context, server)).length).toBe(1)
  })

  it('of two who choose at once both count, and a plan that changed since it was looked at is not applied', async () => {
    const server = await world.server()
    const seen = await planUpdate(world.context, server, 'Hampers', packageId)
    const open = seen.files.flatMap((file) => file.decisions.filter((item) => item.attention).map((item) => [file.path, item] as const))
    await Promise.all(
      open.map(([path, { id, outcome }]) =>
        choose(world.context, server, 'Hampers', {
          packageId,
          path,
          decision: id,
          choice: { id: outcome === 'moved' ? 'mine' : 'converted' },
        }),
      ),
    )
    const plan = await planUpdate(world.context, server, 'Hampers', packageId)
    expect(plan.open).toBe(0)
    expect(Object.values(plan.choices).flatMap((all) => Object.keys(all))).toHaveLength(open.length)
    const old = { packageId, planSha: seen.sha }
    await expect(applyUpdate(world.context, server, 'Hampers', old, 'maren')).rejects.toMatchObject({ code: 'plan-changed' })
    writeFileSync(world.path(HAMPERS), world.read(HAMPERS).replace('pause: 2', 'pause: 3'))
    const late = { packageId, planSha: plan.sha }
    await expect(applyUpdate(world.context, server, 'Hampers', late, 'maren')).rejects.toMatchObject({ code: 'plan-changed' })
  })

  it('the same package, added twice at once, is there once', async () => {
    const { context } = world
    const server = await world.server()
    const bytes = world.pack('gangway-1.4')
    const ids = await Promise.all([1, 2, 3].map(async () => (await addPackage(context, server, bytes, 'g.pack', 'test', 'maren')).id))
    expect(new Set(ids).size).toBe(1)
  })

  /** A package with its descriptor changed. */
  const described = (name: string, change: (descriptor: string) => string): Buffer =>
    repacked(world.pack(name), (files) => ({ ...files, 'pack.yml': change(files['pack.yml']!) }))
  const versioned =
    (from: string, to: string) =>
    (descriptor: string): string =>
      descriptor.replace(`version: ${from}`, `version: ${to}`)

  it('brings along what the new version needs and the server has not', async () => {
    const server = await world.server()
    await addPackage(world.context, server, world.pack('purse-1.8'), 'p.pack', 'test', 'maren')
    rmSync(world.path('extras/Purse.pack'))
    const plan = await planUpdate(world.context, server, 'Hampers', packageId)
    expect(plan.problems).toEqual([])
    expect(plan.requires.find((item) => item.name === 'Purse')).toMatchObject({ have: null, fits: false })
    for (const file of plan.files)
      for (const item of file.decisions)
        if (item.attention)
          await choose(world.context, server, 'Hampers', { packageId, path: file.path, decision: item.id, choice: { id: 'mine' } })
    const row = await updateAll(world, 'Hampers', packageId, 'maren')
    expect(row).toMatchObject({ status: 'verified', title: 'Update Hampers 2.4.0 to 3.0.0 with Purse' })
  })

  it('wants what it needs updated first, since that has settings of its own', async () => {
    const server = await world.server()
    const newer = described('purse-1.8', versioned('1.8.0', '1.9.0'))
    const wanting = described('hampers-3.0', (descriptor) => versioned('3.0.0', '3.1.0')(descriptor).replace('">=1.6"', '">=1.9"'))
    await addPackage(world.context, server, newer, 'p.pack', 'test', 'maren')
    const { id } = await addPackage(world.context, server, wanting, 'h.pack', 'test', 'maren')
    const plan = await planUpdate(world.context, server, 'Hampers', id)
    expect(plan.requires.find((item) => item.name === 'Purse')).toMatchObject({ have: '1.8.0', fits: false })
    expect(plan.problems).toEqual(['Hampers needs Purse 1.9.0, and this server has 1.8.0. It is in the pantry: update Purse first.'])
    await expect(updateAll(world, 'Hampers', id, 'maren')).rejects.toMatchObject({ code: 'plan-blocked' })
  })

  it('waits for what is in the tray', async () => {
    const server = await world.server()
    const view = await viewFile(world.context, server, HAMPERS)
    await saveDraft(
      world.context,
      server,
      { path: HAMPERS, text: view.text.replace('rows: 3', 'rows: 4'), baseSha: view.sha, draftSha: null },
      'maren',
    )
    expect((await planUpdate(world.context, server, 'Hampers', packageId)).staged).toEqual([HAMPERS])
  })

  it('says when my file does not read', async () => {
    writeFileSync(world.path(HAMPERS), world.read(HAMPERS).replace('price: 35', 'price: "35'))
    await expect(planUpdate(world.context, await world.server(), 'Hampers', packageId)).rejects.toMatchObject({ code: 'has-errors' })
  })

  it('a plugin that cannot read its settings at start is a complaint, not silence', async () => {
    const server = await world.server()
    await server.console.lifecycle!.stop()
    writeFileSync(world.path(HAMPERS), 'general: [\n')
    const lines = await startServer(world.context, server)
    expect(lines.some((line) => line.event?.type === 'failed' && line.event.plugin === 'Hampers')).toBe(true)
  })
})
