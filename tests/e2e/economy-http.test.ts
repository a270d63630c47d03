import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { ask, cookiesByRole, startApp, textOf, type RunningApp } from './app'

const S = '/api/servers/lantern-row'
const PURSE = 'extras/Purse/settings.yml'

interface Stream {
  readonly name: string
  readonly way: 'in' | 'out'
  readonly amount: number
  readonly file: string
  readonly pointer: string
}
interface Facts {
  readonly streams: readonly Stream[]
  readonly offers: readonly { readonly item: string; readonly way: string; readonly amount: number }[]
}
interface Gathered {
  readonly facts: Facts
  readonly standing: { readonly plugins: readonly string[]; readonly facts: Facts } | null
  readonly lines: Readonly<Record<string, number>>
  readonly assumed: { readonly revision: number; readonly by: string; readonly assumed: { readonly rates: object } } | null
  readonly seen: { readonly players: number | null; readonly online: number | null }
  readonly money: string
}

interface Reckoned {
  readonly money: string
  readonly flow: {
    readonly today: { readonly comesIn: number; readonly goesOut: number; readonly stays: number }
    readonly streams: readonly {
      readonly name: string
      readonly way: string
      readonly today: number | null
      readonly draft: number | null
    }[]
  }
  readonly tables: readonly { readonly pointer: string; readonly outcomes: readonly { readonly name: string; readonly chance: number }[] }[]
}

