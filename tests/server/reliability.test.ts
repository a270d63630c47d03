import {
  chmodSync,
  chownSync,
  closeSync,
  cpSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { places } from '../../server/places'
import { control, startServer, stopServer } from '../../server/services/control'
import { rebaseDraft, saveDraft } from '../../server/services/drafts'
import { historyOf } from '../../server/services/history'
import { overviewOf } from '../../server/services/overview'
import { listServers } from '../../server/services/servers'
import { ServiceError } from '../../server/services/errors'
import { viewFile } from '../../server/services/settings'
import { applyTray, discardDrafts, listTray } from '../../server/services/tray'
import { undoApply } from '../../server/services/undo'
import { faults, faultyDriver } from './toys/faulty-place'
import { applyAll, connectionIn, draft, makeWorld, type World } from './world'

const PURSE = 'extras/Purse/settings.yml'
let world: World
let away: () => void
beforeEach(async () => {
  away = places.register(faultyDriver as never)
  world = await makeWorld({ place: 'faulty' })
  await startServer(world.context, await world.server())
})
afterEach(async () => {
  faults.clear()
  away()
  await world.close()
})
const change = (from: string, to: string, account = 'tobiah') => draft(world, PURSE, (text) => text.replace(from, to), account)

describe('two people, one file', () => {
  const both = async (mine: [string, string], theirs: [string, string]) => {
    const server = await world.server()
    const { text, sha } = await viewFile(world.context, server, PURSE)
    const saved = await saveDraft(
      world.context,
      server,
      { path: PURSE, text: text.replace(...mine), baseSha: sha, draftSha: null },
      'tobiah',
    )
    return {
      server,
      saved,
      second: () => saveDraft(world.context, server, { path: PURSE, text: text.replace(...theirs), baseSha: sha, draftSha: null }, 'maren'),
    }
  }

  it('different settings come together, and both are told', async () => {
    const { second, server } = await both(['start: 250', 'start: 400'], ['most: 50', 'most: 60'])
    const saved = await second()
    expect(saved.merged).toMatchObject({ with: 'tobiah', text: expect.stringMatching(/start: 400[^]*most: 60/) as unknown })
    expect((await viewFile(world.context, server, PURSE)).draft).toMatchObject({ text: saved.merged!.text, sha: saved.draftSha })
    // what was typed meanwhile is made from what was sent
    const typed = { path: PURSE, baseSha: saved.baseSha, draftSha: saved.merged!.sentSha }
    const text = (await viewFile(world.context, server, PURSE)).text.replace('most: 50', 'most: 60') + '# more\n'
    const later = await saveDraft(world.context, server, { ...typed, text }, 'maren')
    expect(later.merged!.text).toMatch(/start: 400[^]*most: 60[^]*# more/)
  })

  it('the same setting comes back as both', async () => {
    const { second, saved } = await both(['start: 250', 'start: 400'], ['start: 250', 'start: 500'])
    await expect(second()).rejects.toMatchObject({ code: 'draft-changed', data: { draft: { sha: saved.draftSha } } })
  })

  it('what was made from a draft that was applied since goes on from the file', async () => {
    const sha = await change('start: 250', 'start: 400')
    const server = await world.server()
    const { draft: seen } = await viewFile(world.context, server, PURSE)
    await applyAll(world)
    const next = { path: PURSE, text: seen!.text + '# next\n', baseSha: seen!.baseSha, draftSha: sha }
    await saveDraft(world.context, server, next, 'tobiah')
    expect((await applyAll(world)).status).toBe('verified')
    expect(world.read(PURSE)).toContain('start: 400')
    expect(world.read(PURSE)).toContain('# next')
  })

  it('whoever types on while another applies goes on, though the draft is of another file by then', async () => {
    const { context } = world
    const server = await world.server()
    const { text, sha: base } = await viewFile(context, server, PURSE)
    const first = await saveDraft(
      context,
      server,
      { path: PURSE, text: text.replace('start: 250', 'start: 400'), baseSha: base, draftSha: null },
      'maren',
    )
    const reviewed = await listTray(context, server)
    const mine = text.replace('start: 250', 'start: 400').replace('most: 50', 'most: 60')
    let second = first
    faults.set('commit', async () => {
      faults.clear()
      second = await saveDraft(context, server, { path: PURSE, text: mine, baseSha: base, draftSha: first.draftSha }, 'tobiah')
    })
    await applyTray(context, server, reviewed, 'maren')
    // the page still names the file it began from
    const typed = { path: PURSE, text: `${mine}# more\n`, baseSha: base, draftSha: second.draftSha }
    const third = await saveDraft(context, server, typed, 'tobiah')
    expect(third.baseSha).not.toBe(base)
    expect((await listTray(context, server))[0]).toMatchObject({ sha: third.draftSha, drifted: false })
    await expect(saveDraft(context, server, { ...typed, baseSha: 'nonsense' }, 'tobiah')).rejects.toMatchObject({ code: 'drift' })
    await applyAll(world)
    expect(world.read(PURSE)).toBe(`${mine}# more\n`)
  })

  it('a draft that is refused keeps nothing', async () => {
    const { context } = world
    await change('start: 250', 'start: 400')
    const server = await world.server()
    const { sha } = await viewFile(context, server, PURSE)
    const count = async (): Promise<unknown> => (await context.db('blobs').count({ n: '*' }))[0]
    const before = await count()
    for (let i = 0; i < 5; i++) {
      const text = `start: ${i}\n${'# filler\n'.repeat(1000)}`
      await expect(saveDraft(context, server, { path: PURSE, text, baseSha: sha, draftSha: null }, 'maren')).rejects.toMatchObject({
        code: 'draft-changed',
      })
    }
    expect(await count()).toEqual(before)
  })
})

describe('a draft of a file that was changed on the server', () => {
  it('that came from what stands there goes on from it, whoever was too late to say so', async () => {
    const { context } = world
    const server = await world.server()
    const { sha: baseSha, text } = await viewFile(context, server, PURSE)
    const save = (start: number, draftSha: string | null) =>
      saveDraft(context, server, { path: PURSE, text: text.replace('start: 250', `start: ${start}`), baseSha, draftSha }, 'tobiah')
    const first = await save(400, null)
    const second = await save(500, first.draftSha)
    // the first is written, and nothing makes the second follow
    writeFileSync(world.path(PURSE), text.replace('start: 250', 'start: 400'))
    const third = await save(600, second.draftSha)
    expect(third.baseSha).toBe(first.draftSha)
    await rebaseDraft(context, server, PURSE, 'merge', 'tobiah')
    expect((await applyAll(world)).status).toBe('verified')
    expect(world.read(PURSE)).toContain('start: 600')
  })

  it('two people who edit and apply as fast as they can are never left with one that nobody can apply', async () => {
    const { context } = world
    const server = await world.server()
    writeFileSync(world.path(PURSE), `${world.read(PURSE)}# tobiah: 0\n# maren: 0\n`)
    const edits = async (key: string, count: number): Promise<void> => {
      for (let n = 1; n <= count; n++) {
        const view = await viewFile(context, server, PURSE)
        const now = view.draft?.text ?? view.text
        const text = now.replace(new RegExp(`^# ${key}: \\d+$`, 'm'), `# ${key}: ${n}`)
        const [baseSha, draftSha] = [view.draft?.baseSha ?? view.sha, view.draft?.sha ?? null]
        // whoever is told that somebody else was quicker looks again
        const isKept = await saveDraft(context, server, { path: PURSE, text, baseSha, draftSha }, key).catch((error: unknown) => {
          expect(error).toBeInstanceOf(ServiceError)
          return null
        })
        if (!isKept) n--
        else await applyAll(world).catch((error: unknown) => expect(error).toBeInstanceOf(ServiceError))
      }
    }
    await Promise.all([edits('tobiah', 40), edits('maren', 40)])
    if ((await listTray(context, server)).length > 0) await applyAll(world)
    expect(world.read(PURSE)).toMatch(/# tobiah: 40\n# maren: 40\n$/)
  })

  it('is brought together with it, or kept knowingly', async () => {
    await change('start: 250', 'start: 400')
    const server = await world.server()
    writeFileSync(world.path(PURSE), world.read(PURSE).replace('most: 50', 'most: 60'))
    expect((await listTray(world.context, server))[0]!.drifted).toBe(true)
    await rebaseDraft(world.context, server, PURSE, 'merge', 'tobiah')
    expect((await applyAll(world)).status).toBe('verified')
    expect(world.read(PURSE)).toMatch(/start: 400[^]*most: 60/)
    // the same setting: somebody has to choose
    await change('start: 400', 'start: 500')
    writeFileSync(world.path(PURSE), world.read(PURSE).replace('start: 400', 'start: 600'))
    await expect(rebaseDraft(world.context, server, PURSE, 'merge', 'tobiah')).rejects.toMatchObject({
      code: 'drift',
      data: { draft: expect.stringContaining('500') as unknown, now: expect.stringContaining('600') as unknown },
    })
    await rebaseDraft(world.context, server, PURSE, 'mine', 'tobiah')
    const row = await applyAll(world)
    expect(world.read(PURSE)).toContain('start: 500')
    await undoApply(world.context, server, row.id, 'tobiah')
    expect(world.read(PURSE)).toContain('start: 600')
  })
})

describe('what is applied', () => {
  it('is what was reviewed, and nothing beside it', async () => {
    await change('start: 250', 'start: 400')
    const server = await world.server()
    const reviewed = await listTray(world.context, server)
    await draft(world, 'extras/Purse/texts.properties', (text) => text + '# later\n', 'maren')
    await applyTray(world.context, server, reviewed, 'tobiah')
    expect(world.read(PURSE)).toContain('start: 400')
    expect((await listTray(world.context, server)).map(({ path }) => path)).toEqual(['extras/Purse/texts.properties'])
  })

  it('is refused whole where one of the drafts is another by now, or is gone', async () => {
    await change('start: 250', 'start: 400')
    const server = await world.server()
    const reviewed = await listTray(world.context, server)
    await change('start: 400', 'start: 999', 'maren')
    await expect(applyTray(world.context, server, reviewed, 'tobiah')).rejects.toMatchObject({
      code: 'draft-changed',
      message: expect.stringContaining('maren changed the draft') as unknown,
    })
    await expect(discardDrafts(world.context, server, PURSE, reviewed[0]!.sha)).rejects.toMatchObject({ code: 'draft-changed' })
    await discardDrafts(world.context, server)
    await expect(applyTray(world.context, server, reviewed, 'tobiah')).rejects.toMatchObject({ code: 'draft-changed' })
    await expect(applyTray(world.context, server, [], 'tobiah')).rejects.toMatchObject({ code: 'nothing-to-do' })
    expect(world.read(PURSE)).toContain('start: 250')
    expect(await historyOf(world.context, server)).toEqual([])
  })
})

describe('what others write while a change is written', () => {
  const theirs = 'written: by the game\n'

  it('is found right before the file is replaced, and all is as it was', async () => {
    await change('start: 250', 'start: 400')
    await draft(world, 'extras/Purse/texts.properties', (text) => text + '# mine\n')
    const texts = world.read('extras/Purse/texts.properties')
    faults.set('commit', (path) => {
      if (path.endsWith('texts.properties')) writeFileSync(world.path(path), theirs)
    })
    await expect(applyAll(world)).rejects.toMatchObject({
      code: 'drift',
      message: expect.stringContaining('at this very moment') as unknown,
    })
    faults.clear()
    expect(world.read(PURSE)).toContain('start: 250')
    expect(world.read('extras/Purse/texts.properties')).toBe(theirs)
    expect(texts).not.toBe(theirs)
    expect((await historyOf(world.context, await world.server()))[0]).toMatchObject({ status: 'failed' })
    expect(readdirSync(world.path('extras/Purse')).filter((name) => name.endsWith('.tmp'))).toEqual([])
  })

  it('is kept as what was before where somebody had the file open, and said', async () => {
    await change('start: 250', 'start: 400')
    // opened before it is replaced, and written to after
    const handle = openSync(world.path(PURSE), 'r+')
    faults.set('before', () => {
      faults.clear()
      writeSync(handle, theirs, 0)
      closeSync(handle)
    })
    const row = await applyAll(world)
    expect(row.outcome.message).toContain('what it wrote is kept here as what was before')
    const [file] = await world.context.applies.files(row.id)
    expect(await world.context.blobs.requireText(file!.beforeSha!)).toContain(theirs)
    expect(world.read(PURSE)).toContain('start: 400')
  })

  it('is said where it came after', async () => {
    await change('start: 250', 'start: 400')
    faults.set('before', () => {
      faults.clear()
      writeFileSync(world.path(PURSE), theirs)
    })
    const row = await applyAll(world)
    expect(row.outcome.message).toContain('was written again since')
    expect(world.read(PURSE)).toBe(theirs)
  })

  it('a write that races ours is refused, kept as what was before, or there afterwards: none is lost without a word', async () => {
    const server = await world.server()
    const kept = async (text: string): Promise<boolean> => {
      if (world.read(PURSE) === text) return true
      for (const row of await historyOf(world.context, server))
        for (const file of await world.context.applies.files(row.id))
          if (file.beforeSha && (await world.context.blobs.requireText(file.beforeSha)) === text) return true
      return false
    }
    const rounds = Number(process.env['RACES'] ?? 25)
    const ends = { refused: 0, written: 0 }
    for (let round = 0; round < rounds; round++) {
      const text = `start: ${250 + round}\nround: ${round}\n`
      await draft(world, PURSE, (old) => old.replace(/$/, `# ${round}\n`))
      let isWritten = false
      // half of them in the way of editors, by renaming, half in place; at a moment of their own
      const write = (): void => {
        if (round % 2 === 0) writeFileSync(world.path(PURSE), text)
        else {
          writeFileSync(world.path('extras/Purse/other'), text)
          renameSync(world.path('extras/Purse/other'), world.path(PURSE))
        }
        isWritten = true
      }
      const steps = ['read', 'stage', 'commit', 'before', 'release'] as const
      const step = steps[round % steps.length]!
      faults.set(step, () => {
        faults.delete(step)
        setTimeout(write, (round % 7) / 2)
      })
      const end = await applyAll(world).then(
        () => 'written' as const,
        () => 'refused' as const,
      )
      ends[end]++
      while (!isWritten) await new Promise((resolve) => setImmediate(resolve))
      expect(await kept(text), `round ${round}, at ${step}: ${end}`).toBe(true)
      faults.clear()
      await discardDrafts(world.context, server)
      writeFileSync(world.path(PURSE), 'start: 250\n')
    }
    if (rounds > 25) process.stdout.write(`${rounds} races: ${JSON.stringify(ends)}, none lost without a word\n`)
    expect(ends.refused + ends.written).toBe(rounds)
  })
})

describe('what a server saves while it stops', () => {
  it('is compared with after it has stopped: the change is refused, and the server runs again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'pasticcio-saving-'))
    const game = join(folder, 'game.mjs')
    writeFileSync(
      game,
      `import { readFileSync, writeFileSync } from 'node:fs'
       console.log('12:00:00.000 info   ready, 1 plugins running')
       console.log('12:00:00.000 info   Purse 1.8.0 loaded: x')
       process.stdin.on('data', () => {
         const text = readFileSync('${PURSE}', 'utf8')
         if (text.includes('# saves')) writeFileSync('${PURSE}', text.replace('most: 50', 'most: 77'))
         process.exit(0)
       })`,
    )
    const other = await makeWorld({
      family: (text) => text.replace('after-change: reload', 'after-change: restart'),
      command: [process.execPath, game],
    })
    try {
      cpSync(world.path('extras/Purse'), other.path('extras/Purse'), { recursive: true })
      const server = await other.server()
      await startServer(other.context, server)
      await draft(other, PURSE, (text) => text.replace('start: 250', 'start: 400'))
      expect((await applyAll(other)).status).toBe('verified')
      writeFileSync(other.path(PURSE), `${other.read(PURSE)}# saves\n`)
      await draft(other, PURSE, (text) => text.replace('start: 400', 'start: 500'))
      await expect(applyAll(other)).rejects.toMatchObject({ code: 'drift' })
      expect(other.read(PURSE)).toContain('most: 77')
      expect(other.read(PURSE)).toContain('start: 400')
      expect(server.console.state.status).toBe('running')
      expect((await historyOf(other.context, server))[0]).toMatchObject({ status: 'failed' })
      expect((await listTray(other.context, server))[0]).toMatchObject({ drifted: true })
      // brought together, it is written; what the server saves is the same by then
      await rebaseDraft(other.context, server, PURSE, 'merge', 'tobiah')
      expect((await applyAll(other)).status).toBe('verified')
      expect(other.read(PURSE)).toMatch(/start: 500[^]*most: 77/)
    } finally {
      await other.close()
      rmSync(folder, { recursive: true })
    }
  })
})

describe('a file that is replaced', () => {
  it('keeps its owner, its group and its mode', async () => {
    if (process.getuid?.() !== 0) return
    chmodSync(world.path(PURSE), 0o664)
    chownSync(world.path(PURSE), 1234, 2345)
    await change('start: 250', 'start: 400')
    await applyAll(world)
    const { uid, gid, mode } = statSync(world.path(PURSE))
    expect([uid, gid, mode & 0o777]).toEqual([1234, 2345, 0o664])
    expect(readFileSync(world.path(PURSE), 'utf8')).toContain('400')
  })
})

describe('what cannot be looked into', () => {
  it('is said of the plugin it belongs to, and everything else works', async () => {
    const server = await world.server()
    const elsewhere = mkdtempSync(join(tmpdir(), 'pasticcio-elsewhere-'))
    writeFileSync(join(elsewhere, 'away.yml'), 'a: 1\n')
    cpSync(join(world.folder, 'site/hampers-2.4.pack'), world.path('extras/Hampers.pack'))
    // one plugin's folder lies on another disk; in another's there are links of all kinds
    symlinkSync(elsewhere, world.path('extras/Hampers'))
    symlinkSync(join(elsewhere, 'away.yml'), world.path('extras/Purse/away.yml'))
    symlinkSync(elsewhere, world.path('extras/Purse/folder'))
    symlinkSync('settings.yml', world.path('extras/Purse/again.yml'))
    const { plugins } = await overviewOf(world.context, server)
    const of = (name: string) => plugins.find((plugin) => plugin.name === name)!
    expect(of('Hampers')).toMatchObject({ files: [], problems: [expect.stringContaining('leads out of the server')] })
    expect(of('Purse').problems).toEqual([expect.stringContaining('away.yml leads out'), expect.stringContaining('folder leads out')])
    expect(of('Purse').files.map(({ name }) => name)).toContain('again.yml')
    await change('start: 250', 'start: 400')
    expect((await applyAll(world)).status).toBe('verified')
    rmSync(elsewhere, { recursive: true })
  })

  it('a server whose folder is gone says so in the list, and the others stand', async () => {
    const { context } = world
    const gone = mkdtempSync(join(tmpdir(), 'pasticcio-gone-'))
    const connection = connectionIn(world.folder)
    await context.servers.add({ slug: 'gone', familyId: 'archive', connection: { ...connection, place: { type: 'local', folder: gone } } })
    rmSync(gone, { recursive: true })
    const [here, away] = await listServers(context)
    expect(here).toMatchObject({ slug: 'lantern-row', status: 'running', problem: '' })
    expect(away).toMatchObject({ slug: 'gone', status: 'failed', problem: expect.stringContaining('no such folder') })
  })
})

describe('one thing at a time', () => {
  it('who is second is told who does what; a start that takes long can be stopped', async () => {
    const server = await world.server()
    await stopServer(server)
    await change('start: 250', 'start: 400')
    // the start takes as long as is looked here, however quick the machine is
    const { lifecycle } = server.console
    const start = lifecycle!.start.bind(lifecycle)
    let goOn = (): void => undefined
    const held = new Promise<void>((resolve) => (goOn = resolve))
    Object.assign(lifecycle!, { start: () => Promise.all([start(), held]) })
    const starting = control(world.context, server, 'start', 'tobiah')
    await expect(control(world.context, server, 'restart', 'maren')).rejects.toMatchObject({
      code: 'busy',
      message: expect.stringContaining('tobiah is starting it') as unknown,
    })
    await expect(applyAll(world)).rejects.toMatchObject({ code: 'busy' })
    const stopping = control(world.context, server, 'stop', 'maren')
    goOn()
    await stopping
    await starting.catch(() => undefined)
    expect(server.console.state.status).toBe('stopped')
    expect((await applyAll(world)).status).toBe('written')
  })

  it('a server between two states is not written to', async () => {
    const server = await world.server()
    await change('start: 250', 'start: 400')
    for (const status of ['starting', 'stopping'] as const) {
      const { state } = server.console
      Object.defineProperty(server.console, 'state', { configurable: true, get: () => ({ ...state, status }) })
      await expect(applyAll(world)).rejects.toMatchObject({ code: 'busy' })
      Reflect.deleteProperty(server.console, 'state')
    }
    expect((await applyAll(world)).status).toBe('verified')
  })
})
