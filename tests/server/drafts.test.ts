import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { places } from '../../server/places'
import { startServer } from '../../server/services/control'
import { saveDraft } from '../../server/services/drafts'
import { viewFile } from '../../server/services/settings'
import { trayText } from '../../server/services/tray'
import { faults, faultyDriver } from './toys/faulty-place'
import { applyAll, draft, makeWorld, type World } from './world'

const PURSE = 'extras/Purse/settings.yml'
beforeAll(() => void places.register(faultyDriver as never))
let world: World
afterEach(() => world.close())

describe('drafts of two people', () => {
  beforeEach(async () => {
    world = await makeWorld({ place: 'faulty' })
    await startServer(world.context, await world.server())
  })

  it('the second save brings the first one back instead of writing over it', async () => {
    const server = await world.server()
    const view = await viewFile(world.context, server, PURSE)
    const of = (text: string, draftSha: string | null) => ({ path: PURSE, text, baseSha: view.sha, draftSha })
    const { draftSha: first } = await saveDraft(world.context, server, of(view.text + '# tobiah\n', null), 'tobiah')
    const second = saveDraft(world.context, server, of(view.text + '# maren\n', null), 'maren')
    await expect(second).rejects.toMatchObject({
      code: 'draft-changed',
      data: { draft: { sha: first, changedBy: 'tobiah', text: view.text + '# tobiah\n' } },
    })
    expect((await trayText(world.context, server, PURSE)).draft).toContain('# tobiah')
    // made from what came back, it is taken
    await saveDraft(world.context, server, of(view.text + '# tobiah\n# maren\n', first), 'maren')
    expect((await trayText(world.context, server, PURSE)).draft).toContain('# maren')
  })

  it('of many saves at once one is kept, and the others are told', async () => {
    const server = await world.server()
    const view = await viewFile(world.context, server, PURSE)
    const saves = Array.from({ length: 12 }, (_x, i) =>
      saveDraft(world.context, server, { path: PURSE, text: `${view.text}# ${i}\n`, baseSha: view.sha, draftSha: null }, `p${i}`),
    )
    const ends = await Promise.allSettled(saves)
    expect(ends.filter((end) => end.status === 'fulfilled')).toHaveLength(1)
    for (const end of ends) if (end.status === 'rejected') expect(end.reason).toMatchObject({ code: 'draft-changed' })
  })

  it('names the file it is based on, and nonsense is refused', async () => {
    const server = await world.server()
    const view = await viewFile(world.context, server, PURSE)
    const nonsense = { path: PURSE, text: 'x: 1\n', baseSha: 'nonsense', draftSha: null }
    await expect(saveDraft(world.context, server, nonsense, 'maren')).rejects.toMatchObject({ code: 'drift' })
    const sha = await draft(world, PURSE, (text) => text + '# one\n')
    await expect(saveDraft(world.context, server, { ...nonsense, draftSha: sha }, 'maren')).rejects.toMatchObject({ code: 'drift' })
    expect((await viewFile(world.context, server, PURSE)).draft?.text).toBe(view.text + '# one\n')
  })

  it('a draft saved while another is applied stays', async () => {
    const server = await world.server()
    await draft(world, PURSE, (text) => text.replace('start: 250', 'start: 400'))
    const view = await viewFile(world.context, server, PURSE)
    const later = { path: PURSE, text: view.draft!.text + '# later\n', baseSha: view.draft!.baseSha, draftSha: view.draft!.sha }
    // in the middle of applying, right before the file takes its place
    faults.set('commit', async () => {
      faults.clear()
      await saveDraft(world.context, server, later, 'maren')
    })
    await applyAll(world, 'tobiah')
    expect(world.read(PURSE)).toContain('start: 400')
    const { draft: left, base, now } = await trayText(world.context, server, PURSE)
    expect(left).toContain('# later')
    // made from what was applied, it is a draft of the file as it is now
    expect([base, now]).toEqual([world.read(PURSE), null])
    expect((await applyAll(world)).status).toBe('verified')
  })
})