/** The economy as scripts ask for it, without a browser. */
describe('the economy over HTTP', () => {
  let app: RunningApp
  let owner = ''
  let editor = ''
  let viewer = ''
  const call = <T = unknown>(cookie: string, method: string, path: string, body?: unknown): Promise<T> =>
    ask<T>(app, cookie, method, path, body)
  const gathered = (cookie = viewer): Promise<Gathered> => call<Gathered>(cookie, 'GET', `${S}/economy`)
  const payout = ({ streams }: Facts, name: string): number | undefined => streams.find((one) => one.name === name)?.amount
  /** Changes a file as a script does: reads it, and saves its draft. */
  async function change(path: string, from: string, to: string): Promise<void> {
    const view = await call<{ text: string; sha: string; draft: { text: string; sha: string; baseSha: string } | null }>(
      editor,
      'GET',
      `${S}/file?path=${encodeURIComponent(path)}`,
    )
    const text = (view.draft?.text ?? view.text).replace(from, to)
    const body = { path, text, baseSha: view.draft?.baseSha ?? view.sha, draftSha: view.draft?.sha ?? null }
    await call(editor, 'PUT', `${S}/draft`, body)
  }
  async function apply(): Promise<number> {
    const drafts = (await call<{ path: string; sha: string }[]>(editor, 'GET', `${S}/tray`)).map(({ path, sha }) => ({ path, sha }))
    return (await call<{ id: number }>(editor, 'POST', `${S}/tray/apply`, { drafts })).id
  }

  beforeAll(async () => {
    app = await startApp()
    ;({ owner, editor, viewer } = await cookiesByRole(app))
    await call(owner, 'DELETE', `${S}/tray`)
  }, 240_000)
  afterAll(() => app?.stop())

  it('all that is reckoned is there for scripts, and comes to what the files say', async () => {
    const reckoned = await call<Reckoned>(viewer, 'GET', `${S}/economy/reckoned`)
    expect(reckoned.money).toBe('marks')
    // sums close, and are those of their streams
    const sum = (way: string): number =>
      reckoned.flow.streams.filter((one) => one.way === way).reduce((all, one) => all + (one.today ?? 0), 0)
    expect(sum('in')).toBeCloseTo(reckoned.flow.today.comesIn, 6)
    expect(sum('out')).toBeCloseTo(reckoned.flow.today.goesOut, 6)
    expect(reckoned.flow.today.comesIn - reckoned.flow.today.goesOut).toBeCloseTo(reckoned.flow.today.stays, 6)
    // true chances, held against the file as another reader has it
    const { pits } = parse(await textOf(app, viewer, 'extras/Clayworks/settings.yml')) as {
      pits: Record<string, { yields: Record<string, number> }>
    }
    for (const [pit, { yields }] of Object.entries(pits)) {
      const weights = Object.values(yields).reduce((all, weight) => all + weight, 0)
      const { outcomes } = reckoned.tables.find(({ pointer }) => pointer === `/pits/${pit}/yields`)!
      for (const { name, chance } of outcomes) expect(chance).toBeCloseTo(yields[name]! / weights, 9)
    }
    // a draft moves the draft's numbers, and not today's
    const before = reckoned.flow.streams.find(({ name }) => name === 'fire-kiln')!
    await change(PURSE, 'fire-kiln: 4', 'fire-kiln: 8')
    const now = (await call<Reckoned>(viewer, 'GET', `${S}/economy/reckoned`)).flow.streams.find(({ name }) => name === 'fire-kiln')!
    expect([now.today, now.draft]).toEqual([before.today, (before.today ?? 0) * 2])
    await call(owner, 'DELETE', `${S}/tray`)
  })

  it('each number leads to its line, and to nothing else', async () => {
    const { facts, lines, money } = await gathered()
    expect(money).toBe('marks')
    const texts = new Map<string, string[]>()
    for (const { file, pointer, amount } of facts.streams.filter(({ amount: one }) => Number.isInteger(one))) {
      if (!texts.has(file)) texts.set(file, (await textOf(app, owner, file)).split('\n'))
      expect(texts.get(file)![lines[`${file}#${pointer}`]! - 1]).toMatch(new RegExp(`${pointer.split('/').at(-1)}: ${amount}\\b`))
    }
  })

  it('accounts of the server say how many players there are', async () => {
    const { seen } = await gathered()
    expect(seen.players).toBe(128)
    expect(seen.online).toBeGreaterThan(1)
  })

  it('is of the draft, with what stands beside it, and what an update makes of it', async () => {
    await change(PURSE, 'fire-kiln: 4', 'fire-kiln: 9')
    const { facts, standing } = await gathered()
    const { part: update } = await call<{ part: { readonly plugins: readonly string[]; readonly facts: Facts } }>(
      viewer,
      'GET',
      `${S}/economy/update`,
    )
    expect([payout(facts, 'fire-kiln'), payout(standing!.facts, 'fire-kiln')]).toEqual([9, 4])
    expect(standing!.plugins).toEqual(['Purse'])
    expect(update.plugins).not.toContain('Purse')
    // carried onto what is set here: the hamper that costs less than it was shipped with still does
    expect(update.facts.streams.find(({ name }) => name === 'kilnkeeper')?.amount).toBe(35)
  })

  it('before a change of the history it is as it was', async () => {
    const id = await apply()
    await change(PURSE, 'fire-kiln: 9', 'fire-kiln: 12')
    const before = await call<Facts>(viewer, 'GET', `${S}/economy/before?change=${id}`)
    expect(payout(before, 'fire-kiln')).toBe(4)
    expect(payout((await gathered()).facts, 'fire-kiln')).toBe(12)
    await call(editor, 'DELETE', `${S}/tray`)
    expect(payout((await gathered()).facts, 'fire-kiln')).toBe(9)
  })

  it('servers of other families have theirs, each in its own formats', async () => {
    for (const slug of ['night-market', 'ferry-trials']) {
      const { facts, standing } = await call<Gathered>(owner, 'GET', `/api/servers/${slug}/economy`)
      expect([Array.isArray(facts.streams), Array.isArray(facts.offers), standing]).toEqual([true, true, null])
    }
  })

  it('of many who save at once what is assumed exactly one is heard, and the others are told', async () => {
    const kinds = [{ id: 'all', name: 'All', like: 'regular', players: 12, hours: 2 }]
    const since = (await gathered()).assumed?.revision ?? 0
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_x, i) =>
        fetch(`${app.origin}${S}/economy/assumed`, {
          method: 'PUT',
          headers: { cookie: i % 2 === 0 ? owner : editor, 'content-type': 'application/json' },
          body: JSON.stringify({ since, assumed: { kinds, rates: { 'buys Stallholder': { all: i } }, goals: null } }),
        }),
      ),
    )
    expect(answers.map(({ status }) => status).sort()).toEqual([200, ...Array.from({ length: 11 }, () => 409)])
    const at = answers.findIndex(({ status }) => status === 200)
    const { assumed } = await gathered()
    expect(assumed).toMatchObject({ revision: since + 1, assumed: { kinds, rates: { 'buys Stallholder': { all: at } } } })
    const refused = (await answers.find(({ status }) => status === 409)!.json()) as { code: string; title: string }
    expect(refused).toMatchObject({ code: 'assumptions-changed', title: expect.stringContaining(assumed!.by) as string })
  })

  it('who may only look saves nothing', async () => {
    await expect(
      call(viewer, 'PUT', `${S}/economy/assumed`, { since: 0, assumed: { kinds: [], rates: {}, goals: null } }),
    ).rejects.toThrow()
  })
})
