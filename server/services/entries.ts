import {
  LineIndex,
  OperationError,
  RuleBook,
  copyInto,
  findReferences,
  formatPointer,
  getNode,
  isContainer,
  nameOfEntry,
  parse,
  formatOrText,
  parsePointer,
  tablesIn,
  type Document,
  type Misfit,
  type Node,
  type Reference,
  type WorkspaceFile,
} from '@pasticcio/core'
import type { Context, Server } from './context'
import { saveDraft } from './drafts'
import { ServiceError, notFound, type ErrorCode } from './errors'
import { listedIn, type RegistryName } from './registries'
import { viewFile } from './settings'
import { workspaceFor, type ServerWorkspace } from './workspace'

export interface ShownReference extends Omit<Reference, 'from'> {
  readonly line: number
  readonly plugin: string | null
}

export interface ReferencesTo {
  /** What the entry is called; null where nothing of it is a name. */
  readonly name: string | null
  readonly references: readonly ShownReference[]
}

const keysIn = (pointer: string): string[] => {
  const keys = parsePointer(pointer)
  if (!keys) throw new ServiceError('bad-input', 400, `${pointer} is no JSON Pointer. It begins with a slash.`)
  return keys
}

const ANSWERS: Readonly<Partial<Record<OperationError['code'], readonly [ErrorCode, number]>>> = {
  'no-such-setting': ['not-found', 404],
  'key-exists': ['name-taken', 409],
}

/** Says why an operation cannot be done as an answer does. */
function asAnswer<T>(path: string, work: () => T): T {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof OperationError)) throw error
    const [code, status] = ANSWERS[error.code] ?? ['does-not-fit', 422]
    throw new ServiceError(code, status, `${path}: ${error.message}.`)
  }
}

function fileOf({ files }: ServerWorkspace, path: string): WorkspaceFile {
  const known = files.get(path)
  const file = known?.read()
  if (file) return file
  const problem = known?.problem
  throw problem ? new ServiceError('not-text', 422, problem) : notFound(`settings file ${path} on this server`)
}

/**
 * What refers to an entry, in all files of a server as drafts have them, with the line each stands in.
 * @throws ServiceError `not-found`, `no-such-setting`
 */
export async function referencesTo(context: Context, server: Server, path: string, pointer: string): Promise<ReferencesTo> {
  const keys = keysIn(pointer)
  const all = await workspaceFor(context, server)
  const { document } = fileOf(all, path)
  const workspace = all.documents()
  return asAnswer(path, () => {
    const lines = new Map<string, LineIndex>()
    const lineOf = ({ file, from }: Reference): number => {
      if (!lines.has(file)) lines.set(file, new LineIndex(workspace.files.get(file)!.document.text))
      return lines.get(file)!.position(from).line
    }
    const references = findReferences(workspace, path, keys).map((one): ShownReference => {
      const { file, pointer: at, what, text, isSure } = one
      return { file, pointer: at, what, text, isSure, line: lineOf(one), plugin: workspace.files.get(file)!.plugin }
    })
    return { name: nameOfEntry(document, keys), references }
  })
}

/** A section or list that entries can be put into. */
export interface GroupFound {
  readonly pointer: string
  /** How many entries it has. */
  readonly size: number
  readonly kind: 'section' | 'list'
}

/** Where in a file entries can be copied to: groups and lists of like entries, and what is empty. */
export async function groupsOf(context: Context, server: Server, path: string): Promise<GroupFound[]> {
  const { document } = fileOf(await workspaceFor(context, server), path)
  const groups = tablesIn(document).flatMap(({ pointer, kind, size }): GroupFound[] =>
    kind === 'values' ? [] : [{ pointer, size, kind: kind === 'list' ? 'list' : 'section' }],
  )
  return [...groups, ...emptyIn(document)]
}

