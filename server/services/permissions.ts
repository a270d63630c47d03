import {
  LineIndex,
  NO_PERMISSIONS,
  PermissionBook,
  fillIn,
  formatOrText,
  isForStaff,
  namesIn,
  parse,
  readGroups,
  readPlayers,
  readingFor,
  type ByDefault,
  type Document,
  type Family,
  type PermissionNode,
  type Permissions,
} from '@pasticcio/core'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { SIZES } from './sizes'
import { decode } from './text'
import { workspaceFor, type PlacedFinding, type ServerWorkspace } from './workspace'

/** A setting that asks for a node. */
export interface Asking {
  readonly plugin: string
  readonly file: string
  readonly pointer: string
  readonly line: number
}

/** A node with all that is known of it. */
export interface ShownNode extends PermissionNode {
  /** Whether a plugin that is here declares it. */
  readonly isDeclared: boolean
  /** Whether its name says that it is for those who keep the server. */
  readonly isStaff: boolean
  readonly asked: readonly Asking[]
}

/** Who may what on a server, as the drafts have it. */
export interface ServerPermissions {
  /** The file the groups are in; null where no plugin here keeps any. */
  readonly file: string | null
  readonly plugin: string
  readonly permissions: Permissions
  /** The same as it stands on the server; null where no draft changes it. */
  readonly standing: Permissions | null
  readonly nodes: readonly ShownNode[]
  /** Lines of settings that give or deny, by their pointers. */
  readonly lines: Readonly<Record<string, number>>
  readonly findings: readonly Pick<PlacedFinding, 'code' | 'severity' | 'message' | 'subject' | 'file' | 'line'>[]
  /** Whether the running server can be asked what a player may. */
  readonly canAsk: boolean
}

/** Groups, players and nodes of a server, drafts in their places. */
export async function permissionsOf(context: Context, server: Server): Promise<ServerPermissions> {
  const all = await workspaceFor(context, server)
  const { family } = server
  const there = groupsFile(all)
  if (!there)
    return {
      file: null,
      plugin: '',
      permissions: NO_PERMISSIONS,
      standing: null,
      nodes: nodesOf(all, NO_PERMISSIONS),
      lines: {},
      findings: [],
      canAsk: false,
    }
  const { place, text } = there
  const players = await playersOf(server)
  const read = (source: string): Permissions => permissionsIn(family, place, source, players)
  const permissions = read(text)
  const bytes = all.drafts.has(place.file) ? await server.place.read(place.file, SIZES.settings) : null
  return {
    file: place.file,
    plugin: all.files.get(place.file)?.facts?.plugin ?? '',
    permissions,
    standing: bytes ? read(decode(place.file, bytes)) : null,
    nodes: nodesOf(all, permissions),
    lines: linesOf(text, permissions),
    findings: all.findings
      .filter(({ check }) => check === 'nodes-fit')
      .map(({ code, severity, message, subject, file, line }) => ({ code, severity, message, subject, file, line })),
    canAsk: family.console.rights !== undefined && family.console['rights-told'] !== undefined,
  }
}

type Place = NonNullable<ServerWorkspace['knowledge']['groups']>

/** The file that groups stand in, the draft in its place; null where there is none. */
function groupsFile({ knowledge, files }: ServerWorkspace): { readonly place: Place; readonly text: string } | null {
  const place = knowledge.groups
  const text = place && files.get(place.file)?.text
  return place && typeof text === 'string' ? { place, text } : null
}

const permissionsIn = (family: Family, place: Place, text: string, players: Permissions['players'] = []): Permissions => ({
  ...readGroups(documentOf(family, place.file, text), place.at),
  players,
  wins: family.permissions.wins,
})

/** What says which groups may what, drafts in their places; null where no plugin here keeps groups. */
export function bookOf({ family }: Server, all: ServerWorkspace): PermissionBook | null {
  const there = groupsFile(all)
  if (!there) return null
  const permissions = permissionsIn(family, there.place, there.text)
  return permissions.groups.length > 0 ? new PermissionBook(permissions, nodesOf(all, permissions)) : null
}

