/*
 * The only code that writes to a game server. Every step is recorded before it is taken, so that a process killed
 * anywhere leaves either the old files or the new ones, and `recover` finishes or undoes the rest.
 */
import { fillIn, formatOf, parse, readingFor, LineIndex } from '@pasticcio/core'
import type { NumberedLine } from '../adapters/server-process'
import { hashOf } from '../db/repositories/blobs'
import type { ApplyFile, ApplyKind, ApplyOutcome, ApplyRow, ApplyStatus, Complaint } from '../db/repositories/applies'
import { openServer, type Context, type Server } from './context'
import { startServer } from './control'
import { ServiceError, notFound } from './errors'

/** One file to write; `bytes` null takes it away. `expected` is the hash of what must be there now, null for nothing. */
export interface Write {
  readonly path: string
  readonly bytes: Uint8Array | null
  readonly expected: string | null
}

export interface Change {
  readonly kind: ApplyKind
  readonly title: string
  readonly writes: readonly Write[]
  /** Plugins whose settings change. */
  readonly plugins: readonly string[]
  /** Whether a reload will not do. */
  readonly restart: boolean
  readonly undoes?: number
}

const ANSWER_WITHIN_MS = 10_000

/** Carries a change out. @throws ServiceError `busy`, `drift` or `has-errors`; then nothing was written. */
export async function applyChange(context: Context, server: Server, change: Change, account: string): Promise<ApplyRow> {
  if (context.locks.has(server.row.id))
    throw new ServiceError('busy', 409, 'Something else is being written to this server right now. Try again in a moment.')
  if (change.writes.length === 0) throw new ServiceError('nothing-to-do', 409, 'There is nothing to write.')
  context.locks.add(server.row.id)
  try {
    return await run(context, server, change, account)
  } finally {
    context.locks.delete(server.row.id)
  }
}

async function run(context: Context, server: Server, change: Change, account: string): Promise<ApplyRow> {
  const files = await compare(context, server, change)
  check(server, change)
  const at = (): string => context.now().toISOString()
  const id = await context.applies.begin(
    { serverId: server.row.id, kind: change.kind, title: change.title, undoes: change.undoes ?? null, startedBy: account, startedAt: at() },
    files,
  )
  const step = (name: string, detail = ''): Promise<void> => context.applies.step(id, name, detail, at())
  await context.record.add({ at: at(), account, serverId: server.row.id, action: change.kind, detail: change.title })
  const wasRunning = server.process.current.status === 'running'
  const stopFirst = wasRunning && (change.restart || server.family['after-change'] !== 'reload')
  try {
    if (stopFirst) {
      await step('stop')
      await server.process.stop()
    }
    await writeAll(server, change.writes, step)
  } catch (error) {
    await putBack(context, server, files)
    await context.applies.end(id, 'failed', {
      lines: [],
      complaints: [],
      message: `Writing failed, and everything is as it was: ${(error as Error).message}`,
    })
    if (stopFirst) await startServer(context, server).catch(() => undefined)
    throw error
  }
  const { status, outcome } = await makeItCount(context, server, change, wasRunning, step)
  await context.applies.end(id, status, outcome)
  if (change.undoes !== undefined) await context.applies.setStatus(change.undoes, 'undone')
  return (await context.applies.get(id))!
}

/** What stands there now must be what the change was made from. */
async function compare(context: Context, server: Server, change: Change): Promise<ApplyFile[]> {
  const files: ApplyFile[] = []
  for (const write of change.writes) {
    const now = await server.files.read(write.path)
    const sha = now ? hashOf(now) : null
    if (sha !== write.expected)
      throw new ServiceError(
        'drift',
        409,
        `${write.path} was changed on the server since you began. Open it to see both, and decide; nothing was written.`,
      )
    files.push({
      path: write.path,
      beforeSha: now ? await context.blobs.put(now) : null,
      afterSha: write.bytes ? await context.blobs.put(write.bytes) : null,
    })
  }
  return files
}

