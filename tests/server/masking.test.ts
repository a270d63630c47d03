import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { readFileSync } from 'node:fs'
import { DOTS } from '@pasticcio/core'
import type { Server } from '../../server/services/context'
import { saveDraft } from '../../server/services/drafts'
import { applyDetail, historyOf } from '../../server/services/history'
import { noteShown } from '../../server/services/masking'
import { planRemoval } from '../../server/services/removing'
import { viewFile } from '../../server/services/settings'
import { shownUpdate } from '../../server/services/shown-update'
import { applyTray, listTray, trayText } from '../../server/services/tray'
import { undoApply } from '../../server/services/undo'
import { planUpdate } from '../../server/services/updates'
import { addPackage, installOne, makeWorld, planFor, type World } from './world'

let world: World
let server: Server
const path = 'extras/Nightfair/settings.yml'
const SECRETS = ['row-lamps-9', 'lamp-oil-and-rope', 'gate-word-77']
/** None of the secrets stands in it, anywhere. */
function expectHidden(told: unknown): void {
  const text = JSON.stringify(told)
  for (const secret of SECRETS) expect(text).not.toContain(secret)
}
const pack = async (name: string): Promise<number> =>
  (await addPackage(world.context, server, world.pack(name), `${name}.pack`, 'test', 'maren')).id
async function stage(from: string, to: string): Promise<void> {
  const { text, sha, draft } = await viewFile(world.context, server, path)
  const base = draft?.text ?? text
  await saveDraft(world.context, server, { path, text: base.replace(from, to), baseSha: sha, draftSha: draft?.sha ?? null }, 'maren')
}
const applyAll = async (): Promise<number> => (await applyTray(world.context, server, await listTray(world.context, server), 'maren')).id

beforeEach(async () => {
  world = await makeWorld()
  server = await world.server()
  await installOne(world.context, server, await pack('nightfair-1.3'), 'maren')
})
afterEach(() => world.close())

describe('secrets on their way', () => {
  it('are dots in the tray, its texts and History, are written as they are, and come back with an undo', async () => {
    await stage('token: row-lamps-9', 'token: lamp-oil-and-rope')
    await stage('picture: fair.png', 'picture: row.png')
    const tray = await listTray(world.context, server)
    expect(tray[0]!.changes).toContainEqual(expect.objectContaining({ path: '/access/token', factory: DOTS, mine: DOTS }))
    expect(tray[0]!.changes).toContainEqual(expect.objectContaining({ factory: 'fair.png', mine: 'row.png' }))
    const texts = await trayText(world.context, server, path)
    expect(texts.draft).toContain(`token: ${DOTS} (changed)`)
    const id = await applyAll()
    const detail = await applyDetail(world.context, server, id)
    expect(detail.files[0]!.after).toContain(`token: ${DOTS} (changed)`)
    expect(detail.files[0]!.after).toContain('picture: row.png')
    expectHidden([tray, texts, detail, await historyOf(world.context, server)])
    expect(world.read(path)).toContain('token: lamp-oil-and-rope')
    await undoApply(world.context, server, id, 'maren')
    expect(world.read(path)).toContain('token: row-lamps-9')
  })

  it('that only somebody says are secret are dots as soon as they say so', async () => {
    await stage('entry: open', 'entry: gate-word-77')
    expect(JSON.stringify(await listTray(world.context, server))).toContain('gate-word-77')
    await world.context.rules.save(server.row.id, {
      path,
      rule: { path: '/access/entry', means: 'secret', source: 'yours' },
      by: 'maren',
      at: new Date().toISOString(),
    })
    expectHidden([await listTray(world.context, server), await trayText(world.context, server, path)])
  })

  it('are dots in the plan of an update, which writes them as they are', async () => {
    await stage('token: row-lamps-9', 'token: lamp-oil-and-rope')
    await applyAll()
    const id = await pack('nightfair-1.4')
    const plan = await planUpdate(world.context, server, 'Nightfair', id)
    const shown = await shownUpdate(world.context, server, 'Nightfair', id)
    expectHidden(shown)
    expect(shown.sha).toBe(plan.sha)
    expect(plan.files.find((file) => file.path === path)!.result).toContain('lamp-oil-and-rope')
    expect(shown.files.find((file) => file.path === path)!.result).toContain(DOTS)
  })

  it('are dots where a removal or an installation shows what it edits', async () => {
    expectHidden(await planRemoval(world.context, server, 'Nightfair', 'keep'))
    expectHidden((await planFor(world.context, server, await pack('nightfair-1.3'))).steps)
  })

  it('that are shown to somebody are kept in the record, without what they are', async () => {
    await noteShown(world.context, server, path, '/access/token', 'tobiah')
    const noted = await world.context.record.ofServer(server.row.id, ['secret-shown'], '')
    expect(noted).toMatchObject([{ account: 'tobiah', detail: `${path} /access/token` }])
    expectHidden(noted)
    await expect(noteShown(world.context, server, 'start.sh', '/x', 'tobiah')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('stand in the file’s own view, for who edits it', async () => {
    expect((await viewFile(world.context, server, path)).text).toBe(readFileSync(world.path(path), 'utf8'))
  })
})
