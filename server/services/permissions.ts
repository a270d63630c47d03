import {
  LineIndex,
  NO_PERMISSIONS,
  PermissionBook,
  TERM_UNITS,
  fillIn,
  formatOrText,
  isForStaff,
  namesIn,
  parse,
  readGroups,
  readPlayers,
  readingFor,
  withChanges,
  type ByDefault,
  type Document,
  type Family,
  type PermissionNode,
  type Permissions,
  type TermUnit,
} from '@pasticcio/core'
import type { StagedCommand } from '../db/repositories/commands'
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
  /** Who or where it is for besides, by lists of the same entry. */
  readonly only: readonly {
    readonly kind: 'players' | 'places'
    readonly names: readonly string[]
    readonly pointer: string
    readonly line: number
  }[]
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
  /** Settings that could ask for a node and ask for none: what they open is everybody’s. */
  readonly open: readonly Asking[]
  /** Lines of settings that give or deny, by their pointers. */
  readonly lines: Readonly<Record<string, number>>
  readonly findings: readonly Pick<PlacedFinding, 'code' | 'severity' | 'message' | 'subject' | 'file' | 'line'>[]
  /** Whether the running server can be asked what a player may. */
  readonly canAsk: boolean
  readonly players: PlayersPlace
  /** What waits in the tray to be said of single players. */
  readonly staged: readonly StagedCommand[]
}

/** Where what is one player’s alone is kept, and how it is changed. */
export interface PlayersPlace {
  /** Null where there is no such file. */
  readonly file: string | null
  /** By console commands, in the file, or not from here. */
  readonly by: 'commands' | 'file' | null
  /** Units of terms that commands take. */
  readonly units: readonly TermUnit[]
  readonly hasDeny: boolean
  readonly hasGroups: boolean
  /** The section they stand in, as a JSON Pointer. */
  readonly at: string
  /** Lines of players and of what they are given, by their pointers. */
  readonly lines: Readonly<Record<string, number>>
  /** What an id looks like, as a regular expression; null where nobody says. */
  readonly id: string | null
}
const NO_PLAYERS: PlayersPlace = { file: null, by: null, units: [], hasDeny: false, hasGroups: false, at: '', lines: {}, id: null }

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
      open: openIn(all),
      lines: {},
      findings: [],
      canAsk: false,
      players: NO_PLAYERS,
      staged: [],
    }
  const { place, text } = there
  const staged = await context.playerCommands.staged(server.row.id)
  const drafted = await playersFile(context, server, true)
  // where neither file has a draft, what stands is what was just read
  const isDrafted = [family.permissions.players, family.permissions.operators].some((one) => one && all.drafts.has(one.file))
  const stands = isDrafted ? await playersOf(context, server) : drafted.players
  const players = withChanges(
    drafted.players,
    staged.map(({ change, called }) => ({ ...change, called })),
    context.now().getTime(),
  )
  const permissions = permissionsIn(family, place, text, players)
  const isChanged = all.drafts.has(place.file) || staged.length > 0 || isDrafted
  const bytes = isChanged ? await server.place.read(place.file, SIZES.settings) : null
  return {
    file: place.file,
    plugin: all.files.get(place.file)?.facts?.plugin ?? '',
    permissions,
    standing: bytes ? permissionsIn(family, place, decode(place.file, bytes), stands) : null,
    nodes: nodesOf(all, permissions),
    open: openIn(all),
    lines: linesOf(text, permissions),
    findings: all.findings
      .filter(({ check }) => check === 'nodes-fit')
      .map(({ code, severity, message, subject, file, line }) => ({ code, severity, message, subject, file, line })),
    canAsk: family.console.rights !== undefined && family.console['rights-told'] !== undefined,
    players: playersPlace(server, drafted),
    staged,
  }
}

function playersPlace(server: Server, { text, players: known }: PlayersFile): PlayersPlace {
  const { players, commands, id = null } = server.family.permissions
  if (!players) return { ...NO_PLAYERS, id }
  const lines = new LineIndex(text ?? '')
  const places = known.flatMap(({ pointer, from, grants }) => [{ pointer, from }, ...grants])
  return {
    file: text === null ? null : players.file,
    by: commands ? 'commands' : text === null ? null : 'file',
    units: TERM_UNITS.filter((unit) => commands?.term?.[unit] !== undefined),
    hasDeny: !commands || commands.deny !== undefined,
    hasGroups: !commands || (commands.join !== undefined && commands.leave !== undefined),
    at: players.at,
    lines: Object.fromEntries(places.map(({ pointer, from }) => [pointer, lines.position(from).line])),
    id,
  }
}

/** The text of a file of players or operators, or of its draft; null where there is none. */
async function playersText(context: Context, { place, row }: Server, path: string, drafted: boolean): Promise<string | null> {
  const draft = drafted ? await context.drafts.get(row.id, path) : null
  if (draft) return context.blobs.requireText(draft.sha)
  const bytes = await place.read(path, SIZES.settings)
  return bytes && decode(path, bytes)
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

interface PlayersFile {
  /** Null where there is none. */
  readonly text: string | null
  readonly players: Permissions['players']
}

/** Players that the permission plugin knows, as their file stands, or as its draft has it. */
async function playersFile(context: Context, server: Server, drafted: boolean): Promise<PlayersFile> {
  const { players, operators } = server.family.permissions
  const own = operators ? await playersText(context, server, operators.file, drafted) : null
  const names = new Set(own === null ? [] : namesIn(documentOf(server.family, operators!.file, own), operators!.at))
  const text = players ? await playersText(context, server, players.file, drafted) : null
  return { text, players: text === null ? [] : readPlayers(documentOf(server.family, players!.file, text), players!.at, names) }
}

/** The same as they stand on the server. */
export const playersOf = async (context: Context, server: Server): Promise<Permissions['players']> =>
  (await playersFile(context, server, false)).players

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
    for (const one of facts && text !== null ? askings(file, facts, text, wanted) : [])
      asked.set(one.node, [...(asked.get(one.node) ?? []), one.asking])
  }
  return asked
}

const openIn = ({ files }: ServerWorkspace): Asking[] =>
  [...files].flatMap(([file, { facts, text }]) =>
    facts && text !== null ? askings(file, facts, text, facts.open).map(({ asking }) => asking) : [],
  )

type FileFacts = NonNullable<ReturnType<ServerWorkspace['files']['get']>>['facts'] & object

/** Settings with their lines, and with the lists beside them that say for whom they are. */
function askings(
  file: string,
  facts: FileFacts,
  text: string,
  wanted: FileFacts['open'],
): { readonly node: string; readonly asking: Asking }[] {
  if (wanted.length === 0) return []
  const lines = new LineIndex(text)
  const lineOf = (from: number): number => lines.position(from).line
  return wanted.map(({ text: node, pointer, from }) => {
    const entry = pointer.slice(0, pointer.lastIndexOf('/'))
    const only = facts.audiences
      .filter(({ of }) => of === entry)
      .map(({ kind, names, pointer: at, from: start }) => ({ kind, names, pointer: at, line: lineOf(start) }))
    return { node, asking: { plugin: facts.plugin ?? '', file, pointer, line: lineOf(from), only } }
  })
}

function linesOf(text: string, { groups }: Permissions): Record<string, number> {
  const lines = new LineIndex(text)
  const places = groups.flatMap(({ pointer, from, grants, inherits }) => [{ pointer, from }, ...grants, ...inherits])
  return Object.fromEntries(places.map(({ pointer, from }) => [pointer, lines.position(from).line]))
}
