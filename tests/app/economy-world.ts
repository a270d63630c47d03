import {
  NOTHING_ASSUMED,
  NOTHING_SEEN,
  NO_KNOWLEDGE,
  LineIndex,
  economyFacts,
  factsOf,
  workspaceFile,
  workspaceOf,
  type Assumed,
  type EconomyFacts,
} from '@pasticcio/core'
import type { ServerEconomy } from '../../app/utils/types'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { answering, overviewOf, viewOf } from './world'
import { UNSAID } from '@pasticcio/core'

const ITEMS = new Set(['rope', 'lamp', 'clay', 'brick', 'eel', 'net'])
export const PURSE = 'extras/Purse/settings.yml'
export const STALLS = 'extras/Stalls/prices.yml'
export const WHARF = 'extras/Wharf/goods.json'
export const PITS = 'extras/Pits/settings.yml'
const FILES: Readonly<Record<string, string>> = {
  [PURSE]: 'accounts:\n  # What a newcomer starts with, in marks.\n  start: 100\npayouts:\n  fire-kiln: 4\n  run-ferry: 8\n',
  [STALLS]: '# What items cost, in marks.\nprices:\n  rope: 10\n  lamp: 20\n  clay: 2\n  brick: 6\n  net: 12\n',
  [WHARF]: '{ "goods": { "rope": { "buy": 15, "sell": 13 }, "eel": { "buy": 4, "sell": 1 } } }\n',
  [PITS]: 'bank:\n  yields:\n    clay: 3\n    eel: 1\n',
}
const pluginOf = (path: string): string => path.split('/')[1]!

/** What the server gathers of these texts. @param shipped what their plugins ship in their places */
export function factsFrom(files: Readonly<Record<string, string>>, shipped: Readonly<Record<string, string>> = files): EconomyFacts {
  const read = Object.entries(files).map(([path, text]) =>
    workspaceFile({ path, plugin: pluginOf(path), text, factory: shipped[path] ?? text, reading: UNSAID, known: { items: ITEMS } })!,
  )
  const workspace = workspaceOf(read, null, [], { ...NO_KNOWLEDGE, lists: { items: ITEMS } })
  return economyFacts(read.map((file) => factsOf(workspace, file)))
}

/** A server with these files, which keeps drafts and what is assumed, and gathers both anew whenever it is asked. */
export function economyWorld(more: Partial<ServerEconomy> = {}, files: Readonly<Record<string, string>> = FILES) {
  const drafts: Record<string, string> = {}
  const kept: { assumed: Assumed; revision: number } = { assumed: NOTHING_ASSUMED, revision: 0 }
  const now = (): Record<string, string> => ({ ...files, ...drafts })
  const economy = (): ServerEconomy => {
    const plugins = Object.keys(drafts).map(pluginOf)
    const facts = factsFrom(now(), files)
    const own = factsFrom(Object.fromEntries(Object.entries(files).filter(([path]) => plugins.includes(pluginOf(path)))))
    const lines = facts.streams.map(({ file, pointer, from }) => [`${file}#${pointer}`, new LineIndex(now()[file]!).position(from).line])
    return {
      facts,
      standing: plugins.length > 0 ? { plugins, facts: own } : null,
      kinds: {},
      lines: Object.fromEntries(lines) as Record<string, number>,
      assumed: kept.revision > 0 ? { ...kept, by: 'maren', at: '' } : null,
      seen: NOTHING_SEEN,
      money: 'marks',
      unread: [],
      ...more,
    }
  }
  const answers: Parameters<typeof answering>[0] = {
    'GET /economy': economy,
    'GET /economy/update': { part: null },
    'GET /file': (_body: unknown, url: string) => {
      const path = decodeURIComponent(/path=([^&]+)/.exec(url)![1]!)
      return viewOf(files[path]!, { path, plugin: pluginOf(path), factory: files[path]! })
    },
    'PUT /draft': (body: unknown) => {
      const { path, text } = body as { path: string; text: string }
      drafts[path] = text
      return { baseSha: 'base', draftSha: `sha ${text.length}` }
    },
    'PUT /economy/assumed': (body: unknown) => {
      kept.assumed = (body as { assumed: Assumed }).assumed
      kept.revision++
      return { ...kept, by: 'tobiah', at: '' }
    },
    'GET /known': {
      registries: {},
      nodes: [],
      ports: [],
      placeholders: [],
      texts: { placeholder: ['{', '}'], lineBreak: null, codes: null, marks: [] },
    },
    'GET /tray': [],
    'GET /overview': overviewOf(),
    'GET /history': [],
    'GET /api/house': [],
  }
  const asked = answering(answers)
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().$patch({ me: { name: 'tobiah', role: 'editor' } } as never)
  return { drafts, kept, answers, asked }
}
