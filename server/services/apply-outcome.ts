import { dataFolder, fillIn } from '@pasticcio/core'
import type { NumberedLine } from '../consoles'
import type { ApplyKind, ApplyOutcome, ApplyStatus, Complaint } from '../db/repositories/applies'
import type { Step } from './apply-writes'
import type { Context, Server } from './context'
import { startServer } from './control'

/** What a change needs so that it counts. */
export interface Counting {
  readonly kind: ApplyKind
  /** Plugins whose files change. */
  readonly plugins: readonly string[]
  /** Whether a reload will not do. */
  readonly restart: boolean
}

export interface Counted {
  readonly status: ApplyStatus
  readonly outcome: ApplyOutcome
}

const ANSWER_WITHIN_MS = 10_000
/** So many lines of the console are kept with a change. */
const MOST_LINES = 200

/** Whether the server must be stopped and started, or a reload will do. */
export function needsRestart(server: Server, change: Counting): boolean {
  // one whose console is lost cannot be told to reload
  return change.restart || server.family['after-change'] !== 'reload' || server.console.state.status === 'unattended'
}

/** Restarts or reloads, and reads in the console how the plugins took it. */
export async function makeItCount(context: Context, server: Server, change: Counting, wasRunning: boolean, step: Step): Promise<Counted> {
  if (!wasRunning && !change.restart)
    return { status: 'written', outcome: said('The server is stopped; the new settings count at its next start.') }
  if (needsRestart(server, change)) {
    if (!server.console.lifecycle)
      return { status: 'written', outcome: said('This server is started by others. Restart it there, so that the change counts.') }
    await step('start')
    try {
      return await verify(server, change, await start(context, server, change), step)
    } catch (error) {
      const last = server.console.since(server.console.lastSeq - 40)
      return { status: 'complained', outcome: outcomeOf(server, last, await concernedBy(server, change), (error as Error).message) }
    }
  }
  return verify(server, change, await reload(server, change.plugins, step), step)
}

/** Starts the server, and waits for what the plugins concerned say: some do so after the server is ready. */
async function start(context: Context, server: Server, { kind, plugins }: Counting): Promise<NumberedLine[]> {
  const from = server.console.lastSeq
  await startServer(context, server)
  const until = performance.now() + ANSWER_WITHIN_MS
  // what is taken back may have taken the plugin with it
  for (const plugin of kind === 'undo' ? [] : plugins)
    await server.console.waitFor((line) => speaksOf(line, plugin), from, Math.max(0, until - performance.now()))
  return server.console.since(from)
}

async function reload(server: Server, plugins: readonly string[], step: Step): Promise<NumberedLine[]> {
  const lines: NumberedLine[] = []
  for (const plugin of plugins) {
    await step('reload', plugin)
    const from = server.console.lastSeq
    server.console.send(fillIn(server.family.console.reload, { plugin }))
    await server.console.waitFor((line) => speaksOf(line, plugin), from, ANSWER_WITHIN_MS)
    lines.push(...server.console.since(from))
  }
  return lines
}

function speaksOf({ event }: NumberedLine, plugin: string): boolean {
  return (event?.type === 'loaded' || event?.type === 'failed') && event.plugin === plugin
}

/** How the plugins concerned took a change, as lines of the console say. */
export async function verify(server: Server, change: Counting, lines: readonly NumberedLine[], step: Step): Promise<Counted> {
  await step('verify')
  const outcome = outcomeOf(server, lines, await concernedBy(server, change), '')
  if (outcome.complaints.length > 0) return { status: 'complained', outcome: { ...outcome, message: complaintMessage(outcome.complaints) } }
  const silent = change.plugins.filter((plugin) => !lines.some((line) => speaksOf(line, plugin)))
  if (silent.length === 0 || change.kind === 'undo') return { status: 'verified', outcome }
  const message = `The console said nothing of ${silent.join(', ')} within ten seconds. Look at the console.`
  return { status: 'complained', outcome: { ...outcome, message } }
}

function complaintMessage(complaints: readonly Complaint[]): string {
  const first = complaints[0]!
  return `${first.plugin} complained${first.path ? ` about line ${first.line ?? '?'} of ${first.path}` : ''}: ${first.reason}`
}

/** Installed plugins that a change may break: those it touches, and those that need one of them. */
async function concernedBy(server: Server, change: Counting): Promise<ReadonlySet<string>> {
  const installed = await server.inventory.plugins()
  const concerned = new Set(installed.map(({ name }) => name).filter((name) => change.plugins.includes(name)))
  for (let before = -1; before !== concerned.size;) {
    before = concerned.size
    for (const { name, info } of installed) if (Object.keys(info.requires).some((needed) => concerned.has(needed))) concerned.add(name)
  }
  return concerned
}

function outcomeOf(server: Server, lines: readonly NumberedLine[], concerned: ReadonlySet<string>, message: string): ApplyOutcome {
  const complaints = lines.flatMap((line): Complaint[] => {
    const { event } = line
    if (event?.type !== 'failed' || !concerned.has(event.plugin)) return []
    const path = event.file ? `${dataFolder(server.family, event.plugin)}/${event.file}` : null
    return [{ plugin: event.plugin, path, line: event.line, reason: event.reason }]
  })
  const telling = lines.filter((line) => (line.event && line.event.type !== 'state') || line.level === 'error')
  return { lines: telling.slice(-MOST_LINES).map((line) => `${line.time} ${line.level} ${line.text}`), complaints, message }
}

/** An outcome that is only words. */
export function said(message: string): ApplyOutcome {
  return { lines: [], complaints: [], message }
}
