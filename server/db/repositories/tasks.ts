import type { Knex } from 'knex'

/** A thing only a person can do, that somebody did. */
export interface DoneTask {
  readonly plugin: string
  readonly task: string
  readonly doneBy: string
  readonly doneAt: string
}

export class TaskRepository {
  constructor(private readonly db: Knex) {}

  async done(serverId: number): Promise<DoneTask[]> {
    return (await this.db('done_tasks')
      .where({ server_id: serverId })
      .select('plugin', 'task', 'done_by as doneBy', 'done_at as doneAt')) as DoneTask[]
  }

  async setDone(serverId: number, { plugin, task, doneBy, doneAt }: DoneTask): Promise<void> {
    await this.db('done_tasks')
      .insert({ server_id: serverId, plugin, task, done_by: doneBy, done_at: doneAt })
      .onConflict(['server_id', 'plugin', 'task'])
      .ignore()
  }

  async setOpen(serverId: number, plugin: string, task: string): Promise<void> {
    await this.db('done_tasks').where({ server_id: serverId, plugin, task }).delete()
  }
}