function emptyIn(document: Document): GroupFound[] {
  const found: GroupFound[] = []
  const look = (node: Node, keys: readonly string[]): void => {
    if (!isContainer(node)) return
    if (node.entries.length === 0 && keys.length > 0)
      found.push({ pointer: formatPointer(keys), size: 0, kind: node.type === 'list' ? 'list' : 'section' })
    for (const entry of node.entries) look(entry.value, [...keys, entry.key])
  }
  look(document.root, [])
  return found
}

/** An entry of a file on some server. */
export interface EntryPlace {
  readonly server: Server
  readonly path: string
  readonly pointer: string
}

/** Where it is copied to. */
export interface EntryTarget {
  readonly server: Server
  readonly path: string
  /** JSON Pointer of the section or list it goes into. */
  readonly group: string
  /** Its name there; null for the one it has. */
  readonly name: string | null
}

/** What does not fit, as the core knows, or since the game there has no such thing. */
export type ShownMisfit = Misfit | { readonly what: 'unknown-id'; readonly setting: string; readonly says: string }

export interface CopiedTo {
  readonly path: string
  readonly pointer: string
  /** In how many places the entry repeated its name. */
  readonly renamed: number
  readonly misfits: readonly ShownMisfit[]
}

/**
 * Copies an entry into the draft of another file, also on another server, and says what does not fit there.
 * @param options `isTrial` only says what would come of it @throws ServiceError `not-found`, `key-exists`, `cannot-hold`
 */
export async function copyEntry(
  context: Context,
  from: EntryPlace,
  to: EntryTarget,
  options: { readonly isTrial: boolean; readonly account: string },
): Promise<CopiedTo> {
  const source = fileOf(await workspaceFor(context, from.server), from.path)
  const view = await viewFile(context, to.server, to.path)
  const target = parse(view.draft?.text ?? view.text, formatOrText(to.path), view.reading)
  const book = new RuleBook(source.rules)
  const entry = { document: source.document, keys: keysIn(from.pointer) }
  const copied = asAnswer(to.path, () => copyInto(entry, target, keysIn(to.group), to.name, book))
  const strangers = from.server === to.server ? [] : await unknownIds(from, to.server, entry)
  if (!options.isTrial) {
    const base = { baseSha: view.draft?.baseSha ?? view.sha, draftSha: view.draft?.sha ?? null }
    await saveDraft(context, to.server, { path: to.path, text: copied.text, ...base }, options.account)
  }
  return { path: to.path, pointer: copied.pointer, renamed: copied.renamed.length, misfits: [...copied.misfits, ...strangers] }
}

const LISTS: readonly RegistryName[] = ['items', 'blocks', 'sounds', 'effects', 'places']

/** What the entry names that is in a list of its own server, and not in that of the other one. */
async function unknownIds(
  { server }: EntryPlace,
  there: Server,
  { document, keys }: { readonly document: Document; readonly keys: readonly string[] },
): Promise<ShownMisfit[]> {
  const named = textsBelow(getNode(document, keys), [])
  const misfits: ShownMisfit[] = []
  for (const list of LISTS) {
    const [own, others] = await Promise.all([server, there].map(async (one) => new Set((await listedIn(one, list)).map(({ id }) => id))))
    if (own!.size === 0 || others!.size === 0) continue
    for (const { setting, id } of named)
      if (own!.has(id) && !others!.has(id))
        misfits.push({ what: 'unknown-id', setting, says: `the other server has no ${id} in its ${list}` })
  }
  return misfits
}

/** First words of all texts: an id, also with how many of it. */
function textsBelow(node: Node | null, keys: readonly string[]): { readonly setting: string; readonly id: string }[] {
  if (!node) return []
  if (isContainer(node)) return node.entries.flatMap((entry) => textsBelow(entry.value, [...keys, entry.key]))
  if (node.type !== 'scalar' || node.kind !== 'text') return []
  return [{ setting: formatPointer(keys), id: String(node.value).split(/\s/)[0]! }]
}
