import type { ApplyOutcome, ApplyStatus, Complaint } from '../db/repositories/applies'
import type { PlannedCommand } from '../db/repositories/commands'
import type { NumberedLine } from '../consoles'
import type { Counted } from './apply-outcome'
import type { Step } from './apply-writes'
import type { Context, Server } from './context'
import { ServiceError } from './errors'

const ANSWERS_WITHIN_MS = 5_000

/** @throws ServiceError `server-stopped` where commands are to be sent to a server that hears none: then nothing is written */
export function refuseUnheard({ row, console }: Server, commands: readonly PlannedCommand[]): void {
  if (commands.length === 0 || console.state.status === 'running') return
  const many = commands.length === 1 ? 'a command' : `${commands.length} commands`
  throw new ServiceError(
    'server-stopped',
    409,
    `${row.slug} does not run, or its console is lost, and ${many} can be sent to no other. Start it first, or discard what goes by command; nothing was written.`,
  )
}

/**
 * Sends the commands of a change one after the other, each noted before and after: what the console confirms leaves the tray,
 * what it refuses or does not answer stays there.
 */
export async function sendCommands(
  context: Context,
  server: Server,
  applyId: number,
  commands: readonly PlannedCommand[],
  step: Step,
): Promise<Counted> {
  const lines: string[] = []
  const complaints: Complaint[] = []
  const plugin = server.family.permissions.players
    ? ((await server.inventory.ownerNear(server.family.permissions.players.file))?.name ?? '')
    : ''
  for (const [position, { command }] of commands.entries()) {
    await step('command', command)
    await context.playerCommands.note(applyId, position, 'sent')
    const { refused, line } = await tell(server, command)
    if (line) lines.push(`${line.time} ${line.level} ${line.text}`)
    if (refused === null) await context.playerCommands.note(applyId, position, 'done')
    else complaints.push({ plugin, path: null, line: null, reason: `${command}: ${refused}` })
    // a console that is silent, or gone, is told no more
    if (line === null) break
    if (refused !== null) await context.playerCommands.note(applyId, position, 'refused', refused)
  }
  return {
    status: complaints.length > 0 ? 'complained' : 'verified',
    outcome: { lines, complaints, message: messageOf(complaints, commands.length) },
  }
}

function messageOf(complaints: readonly Complaint[], count: number): string {
  if (complaints.length === 0) return count === 1 ? 'The console took the command.' : `The console took ${count} commands.`
  return `${complaints.map(({ reason }) => reason.replace(/\.$/, '')).join('; ')}. What was not done is still in the tray.`
}

interface Told {
  /** Null where it was done. */
  readonly refused: string | null
  readonly line: NumberedLine | null
}

async function tell({ console }: Server, command: string): Promise<Told> {
  const from = console.lastSeq
  const [word = ''] = command.split(' ')
  let told: Told = { refused: `the console did not answer within ${ANSWERS_WITHIN_MS / 1000} s`, line: null }
  try {
    console.send(command)
  } catch (error) {
    return { refused: `it could not be sent: ${(error as Error).message}`, line: null }
  }
  await console.waitFor(
    (line) => {
      if (line.event?.type === 'told') told = { refused: line.event.refused, line }
      // what a console says where it knows no such command
      else if (line.level === 'error' && !line.event && line.text.split(/\s+/).includes(word)) told = { refused: line.text, line }
      return told.line !== null
    },
    from,
    ANSWERS_WITHIN_MS,
  )
  return told
}

/** What came of files and of commands, as one. */
export function together(files: Counted, commands: Counted): Counted {
  const status: ApplyStatus = commands.status === 'complained' ? 'complained' : files.status
  const outcome: ApplyOutcome = {
    lines: [...files.outcome.lines, ...commands.outcome.lines],
    complaints: [...files.outcome.complaints, ...commands.outcome.complaints],
    message: [files.outcome.message, commands.outcome.message].filter(Boolean).join(' '),
  }
  return { status, outcome }
}
