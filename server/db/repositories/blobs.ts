import { createHash } from 'node:crypto'
import type { Knex } from 'knex'

/** Content by its SHA-256; the same content is kept once. */
export class BlobRepository {
  constructor(private readonly db: Knex) {}

  async put(bytes: Uint8Array): Promise<string> {
    const sha = hashOf(bytes)
    await this.db('blobs')
      .insert({ sha, bytes: Buffer.from(bytes) })
      .onConflict('sha')
      .ignore()
    return sha
  }

  async requireBytes(sha: string): Promise<Buffer> {
    const row = (await this.db('blobs').where({ sha }).first()) as { bytes: Buffer } | undefined
    if (!row) throw new Error(`blob ${sha} is missing`)
    return row.bytes
  }

  async requireText(sha: string): Promise<string> {
    return (await this.requireBytes(sha)).toString('utf8')
  }
}

export function hashOf(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex')
}
