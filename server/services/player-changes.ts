import { backTo, commandFor, findPlayer, saidOf, type PlayerChange } from '@pasticcio/core'
import type { PlannedCommand, StagedCommand } from '../db/repositories/commands'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { playersOf } from './permissions'
import { listedIn } from './registries'

/**
 * Puts what is to be said of a player into the tray, in the place of what was to be said of the same before; what is so
 * already waits for nothing.
 * @throws ServiceError `not-found` where the family says nothing by command, `bad-input` where it cannot be said by one
 */
export async function stagePlayerChange(context: Context, server: Server, change: PlayerChange, account: string): Promise<StagedCommand[]> {
  const { commands } = server.family.permissions
  if (!commands) throw notFound(`command by which ${server.family.title} tells of single players; write it to the file of players instead`)
  const player = findPlayer(await playersOf(context, server), change.player)
  // one whom the permission plugin does not know yet is called as the server’s own list says
  const seen = player ? undefined : (await listedIn(server, 'players')).find(({ id, name }) => [id, name].includes(change.player))
  const whole = { ...change, player: player?.id ?? seen?.id ?? change.player }
  const now = saidOf(player, whole)
  if (now.word === whole.word && now.until === null && whole.term === null) await context.playerCommands.unstage(server.row.id, whole)
  else {
    const called = player?.name || seen?.name || whole.player
    const command = commandFor(commands, whole, called)
    if (command === null) throw new ServiceError('bad-input', 422, whyNot(whole, called))
    const changedAt = context.now().toISOString()
    await context.playerCommands.stage(server.row.id, { change: whole, called, command, changedBy: account, changedAt })
  }
  return context.playerCommands.staged(server.row.id)
}

function whyNot({ what, name, word, term }: PlayerChange, called: string): string {
  if (term)
    return `What is given to ${called} cannot end here after ${term.amount} ${term.unit}s: no command takes such a term. Give it for good.`
  if (what === 'group')
    return `${called} cannot be put into ${name} by command: the server’s description has none for it, or the name is no single word.`
  return `${name} cannot be ${word ?? 'cleared'} for ${called} by command: the server’s description has none for it, or a name is no single word.`
}

/** Takes one out of the tray. @throws ServiceError `draft-changed` where it is another by now */
export async function discardCommand(context: Context, server: Server, id: number): Promise<void> {
  if (!(await context.playerCommands.discard(server.row.id, id)))
    throw new ServiceError('draft-changed', 409, 'This command is no longer in the tray, or was changed meanwhile.')
}

/**
 * The commands that were looked at, with what is so before them.
 * @throws ServiceError `draft-changed` where one of them is another by now
 */
export async function plannedCommands(context: Context, server: Server, ids: readonly number[]): Promise<PlannedCommand[]> {
  if (ids.length === 0) return []
  const staged = await context.playerCommands.staged(server.row.id)
  const players = await playersOf(context, server)
  return ids.map((id) => {
    const one = staged.find((item) => item.id === id)
    if (!one)
      throw new ServiceError(
        'draft-changed',
        409,
        'A command is no longer in the tray as you looked at it. Look at the review once more; nothing was written.',
      )
    const { change, called, command } = one
    return { stagedId: id, change, called, command, before: saidOf(findPlayer(players, change.player), change) }
  })
}

/** What takes back the commands of a change, the last first, and those that no command takes back. */
export async function takingBack(
  context: Context,
  server: Server,
  applyId: number,
): Promise<{ readonly commands: readonly PlannedCommand[]; readonly untold: readonly string[] }> {
  const taken = (await context.playerCommands.applied(applyId)).filter(({ state }) => state === 'done' || state === 'sent').reverse()
  const { commands: said } = server.family.permissions
  const players = taken.length > 0 ? await playersOf(context, server) : []
  const commands: PlannedCommand[] = []
  const untold: string[] = []
  for (const { change, called, before, command: done } of taken) {
    const back = backTo(change, before, context.now().getTime())
    const command = said ? commandFor(said, back, called) : null
    if (command === null) untold.push(done)
    else commands.push({ stagedId: null, change: back, called, command, before: saidOf(findPlayer(players, change.player), change) })
  }
  return { commands, untold }
}
