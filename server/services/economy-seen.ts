import {
  NOTHING_SEEN,
  accountsSeen,
  balancesIn,
  doneADay,
  formatOrText,
  parse,
  readingFor,
  type EconomyFacts,
  type Seen,
} from '@pasticcio/core'
import type { Context, Server } from './context'
import type { Installed } from './inventory'
import { SIZES } from './sizes'
import { decode } from './text'
import type { ServerWorkspace } from './workspace'

/** So far is looked back for how many are online, in seconds. */
const LOOKED_BACK = 7 * 86_400
/** Fewer samples than this, of a minute or so, tell nothing of a day. */
const FEWEST_SAMPLES = 60

/** What the records that plugins wrote, and the measures of the server, say of its players. */
export async function seenOf(context: Context, server: Server, all: ServerWorkspace, facts: EconomyFacts): Promise<Seen> {
  const keepers = new Set([...all.files.values()].flatMap(({ facts: one }) => (one?.keepsMoney ? [one.plugin] : [])))
  const until = Math.floor(context.now().getTime() / 1000) + 1
  const samples = await context.samples.list(server.row.id, { from: until - LOOKED_BACK, until })
  const online = samples.length < FEWEST_SAMPLES ? null : samples.reduce((sum, { players }) => sum + players, 0) / samples.length
  let accounts = accountsSeen([])
  const times: Record<string, number> = {}
  const readers = all.plugins.filter(({ records }) => records.length > 0)
  for (const plugin of readers.filter(({ name }) => keepers.has(name)))
    for (const document of await recordsOf(server, plugin)) {
      const seen = accountsSeen(balancesIn(document))
      if ((seen.players ?? 0) > (accounts.players ?? 0)) accounts = seen
    }
  if (accounts.players === null) return { ...NOTHING_SEEN, online }
  for (const plugin of readers) {
    const streams = facts.streams.filter(({ plugin: of, shareOf, isOnce }) => of === plugin.name && shareOf === null && !isOnce)
    if (streams.length === 0 || keepers.has(plugin.name)) continue
    const byName = new Map(streams.map(({ name, file, pointer }) => [name, `${file}#${pointer}`]))
    for (const document of await recordsOf(server, plugin))
      for (const [name, often] of doneADay(document, new Set(byName.keys()), accounts.players)) times[byName.get(name)!] = often
  }
  return { ...accounts, online, times }
}

async function recordsOf({ place, family }: Server, { records }: Installed): Promise<ReturnType<typeof parse>[]> {
  const texts = await Promise.all(records.map(async ({ path }) => ({ path, bytes: await place.read(path, SIZES.settings) })))
  return texts.flatMap(({ path, bytes }) => (bytes ? [parse(decode(path, bytes), formatOrText(path), readingFor(path, family))] : []))
}
