import type { Knex } from 'knex'

/** The files as a plugin's version shipped them, per server. */
export class FactoryRepository {
  constructor(private readonly db: Knex) {}

  /** The hashes of all factory copies kept for a server, by `factoryKey`. */
  async all(serverId: number): Promise<Map<string, string>> {
    const rows = (await this.db('factory_files').where({ server_id: serverId })) as {
      plugin: string
      version: string
      path: string
      sha: string
    }[]
    return new Map(rows.map((row) => [factoryKey(row.plugin, row.version, row.path), row.sha]))
  }

  async keep(serverId: number, plugin: string, version: string, path: string, sha: string): Promise<void> {
    await this.db('factory_files')
      .insert({ server_id: serverId, plugin, version, path, sha })
      .onConflict(['server_id', 'plugin', 'version', 'path'])
      .ignore()
  }
}

export function factoryKey(plugin: string, version: string, path: string): string {
  return JSON.stringify([plugin, version, path])
}
