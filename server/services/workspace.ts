import pLimit from 'p-limit'
import { CheckEnded } from '@pasticcio/check'
import {
  LineIndex,
  checkAcross,
  readingFor,
  subjectsOf,
  workspaceFile,
  workspaceOf,
  type FileFacts,
  type FileFinding,
  type LookedFile,
  type Rule,
  type Workspace,
  type WorkspaceFile,
  type WorkspaceInput,
} from '@pasticcio/core'
import type { PackageRow } from '../db/repositories/packages'
import type { PlaceFile } from '../places'
import type { Context, Server } from './context'
import { asServiceError, ServiceError } from './errors'
import { rulesOf } from './file-rules'
import { wouldOwn, type Installed } from './inventory'
import { knowledgeFor, type ServerKnowledge } from './knowledge'
import { otherPackages, othersOf } from './other-versions'
import { SIZES } from './sizes'
import { decode } from './text'

/** Reading waits for the disk or the network, and only the rest for this process. */
const READ_AT_ONCE = 16

/** What is known of one settings file; kept as long as neither the file nor its draft nor its factory copy changes. */
export interface KnownFile extends LookedFile {
  readonly text: string | null
  /** Why the file cannot be shown; null where it can. */
  readonly problem: string | null
  /** What the file is, read where somebody asks; null for what is no settings file. */
  read(): WorkspaceFile | null
  /** The same file if another text stood in it. */
  readAs(text: string): WorkspaceFile | null
}

/** What was read of a server's files, by path, with what it was read from. */
export class WorkspaceCache {
  private readonly known = new Map<string, { readonly key: string; readonly file: KnownFile }>()
  /** How far the check that goes on is; null where none does. */
  progress: { done: number; readonly total: number; isEnded: boolean } | null = null

  get(path: string, key: string): KnownFile | null {
    const there = this.known.get(path)
    return there?.key === key ? there.file : null
  }

  set(path: string, key: string, file: KnownFile): void {
    this.known.set(path, { key, file })
  }

  private readonly first = new Map<string, string>()

  /** When a finding was told first. */
  since(subject: string, now: string): string {
    const known = this.first.get(subject)
    if (known === undefined) this.first.set(subject, now)
    return known ?? now
  }

  /** Drops what is no longer there. */
  keepOnly(paths: ReadonlySet<string>): void {
    for (const path of this.known.keys()) if (!paths.has(path)) this.known.delete(path)
  }
}

/** A finding with where it stands, and what tells it from others. */
export interface PlacedFinding extends FileFinding {
  readonly line: number
  readonly column: number
  readonly subject: string
  readonly plugin: string | null
}

export interface ServerWorkspace extends ServerKnowledge {
  readonly plugins: readonly Installed[]
  readonly files: ReadonlyMap<string, KnownFile>
  /** Everything that is wrong, also across files. */
  readonly findings: readonly PlacedFinding[]
  /** Hashes of drafts by path. */
  readonly drafts: ReadonlyMap<string, string>
  /** All files as trees, for who has to look at everything. */
  documents(): Workspace
}

interface Wanted {
  readonly path: string
  readonly plugin: Installed
  readonly key: string
}