/** A settings file that does not read is never written. */
function check(server: Server, change: Change): void {
  if (change.kind === 'undo') return
  for (const write of change.writes) {
    const format = formatOf(write.path)
    if (!write.bytes || !format) continue
    const text = Buffer.from(write.bytes).toString('utf8')
    const error = parse(text, format, readingFor(write.path, server.family)).findings.find((finding) => finding.severity === 'error')
    if (error)
      throw new ServiceError(
        'has-errors',
        422,
        `Line ${new LineIndex(text).position(error.from).line} of ${write.path}: ${error.message} Nothing was written.`,
      )
  }
}

/** All files are staged before the first takes its place. */
async function writeAll(server: Server, writes: readonly Write[], step: (name: string, detail?: string) => Promise<void>): Promise<void> {
  const staged = new Map<string, string>()
  try {
    for (const write of writes) {
      if (!write.bytes) continue
      await step('stage', write.path)
      staged.set(write.path, await server.files.stage(write.path, write.bytes))
    }
    for (const write of writes) {
      await step(write.bytes ? 'rename' : 'remove', write.path)
      if (write.bytes) await server.files.commit(write.path, staged.get(write.path)!)
      else await server.files.remove(write.path)
      staged.delete(write.path)
    }
  } finally {
    for (const temporary of staged.values()) await server.files.discard(temporary)
  }
}

async function putBack(context: Context, server: Server, files: readonly ApplyFile[]): Promise<void> {
  for (const file of files) {
    const now = await server.files.read(file.path)
    const sha = now ? hashOf(now) : null
    if (sha === file.beforeSha) continue
    if (file.beforeSha === null) await server.files.remove(file.path)
    else await server.files.commit(file.path, await server.files.stage(file.path, await context.blobs.requireBytes(file.beforeSha)))
  }
}

/** Restarts or reloads, and reads in the console how the plugins took it. */
async function makeItCount(
  context: Context,
  server: Server,
  change: Change,
  wasRunning: boolean,
  step: (name: string, detail?: string) => Promise<void>,
): Promise<{ status: ApplyStatus; outcome: ApplyOutcome }> {
  const restart = change.restart || server.family['after-change'] !== 'reload'
  if (!wasRunning && change.kind === 'settings')
    return {
      status: 'written',
      outcome: { lines: [], complaints: [], message: 'The server is stopped; the new settings count at its next start.' },
    }
  let lines: NumberedLine[] = []
  if (restart) {
    await step('start')
    try {
      lines = await startServer(context, server)
    } catch (error) {
      return {
        status: 'complained',
        outcome: outcomeOf(server, server.process.since(server.process.lastSeq - 40), (error as Error).message),
      }
    }
  } else
    for (const plugin of change.plugins) {
      await step('reload', plugin)
      const from = server.process.lastSeq
      server.process.send(fillIn(server.family.console.reload, { plugin }))
      const about = (line: NumberedLine): boolean =>
        (line.event?.type === 'loaded' || line.event?.type === 'failed') && line.event.plugin === plugin
      await server.process.waitFor(about, from, ANSWER_WITHIN_MS)
      lines.push(...server.process.since(from))
    }
  await step('verify')
  const outcome = outcomeOf(server, lines, '')
  const silent = change.plugins.filter(
    (plugin) => !lines.some((line) => (line.event?.type === 'loaded' || line.event?.type === 'failed') && line.event.plugin === plugin),
  )
  if (outcome.complaints.length > 0) return { status: 'complained', outcome: { ...outcome, message: complaintMessage(outcome.complaints) } }
  if (silent.length > 0 && change.kind !== 'undo')
    return {
      status: 'complained',
      outcome: { ...outcome, message: `The console said nothing of ${silent.join(', ')} within ten seconds. Look at the console.` },
    }
  return { status: 'verified', outcome }
}

function complaintMessage(complaints: readonly Complaint[]): string {
  const first = complaints[0]!
  return `${first.plugin} complained${first.path ? ` about line ${first.line ?? '?'} of ${first.path}` : ''}: ${first.reason}`
}