/** So long the server may take to answer. */
const ANSWERS_WITHIN_MS = 3_000

/**
 * The nodes that the running server says a player holds.
 * @throws ServiceError `not-found` where the family cannot ask, `server-stopped`, `unreachable` where it does not answer
 */
export async function askRights({ console, family }: Server, player: string): Promise<readonly string[]> {
  const { rights } = family.console
  if (rights === undefined || family.console['rights-told'] === undefined) throw notFound(`way to ask this server what ${player} may`)
  if (console.state.status !== 'running')
    throw new ServiceError('server-stopped', 409, 'The server does not run. Start it, then ask again.')
  let nodes: readonly string[] | null = null
  const from = console.lastSeq
  console.send(fillIn(rights, { player }))
  await console.waitFor(
    ({ event }) => {
      if (event?.type === 'rights' && event.player === player) nodes = event.nodes
      return nodes !== null
    },
    from,
    ANSWERS_WITHIN_MS,
  )
  if (nodes === null) throw new ServiceError('unreachable', 504, `The server did not say what ${player} may. Look into its console.`)
  return nodes
}

const documentOf = (family: Family, path: string, text: string): Document => parse(text, formatOrText(path), readingFor(path, family))

async function playersOf({ family, place }: Server): Promise<Permissions['players']> {
  const { players, operators } = family.permissions
  const read = async (path: string): Promise<Document | null> => {
    const bytes = await place.read(path, SIZES.settings)
    return bytes && documentOf(family, path, decode(path, bytes))
  }
  const own = operators ? await read(operators.file) : null
  const names = new Set(own ? namesIn(own, operators!.at) : [])
  const known = players ? await read(players.file) : null
  return known ? readPlayers(known, players!.at, names) : []
}

/** Nodes that plugins declare, those that settings ask for, and those that groups are given. */
function nodesOf(all: ServerWorkspace, permissions: Permissions): ShownNode[] {
  const asked = askedIn(all)
  const found = new Map<string, ShownNode>()
  const add = (node: string, says: string, plugin: string, byDefault: ByDefault, isDeclared: boolean): void => {
    if (!found.has(node))
      found.set(node, { node, says, plugin, byDefault, isDeclared, isStaff: isForStaff(node), asked: asked.get(node) ?? [] })
  }
  for (const { name, info } of all.plugins)
    for (const [node, says] of Object.entries(info.nodes)) add(node, says, name, info.open.includes(node) ? 'everyone' : 'nobody', true)
  for (const [node, [first]] of asked) add(node, '', first!.plugin, 'nobody', false)
  for (const { grants } of [...permissions.groups, ...permissions.players])
    for (const { node } of grants) if (!node.endsWith('*')) add(node, '', '', 'nobody', false)
  return [...found.values()]
}

function askedIn({ files }: ServerWorkspace): Map<string, Asking[]> {
  const asked = new Map<string, Asking[]>()
  for (const [file, { facts, text }] of files) {
    const wanted = (facts?.nodes ?? []).filter(({ isGiven }) => !isGiven)
    if (wanted.length === 0 || text === null) continue
    const lines = new LineIndex(text)
    for (const { text: node, pointer, from } of wanted) {
      const one = { plugin: facts!.plugin ?? '', file, pointer, line: lines.position(from).line }
      asked.set(node, [...(asked.get(node) ?? []), one])
    }
  }
  return asked
}

function linesOf(text: string, { groups }: Permissions): Record<string, number> {
  const lines = new LineIndex(text)
  const places = groups.flatMap(({ pointer, from, grants, inherits }) => [{ pointer, from }, ...grants, ...inherits])
  return Object.fromEntries(places.map(({ pointer, from }) => [pointer, lines.position(from).line]))
}
