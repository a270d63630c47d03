import type { Knex } from 'knex'
import { array, string } from 'yup'
import { ReadCache } from '../read-cache'

/** A settings file that a plugin wrote anew as its server started. */
export interface Rewrite {
  readonly path: string
  readonly plugin: string
  /** JSON Pointers of the settings that were others after it; the first of them. */
  readonly settings: readonly string[]
  /** ISO date of the last time. */
  readonly at: string
}

const settingsSchema = array(string().defined()).required()

export class RewriteRepository {
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  async save(serverId: number, { path, plugin, settings, at }: Rewrite): Promise<void> {
    await this.db('rewrites')
      .insert({ server_id: serverId, path, plugin, settings: JSON.stringify(settings), at })
      .onConflict(['server_id', 'path'])
      .merge()
  }

  /** By path. */
  async of(serverId: number): Promise<ReadonlyMap<string, Rewrite>> {
    return this.cache.get(`rewrites ${serverId}`, async () => {
      const rows = (await this.db('rewrites').where({ server_id: serverId })) as (Omit<Rewrite, 'settings'> & { settings: string })[]
      return new Map(
        rows.map(({ path, plugin, at, settings }) => [
          path,
          { path, plugin, at, settings: settingsSchema.validateSync(JSON.parse(settings)) },
        ]),
      )
    })
  }
}
