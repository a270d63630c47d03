import { formatOf, parse, readGroups, readPlayers, type Permissions } from '@pasticcio/core'
import type { PlayersPlace } from '../../server/services/permissions'
import type { ServerPermissions, ShownNode } from '../../app/utils/types'
import { answeringMessages } from './message-world'

export const FILE = 'extras/Wardkeys/settings.yml'
export const SOURCE =
  'groups:\n  mudlark:\n    weight: 10\n    nodes:\n      - ferry.ride\n  keeper:\n    weight: 30\n    inherits: [mudlark]\n    nodes:\n      - ferry.*\n      - -ferry.bell\n  warden:\n    weight: 90\n    inherits: [keeper]\n    nodes: []\n'
export const PLAYERS = 'players:\n  "77001": { name: isolde, groups: [keeper], nodes: [-ferry.ride] }\n  "77002": { name: nessa }\n'
export const read = (source: string): Permissions => ({
  ...readGroups(parse(source, formatOf('a.yml')!), '/groups'),
  players: readPlayers(parse(PLAYERS, formatOf('a.yml')!), '/players', new Set()),
  everybody: 'mudlark',
  wins: 'nearest',
})
/** A node as the server tells of it. */
export const node = (name: string, more: Partial<ShownNode> = {}): ShownNode => ({
  node: name,
  says: '',
  plugin: 'Moorings',
  byDefault: 'nobody',
  isDeclared: true,
  isStaff: false,
  asked: [],
  ...more,
})
export const NODES = [
  node('ferry.ride', { says: 'Ride the ferry' }),
  node('ferry.bell', { says: 'Ring the ferry bell' }),
  node('ferry.admin', { says: 'Move the ferry', isStaff: true }),
  node('hampers.claim', {
    plugin: 'Hampers',
    asked: [{ plugin: 'Hampers', file: 'h.yml', pointer: '/hampers/angler/node', line: 4, only: [] }],
  }),
  node('gone.away', { plugin: '', isDeclared: false }),
]
const NO_PLAYERS: PlayersPlace = { file: null, by: null, units: [], hasDeny: false, hasGroups: false, at: '', lines: {}, id: null }
export const answerOf = (source: string, more: Partial<ServerPermissions> = {}): ServerPermissions => ({
  file: FILE,
  plugin: 'Wardkeys',
  permissions: read(source),
  standing: null,
  nodes: NODES,
  open: [],
  lines: {},
  findings: [],
  canAsk: false,
  players: NO_PLAYERS,
  staged: [],
  ...more,
})

/** A server that answers what the last draft says. */
export function permissionWorld(
  more: Partial<ServerPermissions> = {},
  answers: Parameters<typeof answeringMessages>[2] = {},
  start = SOURCE,
) {
  let source = start
  return answeringMessages(
    start,
    {},
    {
      'GET /permissions': () => answerOf(source, { standing: source === start ? null : read(start), ...more }),
      'POST /permissions/ask': { nodes: ['ferry.admin'] },
      ...answers,
      'PUT /draft': (body: unknown) => {
        source = (body as { text: string }).text
        return { baseSha: 'base', draftSha: `sha ${source.length}` }
      },
    },
  )
}