/** Every settings file of a server, drafts in their places, with what is wrong in them: one pass over the inventory. */
export async function workspaceFor(context: Context, server: Server): Promise<ServerWorkspace> {
  const plugins = await server.inventory.plugins()
  const drafts = new Map((await context.drafts.list(server.row.id)).map((draft) => [draft.path, draft.sha]))
  const given = await context.rules.of(server.row.id)
  const known = await knowledgeFor(context, server, plugins, drafts)
  // what plugins share is known by the first of them
  const owned = new Map<string, { readonly plugin: Installed; readonly file: PlaceFile }>()
  for (const plugin of plugins) for (const file of plugin.files) if (!owned.has(file.path)) owned.set(file.path, { plugin, file })
  // what is staged and not there yet, as texts in one more language
  for (const path of drafts.keys()) {
    const plugin = owned.has(path) ? undefined : wouldOwn(server.family, plugins, path)[0]
    if (plugin) owned.set(path, { plugin, file: { path, size: 0, changed: 0 } })
  }
  const rules = (path: string, plugin: Installed): readonly Rule[] => rulesOf(given, server.family, plugin, path)
  const others = othersIn(await context.packages.list(server.family.id))
  const wanted = await Promise.all(
    [...owned].map(async ([path, { plugin, file }]): Promise<Wanted> => {
      const copy = await server.inventory.factoryOf(plugin, path)
      const stands = drafts.get(path) ?? `${file.size} ${file.changed}`
      const ids = others(plugin).map(({ id }) => id)
      const key = JSON.stringify([plugin.name, plugin.version, stands, copy?.sha ?? 'none', rules(path, plugin), ids, known.version])
      return { path, plugin, key }
    }),
  )
  const looked = new Map<string, KnownFile>()
  const fresh = wanted.filter(({ path, key }) => {
    const there = server.workspace.get(path, key)
    if (there) looked.set(path, there)
    return !there
  })
  await lookAtNew(context, server, fresh, { known, drafts, rules, others, looked })
  const files = new Map(wanted.map(({ path }) => [path, looked.get(path)!]))
  server.workspace.keepOnly(new Set(files.keys()))
  return {
    ...known,
    plugins,
    files,
    drafts,
    findings: findingsOf(server, known, files, owned),
    documents: () => documentsOf(server, plugins, known, files),
  }
}

interface Around {
  readonly known: ServerKnowledge
  readonly drafts: ReadonlyMap<string, string>
  rules(path: string, plugin: Installed): readonly Rule[]
  /** Other versions of a plugin. */
  others(plugin: Installed): readonly PackageRow[]
  /** Where what is found goes: another request may look at other states of the same files meanwhile. */
  readonly looked: Map<string, KnownFile>
}

/** Other versions of each plugin, looked up once. */
function othersIn(pantry: readonly PackageRow[]): (plugin: Installed) => readonly PackageRow[] {
  const known = new Map<string, readonly PackageRow[]>()
  return (plugin) => {
    const there = known.get(plugin.name) ?? otherPackages(pantry, plugin)
    known.set(plugin.name, there)
    return there
  }
}

/** Reads and checks what is not known yet. @throws ServiceError `ended` where somebody ended it */
async function lookAtNew(context: Context, server: Server, wanted: readonly Wanted[], around: Around): Promise<void> {
  if (wanted.length === 0) return
  const turns = pLimit(READ_AT_ONCE)
  const keys = new Map(wanted.map(({ path, key }) => [path, key]))
  const progress = { done: 0, total: wanted.length, isEnded: false }
  server.workspace.progress = progress
  try {
    const inputs = await Promise.all(wanted.map((one) => turns(() => inputOf(context, server, one, around))))
    await context.checkers.look(
      inputs.filter((input) => input !== null),
      around.known.knowledge,
      {
        done(files, looked) {
          files.forEach((file, index) =>
            keep(server, around, { path: file.path, key: keys.get(file.path)! }, knownFile(file, looked[index]!, around.known)),
          )
          progress.done += files.length
          return !progress.isEnded
        },
        failed({ path }, error) {
          context.log.error({ path, error }, 'file not checked')
          keep(
            server,
            around,
            { path, key: keys.get(path)! },
            unread(path, `${path} costs more to check than a file may. Look whether it is what it should be.`),
          )
        },
      },
    )
  } catch (error) {
    if (error instanceof CheckEnded)
      throw new ServiceError('ended', 409, 'The check was ended before all files were looked at.', { cause: error })
    throw error
  } finally {
    if (server.workspace.progress === progress) server.workspace.progress = null
  }
}

const knownFile = (input: WorkspaceInput, looked: LookedFile, { knowledge }: ServerKnowledge): KnownFile => {
  let file: WorkspaceFile | null | undefined
  const readAs = (text: string): WorkspaceFile | null => workspaceFile({ ...input, text, known: knowledge.lists })
  return { ...looked, text: input.text, problem: null, read: () => (file ??= readAs(input.text)), readAs }
}

