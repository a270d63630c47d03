import { createHash } from 'node:crypto'
import type { Knex } from 'knex'

/** Every place that refers to a content by its hash. */
const REFERENCES = [
  ['packages', 'sha'],
  ['package_defaults', 'sha'],
  ['factory_files', 'sha'],
  ['drafts', 'sha'],
  ['drafts', 'base_sha'],
  ['apply_files', 'before_sha'],
  ['apply_files', 'after_sha'],
] as const

/** So many texts are held in memory, each of at most so many characters. */
const MOST_KNOWN = 400
const LARGEST_KNOWN = 64 * 1024

/** Content by its SHA-256; the same content is kept once, and what nobody refers to is collected after a while. */
export class BlobRepository {
  private readonly texts = new Map<string, string>()

  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
  ) {}

  /** Keeps content; within a transaction where one is given. */
  async put(bytes: Uint8Array, trx: Knex = this.db): Promise<string> {
    const sha = hashOf(bytes)
    const touched_at = this.now().toISOString()
    // most of what is put is there already, and need not travel to the database again
    if ((await trx('blobs').where({ sha }).update({ touched_at })) === 0)
      await trx('blobs')
        .insert({ sha, bytes: Buffer.from(bytes), touched_at })
        .onConflict('sha')
        .merge(['touched_at'])
    return sha
  }

  /** Null for content that is not here. */
  async get(sha: string): Promise<Buffer | null> {
    const row = (await this.db('blobs').where({ sha }).first('bytes')) as { bytes: Buffer } | undefined
    return row?.bytes ?? null
  }

  async requireBytes(sha: string): Promise<Buffer> {
    const bytes = await this.get(sha)
    if (!bytes) throw new Error(`blob ${sha} is missing`)
    return bytes
  }

  /** The text of content. What is asked for again and again need not be read again: of one hash it is always the same. */
  async requireText(sha: string): Promise<string> {
    const known = this.texts.get(sha)
    if (known !== undefined) return known
    const text = (await this.requireBytes(sha)).toString('utf8')
    if (text.length > LARGEST_KNOWN) return text
    if (this.texts.size >= MOST_KNOWN) this.texts.delete(this.texts.keys().next().value!)
    this.texts.set(sha, text)
    return text
  }

  /** Hashes of contents nobody refers to, last put before a moment. */
  async unused(before: string, most: number): Promise<string[]> {
    const query = this.db('blobs').where('touched_at', '<', before).limit(most)
    for (const [table, column] of REFERENCES)
      void query.whereNotExists(this.db(table).whereRaw('??.?? = blobs.sha', [table, column]).select(this.db.raw('1')))
    return (await query.pluck('sha')) as string[]
  }

  /** Takes contents away that nobody refers to; the database refuses where somebody does by now. @returns whether it did */
  async discard(sha: string, before: string): Promise<boolean> {
    try {
      return (await this.db('blobs').where({ sha }).where('touched_at', '<', before).delete()) > 0
    } catch (error) {
      if ((error as { code?: string }).code === 'SQLITE_CONSTRAINT_FOREIGNKEY') return false
      throw error
    }
  }

  /** Bytes of contents by what refers to them first. */
  async sizes(): Promise<{ packages: number; factory: number; drafts: number; history: number; unused: number }> {
    const uses = (table: string, column: string): string => `EXISTS (SELECT 1 FROM ${table} WHERE ${table}.${column} = blobs.sha)`
    const kind = `CASE
      WHEN ${uses('packages', 'sha')} THEN 'packages'
      WHEN ${uses('factory_files', 'sha')} OR ${uses('package_defaults', 'sha')} THEN 'factory'
      WHEN ${uses('drafts', 'sha')} OR ${uses('drafts', 'base_sha')} THEN 'drafts'
      WHEN ${uses('apply_files', 'before_sha')} OR ${uses('apply_files', 'after_sha')} THEN 'history'
      ELSE 'unused' END`
    const rows = (await this.db('blobs')
      .select(this.db.raw(`${kind} AS kind`))
      .groupBy('kind')
      .sum({ bytes: this.db.raw('length(bytes)') })) as unknown as { kind: string; bytes: number }[]
    const of = (name: string): number => rows.find((row) => row.kind === name)?.bytes ?? 0
    return {
      packages: of('packages'),
      factory: of('factory'),
      drafts: of('drafts'),
      history: of('history'),
      unused: of('unused'),
    }
  }
}

export function hashOf(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex')
}
