import type { Knex } from 'knex'

/** The files as a plugin's version shipped them, per server. */
export class FactoryRepository {
  constructor(private readonly db: Knex) {}

  async get(serverId: number, plugin: string, version: string, path: string): Promise<string | null> {
    const row = (await this.db('factory_files').where({ server_id: serverId, plugin, version, path }).first()) as
      { sha: string } | undefined
    return row?.sha ?? null
  }

  async keep(serverId: number, plugin: string, version: string, path: string, sha: string): Promise<void> {
    await this.db('factory_files')
      .insert({ server_id: serverId, plugin, version, path, sha })
      .onConflict(['server_id', 'plugin', 'version', 'path'])
      .ignore()
  }
}