function keep(
  { workspace }: Server,
  { looked }: Pick<Around, 'looked'>,
  { path, key }: Pick<Wanted, 'path' | 'key'>,
  file: KnownFile,
): void {
  workspace.set(path, key, file)
  looked.set(path, file)
}

/** What one file is read from; null where it cannot be shown, and then why is kept. */
async function inputOf(
  context: Context,
  server: Server,
  { path, plugin, key }: Wanted,
  { drafts, rules, others, looked }: Around,
): Promise<WorkspaceInput | null> {
  try {
    const sha = drafts.get(path)
    const bytes = sha ? await context.blobs.requireBytes(sha) : await server.place.read(path, SIZES.settings)
    const text = decode(path, bytes ?? new Uint8Array())
    const factory = await server.inventory.factoryText(plugin, path)
    const versions = await othersOf(context, server, plugin, path, others(plugin))
    const said = { rules: rules(path, plugin), ...(versions ? { others: versions } : {}) }
    return { path, plugin: plugin.name, text, factory, reading: readingFor(path, server.family), ...said }
  } catch (error) {
    const told = asServiceError(error)
    if (!(told instanceof ServiceError)) throw error
    keep(server, { looked }, { path, key }, unread(path, told.message))
    return null
  }
}

/** A file that is there and cannot be looked into, which is the one thing found of it. */
function unread(path: string, message: string): KnownFile {
  const finding: FileFinding = {
    file: path,
    check: 'server-is-sound',
    code: 'not-utf8',
    severity: 'error',
    from: 0,
    to: 0,
    message,
    cause: `unread ${path}`,
  }
  return {
    findings: [finding],
    facts: null,
    mine: 0,
    lines: 0,
    secrets: [],
    text: null,
    problem: message,
    read: () => null,
    readAs: () => null,
  }
}

type Position = { readonly line: number; readonly column: number }

/** Where letters of files stand; each file is gone through once. Null for a file without a text. */
export function placesIn(files: ServerWorkspace['files']): (file: string, from: number) => Position | null {
  const indexes = new Map<string, LineIndex>()
  return (file, from) => {
    const text = files.get(file)?.text ?? null
    if (text === null) return null
    if (!indexes.has(file)) indexes.set(file, new LineIndex(text))
    return indexes.get(file)!.position(from)
  }
}

function findingsOf(
  server: Server,
  { knowledge }: ServerKnowledge,
  files: ReadonlyMap<string, KnownFile>,
  owned: ReadonlyMap<string, { readonly plugin: Installed }>,
): PlacedFinding[] {
  const facts = new Map<string, FileFacts>()
  for (const [path, file] of files) if (file.facts) facts.set(path, file.facts)
  const across = checkAcross({ family: server.family, knowledge }, facts)
  const all = [...[...files.values()].flatMap(({ findings }) => findings), ...across]
  const placeOf = placesIn(files)
  const at = (file: string, from: number): Position => placeOf(file, from) ?? { line: 1, column: 1 }
  const plugins = new Map(knowledge.plugins.map(({ path, name }) => [path, name]))
  const subjects = subjectsOf(all, (file) => files.get(file)?.text ?? null)
  return all.map((finding, i) => ({
    ...finding,
    ...(finding.line === undefined ? at(finding.file, finding.from) : { line: finding.line, column: 1 }),
    subject: subjects[i]!,
    plugin: owned.get(finding.file)?.plugin.name ?? plugins.get(finding.file) ?? null,
  }))
}

function documentsOf(
  server: Server,
  plugins: readonly Installed[],
  { knowledge }: ServerKnowledge,
  files: ReadonlyMap<string, KnownFile>,
): Workspace {
  return workspaceOf(
    [...files.values()].map((file) => file.read()),
    server.family,
    plugins,
    knowledge,
  )
}
