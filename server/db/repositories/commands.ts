import type { Knex } from 'knex'
import type { PlayerChange, SaidBefore } from '@pasticcio/core'

/** A change of one player’s rights that waits in the tray, to be said to the console. */
export interface StagedCommand {
  readonly id: number
  readonly change: PlayerChange
  /** What the player is called. */
  readonly called: string
  readonly command: string
  readonly changedBy: string
  readonly changedAt: string
}

/** How far a command of a change got: `sent` where its answer is not known. */
export type CommandState = 'waiting' | 'sent' | 'done' | 'refused'

/** A command that a change sends, with what was so before it. */
export interface AppliedCommand {
  /** The one in the tray it came from, which leaves the tray once it is done; null where it takes another back. */
  readonly stagedId: number | null
  readonly change: PlayerChange
  readonly called: string
  readonly command: string
  readonly before: SaidBefore
  readonly state: CommandState
  /** Why it was refused. */
  readonly reason: string
}
export type PlannedCommand = Omit<AppliedCommand, 'state' | 'reason'>

interface RawStaged {
  id: number
  change: string
  called: string
  command: string
  changed_by: string
  changed_at: string
}

interface RawApplied {
  staged_id: number | null
  change: string
  called: string
  command: string
  before: string
  state: CommandState
  reason: string
}

/** What tells changes from each other: of the same player and node only one waits. */
const subjectOf = ({ player, what, name }: PlayerChange): string => JSON.stringify([player, what, name])

export class CommandRepository {
  constructor(private readonly db: Knex) {}

  async staged(serverId: number): Promise<StagedCommand[]> {
    const rows = (await this.db('staged_commands').where({ server_id: serverId }).orderBy('id')) as RawStaged[]
    return rows.map(({ id, change, called, command, changed_by, changed_at }) => ({
      id,
      change: JSON.parse(change) as PlayerChange,
      called,
      command,
      changedBy: changed_by,
      changedAt: changed_at,
    }))
  }

  /** Keeps one in the place of what waited for the same player and node; it has a number of its own. */
  async stage(serverId: number, { change, called, command, changedBy, changedAt }: Omit<StagedCommand, 'id'>): Promise<void> {
    const subject = subjectOf(change)
    await this.db.transaction(async (trx) => {
      await trx('staged_commands').where({ server_id: serverId, subject }).delete()
      await trx('staged_commands').insert({
        server_id: serverId,
        subject,
        change: JSON.stringify(change),
        called,
        command,
        changed_by: changedBy,
        changed_at: changedAt,
      })
    })
  }

  /** Takes away what waits for the same player and node. */
  async unstage(serverId: number, change: PlayerChange): Promise<void> {
    await this.db('staged_commands')
      .where({ server_id: serverId, subject: subjectOf(change) })
      .delete()
  }

  /** @returns whether it was there */
  async discard(serverId: number, id: number): Promise<boolean> {
    return (await this.db('staged_commands').where({ server_id: serverId, id }).delete()) > 0
  }

  /** The commands of a change, in the order they are sent. */
  async applied(applyId: number): Promise<AppliedCommand[]> {
    const rows = (await this.db('apply_commands').where({ apply_id: applyId }).orderBy('position')) as RawApplied[]
    return rows.map(({ staged_id, change, before, ...row }) => ({
      ...row,
      stagedId: staged_id,
      change: JSON.parse(change) as PlayerChange,
      before: JSON.parse(before) as SaidBefore,
    }))
  }

  async begin(applyId: number, commands: readonly PlannedCommand[]): Promise<void> {
    for (const [position, { stagedId, change, called, command, before }] of commands.entries())
      await this.db('apply_commands').insert({
        apply_id: applyId,
        position,
        staged_id: stagedId,
        change: JSON.stringify(change),
        called,
        command,
        before: JSON.stringify(before),
        state: 'waiting',
      })
  }

  /** Notes how far one got; what is done leaves the tray in the same step. */
  async note(applyId: number, position: number, state: CommandState, reason = ''): Promise<void> {
    await this.db.transaction(async (trx) => {
      const where = { apply_id: applyId, position }
      await trx('apply_commands').where(where).update({ state, reason })
      if (state !== 'done') return
      const row = (await trx('apply_commands').where(where).first('staged_id')) as Pick<RawApplied, 'staged_id'> | undefined
      if (row && row.staged_id !== null) await trx('staged_commands').where({ id: row.staged_id }).delete()
    })
  }
}
