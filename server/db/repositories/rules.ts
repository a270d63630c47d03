import type { Knex } from 'knex'
import { readDescription, readRule, type Rule } from '@pasticcio/core'
import { ReadCache } from '../read-cache'

/** A rule somebody gave a setting, with who and when. */
export interface GivenRule {
  readonly path: string
  readonly rule: Rule
  readonly by: string
  /** ISO date. */
  readonly at: string
}

/** A description of one settings file that somebody attached, as it came. */
export interface Description {
  /** The settings file it describes. */
  readonly path: string
  /** What the file of the description is called. */
  readonly name: string
  readonly text: string
  readonly by: string
  /** ISO date. */
  readonly at: string
}

interface DescriptionRow {
  readonly path: string
  readonly name: string
  readonly text: string
  readonly set_by: string
  readonly set_at: string
}

export class RuleRepository {
  private readonly cache = new ReadCache()
  private readonly declared = new Map<string, { readonly text: string; readonly rules: readonly Rule[] }>()

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

  /** What people say, and what descriptions that they attached declare, by the path of the file. */
  async of(serverId: number): Promise<ReadonlyMap<string, readonly Rule[]>> {
    return this.cache.get(`rules ${serverId}`, async () => {
      const rows = (await this.db('rules').where({ server_id: serverId }).orderBy('pointer')) as { path: string; rule: string }[]
      const byPath = new Map<string, Rule[]>()
      const add = (path: string, rules: readonly Rule[]): void => void byPath.set(path, [...(byPath.get(path) ?? []), ...rules])
      for (const { path, rule } of rows) add(path, [readRule(JSON.parse(rule), 'the rule')])
      for (const { path, text } of await this.descriptions(serverId)) add(path, this.declaredBy(`${serverId} ${path}`, text))
      return byPath
    })
  }

  /** What a description declares; read anew only where it is another, since anything that is written asks for it again. */
  private declaredBy(key: string, text: string): readonly Rule[] {
    const known = this.declared.get(key)
    if (known?.text === text) return known.rules
    const rules = readDescription(text)
    this.declared.set(key, { text, rules })
    return rules
  }

  async describe(serverId: number, { path, name, text, by, at }: Description): Promise<void> {
    await this.db('descriptions')
      .insert({ server_id: serverId, path, name, text, set_by: by, set_at: at })
      .onConflict(['server_id', 'path'])
      .merge()
  }

  /** @returns whether there was one */
  async removeDescription(serverId: number, path: string): Promise<boolean> {
    return (await this.db('descriptions').where({ server_id: serverId, path }).delete()) > 0
  }

  async descriptions(serverId: number): Promise<Description[]> {
    const rows = (await this.db('descriptions').where({ server_id: serverId }).orderBy('path')) as DescriptionRow[]
    return rows.map(({ path, name, text, set_by, set_at }) => ({ path, name, text, by: set_by, at: set_at }))
  }
}