function outcomeOf(server: Server, lines: readonly NumberedLine[], message: string): ApplyOutcome {
  const complaints = lines.flatMap((line): Complaint[] => {
    const { event } = line
    if (event?.type !== 'failed') return []
    const path = event.file ? `${fillIn(server.family.plugins['data-folder'], { plugin: event.plugin })}/${event.file}` : null
    return [{ plugin: event.plugin, path, line: event.line, reason: event.reason }]
  })
  const telling = lines.filter((line) => (line.event && line.event.type !== 'state') || line.level === 'error')
  return { lines: telling.map((line) => `${line.time} ${line.level} ${line.text}`), complaints, message }
}

/** Takes an apply back: the files as they were before it, made to count the same way. */
export async function undoApply(context: Context, server: Server, id: number, account: string): Promise<ApplyRow> {
  const row = await context.applies.get(id)
  if (!row || row.serverId !== server.row.id) throw notFound('change with this number')
  if (row.status === 'undone' || row.status === 'failed' || row.status === 'running')
    throw new ServiceError('nothing-to-do', 409, 'This change is not in force, so there is nothing to take back.')
  const writes: Write[] = []
  for (const file of await context.applies.files(id))
    writes.push({
      path: file.path,
      bytes: file.beforeSha ? await context.blobs.requireBytes(file.beforeSha) : null,
      expected: file.afterSha,
    })
  const plugins = [...new Set(writes.map((write) => pluginOf(server, write.path)).filter((name) => name !== null))]
  const restart = row.kind !== 'settings' && writes.some((write) => write.path.endsWith('.' + server.family.plugins.ending))
  const undone = await applyChange(
    context,
    server,
    { kind: 'undo', title: `Back to before: ${row.title}`, writes, plugins, restart, undoes: id },
    account,
  )
  if (row.kind === 'settings' && row.status === 'complained') await stageAgain(context, server, id, account)
  return undone
}

/** What a plugin complained about goes back into the tray, so that it can be mended instead of typed again. */
async function stageAgain(context: Context, server: Server, id: number, account: string): Promise<void> {
  for (const file of await context.applies.files(id)) {
    if (!file.beforeSha || !file.afterSha || (await context.drafts.get(server.row.id, file.path))) continue
    await context.drafts.save(server.row.id, {
      path: file.path,
      baseSha: file.beforeSha,
      sha: file.afterSha,
      changedBy: account,
      changedAt: context.now().toISOString(),
    })
  }
}

/** The plugin whose folder a path lies in; null for others. */
export function pluginOf(server: Server, path: string): string | null {
  const [before] = server.family.plugins['data-folder'].split('{plugin}')
  if (!path.startsWith(before ?? '')) return null
  const rest = path.slice((before ?? '').length)
  return rest.includes('/') ? rest.slice(0, rest.indexOf('/')) : null
}

/** At start: what was interrupted is finished if all its files are in place, and undone if not. */
export async function recoverApplies(context: Context): Promise<void> {
  for (const row of await context.applies.unfinished()) {
    const server = (await context.servers.list()).find((item) => item.id === row.serverId)
    if (!server) continue
    const opened = await openServer(context, server)
    const files = await context.applies.files(row.id)
    await opened.files.sweep(files.map((file) => file.path))
    const now = await Promise.all(
      files.map(async (file) => await opened.files.read(file.path).then((bytes) => (bytes ? hashOf(bytes) : null))),
    )
    const complete = files.every((file, i) => now[i] === file.afterSha)
    if (complete)
      await context.applies.end(row.id, 'written', {
        lines: [],
        complaints: [],
        message: 'Pasticcio was stopped in the middle; all files had been written. Restart the server to make sure they count.',
      })
    else {
      await putBack(
        context,
        opened,
        files.filter((file, i) => now[i] === file.afterSha),
      )
      await context.applies.end(row.id, 'failed', {
        lines: [],
        complaints: [],
        message: 'Pasticcio was stopped in the middle; the files are as they were before.',
      })
    }
    context.log.warn({ apply: row.id, complete }, 'an interrupted change was settled')
  }
}
