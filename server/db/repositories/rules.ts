import type { Knex } from 'knex'
import { readRule, type Rule } from '@pasticcio/core'
import { ReadCache } from '../read-cache'

/** A rule somebody gave a setting, with who and when. */
export interface GivenRule {
  readonly path: string
  readonly rule: Rule
  readonly by: string
  /** ISO date. */
  readonly at: string
}

export class RuleRepository {
  private readonly cache = new ReadCache()

  constructor(private readonly db: Knex) {}

  async save(serverId: number, { path, rule, by, at }: GivenRule): Promise<void> {
    await this.db('rules')
      .insert({ server_id: serverId, path, pointer: rule.path, rule: JSON.stringify(rule), set_by: by, set_at: at })
      .onConflict(['server_id', 'path', 'pointer'])
      .merge()
  }

  /** @returns whether there was one */
  async remove(serverId: number, path: string, pointer: string): Promise<boolean> {
    return (await this.db('rules').where({ server_id: serverId, path, pointer }).delete()) > 0
  }

  /** By the path of the file. */
  async of(serverId: number): Promise<ReadonlyMap<string, readonly Rule[]>> {
    return this.cache.get(`rules ${serverId}`, async () => {
      const rows = (await this.db('rules').where({ server_id: serverId }).orderBy('pointer')) as { path: string; rule: string }[]
      const byPath = new Map<string, Rule[]>()
      for (const { path, rule } of rows) byPath.set(path, [...(byPath.get(path) ?? []), readRule(JSON.parse(rule), 'the rule')])
      return byPath
    })
  }
}
