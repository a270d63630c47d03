import { fillIn, placedByName, wordsFor, type Placed } from '@pasticcio/core'
import type { NumberedLine } from '../consoles'
import type { ApplyKind, ApplyOutcome, ApplyStatus, Complaint } from '../db/repositories/applies'
import type { Step } from './apply-writes'
import type { Context, Server } from './context'
import { startServer } from './control'
import type { Installed } from './inventory'
import { fileSaid, pluginSaid } from './said'

/** What a change needs so that it counts. */
export interface Counting {
  readonly kind: ApplyKind
  /** Plugins whose files change. */
  readonly plugins: readonly string[]
  /** Whether a reload will not do. */
  readonly restart: boolean
  /** Whether a server that is stopped is left so. */
  readonly stoppedStays?: boolean
  /** Whether a running server can load the plugins by a command instead. */
  readonly load?: boolean
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
  // one whose console is lost cannot be told anything
  if (change.load && server.console.state.status === 'running') return false
  return change.restart || server.family['after-change'] !== 'reload' || server.console.state.status === 'unattended'
}

/** Restarts or reloads, and reads in the console how the plugins took it. */
export async function makeItCount(context: Context, server: Server, change: Counting, wasRunning: boolean, step: Step): Promise<Counted> {
  if (!wasRunning && (!change.restart || change.stoppedStays))
    return { status: 'written', outcome: said('The server is stopped; the new settings count at its next start.') }
  if (wasRunning && change.load && !needsRestart(server, change))
    return verify(server, change, await tell(server, server.family.console.load!, change.plugins, step, 'load'), step)
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
  return verify(server, change, await tell(server, server.family.console.reload ?? '', change.plugins, step, 'reload'), step)
}

/** Starts the server, and waits for what the plugins concerned say: some do so after the server is ready. */
async function start(context: Context, server: Server, { kind, plugins }: Counting): Promise<NumberedLine[]> {
  const from = server.console.lastSeq
  await startServer(context, server)
  const until = performance.now() + ANSWER_WITHIN_MS
  // what is taken back or out may have taken the plugin with it
  for (const plugin of mayBeSilent(kind) ? [] : await placedOf(server, plugins))
    await server.console.waitFor((line) => speaksOf(line, plugin), from, Math.max(0, until - performance.now()))
  return server.console.since(from)
}

/** Tells the running server of each plugin by a command, and waits for what the console says of it. */
async function tell(server: Server, template: string, plugins: readonly string[], step: Step, name: string): Promise<NumberedLine[]> {
  const lines: NumberedLine[] = []
  for (const plugin of await placedOf(server, plugins)) {
    await step(name, plugin.name)
    const from = server.console.lastSeq
    server.console.send(fillIn(template, wordsFor(server.family, plugin)))
    await server.console.waitFor((line) => speaksOf(line, plugin), from, ANSWER_WITHIN_MS)
    lines.push(...server.console.since(from))
  }
  return lines
}

/** Plugins by name, as they lie on the server; one that is not there is called by its name. */
async function placedOf(server: Server, names: readonly string[]): Promise<Placed[]> {
  const installed = await server.inventory.plugins()
  return names.map((name) => installed.find((item) => item.name === name) ?? placedByName(server.family, name))
}

const mayBeSilent = (kind: ApplyKind): boolean => ['undo', 'remove', 'switch'].includes(kind)

function speaksOf({ event }: NumberedLine, plugin: Placed): boolean {
  return (event?.type === 'loaded' || event?.type === 'failed') && pluginSaid([plugin], event.plugin) !== null
}

/** How the plugins concerned took a change, as lines of the console say. */
export async function verify(server: Server, change: Counting, lines: readonly NumberedLine[], step: Step): Promise<Counted> {
  await step('verify')
  const outcome = outcomeOf(server, lines, await concernedBy(server, change), '')
  if (outcome.complaints.length > 0) return { status: 'complained', outcome: { ...outcome, message: complaintMessage(outcome.complaints) } }
  const silent = (await placedOf(server, change.plugins)).filter((plugin) => !lines.some((line) => speaksOf(line, plugin)))
  if (silent.length === 0 || mayBeSilent(change.kind) || server.family.console.loaded === undefined) return { status: 'verified', outcome }
  const message = `The console said nothing of ${silent.map(({ name }) => name).join(', ')} within ten seconds. Look at the console.`
  return { status: 'complained', outcome: { ...outcome, message } }
}

function complaintMessage(complaints: readonly Complaint[]): string {
  const first = complaints[0]!
  return `${first.plugin} complained${first.path ? ` about line ${first.line ?? '?'} of ${first.path}` : ''}: ${first.reason}`
}

/** Installed plugins that a change may break: those it touches, and those that need one of them. */
async function concernedBy(server: Server, change: Counting): Promise<readonly Installed[]> {
  const installed = await server.inventory.plugins()
  const concerned = new Set(installed.map(({ name }) => name).filter((name) => change.plugins.includes(name)))
  for (let before = -1; before !== concerned.size;) {
    before = concerned.size
    for (const { name, info } of installed) if (Object.keys(info.requires).some((needed) => concerned.has(needed))) concerned.add(name)
  }
  return installed.filter(({ name }) => concerned.has(name))
}

function outcomeOf(server: Server, lines: readonly NumberedLine[], concerned: readonly Installed[], message: string): ApplyOutcome {
  const complaints = lines.flatMap((line): Complaint[] => {
    const { event } = line
    const plugin = event?.type === 'failed' ? pluginSaid(concerned, event.plugin) : null
    if (event?.type !== 'failed' || !plugin) return []
    const path = event.file === null ? null : fileSaid(server.family, plugin, event.file)
    return [{ plugin: plugin.name, path, line: path === null ? null : event.line, reason: event.reason }]
  })
  const telling = lines.filter((line) => (line.event && line.event.type !== 'state') || line.level === 'error')
  return { lines: telling.slice(-MOST_LINES).map((line) => `${line.time} ${line.level} ${line.text}`), complaints, message }
}

/** An outcome that is only words. */
export function said(message: string): ApplyOutcome {
  return { lines: [], complaints: [], message }
}
