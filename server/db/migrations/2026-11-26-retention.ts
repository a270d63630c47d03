import { createHash } from 'node:crypto'
import type { Knex } from 'knex'

/** Columns that refer to something else, which deleting looks through. */
const REFERENCES = [
  ['packages', 'sha'],
  ['factory_files', 'sha'],
  ['drafts', 'sha'],
  ['drafts', 'base_sha'],
  ['apply_files', 'before_sha'],
  ['apply_files', 'after_sha'],
  ['apply_steps', 'apply_id'],
  ['installed_packages', 'package_id'],
  ['choices', 'package_id'],
] as const

/**
 * What nobody refers to any more can be told and taken away: contents know when they were last put, every reference to
 * one has an index, and the settings files of a package are contents of their own instead of a part of its description.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('blobs', (t) => {
    t.string('touched_at').notNullable().defaultTo('')
  })
  await db.schema.alterTable('applies', (t) => {
    t.boolean('pinned').notNullable().defaultTo(false)
    t.index(['server_id', 'status'])
  })
  // the drafts it came from, oldest first, as JSON
  await db.schema.alterTable('drafts', (t) => {
    t.text('came_from').notNullable().defaultTo('[]')
  })
  await db.schema.createTable('package_defaults', (t) => {
    t.integer('package_id').notNullable().references('packages.id').onDelete('CASCADE')
    t.string('name').notNullable()
    t.string('sha').notNullable().references('blobs.sha')
    t.primary(['package_id', 'name'])
    t.index('sha')
  })
  for (const [table, column] of REFERENCES) await db.schema.alterTable(table, (t) => void t.index(column))
  for (const { id, info } of (await db('packages').select('id', 'info')) as { id: number; info: string }[]) {
    const { defaults, ...about } = JSON.parse(info) as { defaults: Record<string, string> }
    for (const [name, text] of Object.entries(defaults)) {
      const sha = createHash('sha256').update(text).digest('hex')
      await db('blobs')
        .insert({ sha, bytes: Buffer.from(text, 'utf8') })
        .onConflict('sha')
        .ignore()
      await db('package_defaults').insert({ package_id: id, name, sha })
    }
    await db('packages')
      .where({ id })
      .update({ info: JSON.stringify(about) })
  }
}

export async function down(db: Knex): Promise<void> {
  for (const { id, info } of (await db('packages').select('id', 'info')) as { id: number; info: string }[]) {
    const rows = (await db('package_defaults').join('blobs', 'blobs.sha', 'package_defaults.sha').where({ package_id: id })) as {
      name: string
      bytes: Buffer
    }[]
    const defaults = Object.fromEntries(rows.map(({ name, bytes }) => [name, bytes.toString('utf8')]))
    await db('packages')
      .where({ id })
      .update({ info: JSON.stringify({ ...(JSON.parse(info) as object), defaults }) })
  }
  await db.schema.dropTable('package_defaults')
  for (const [table, column] of REFERENCES) await db.schema.alterTable(table, (t) => void t.dropIndex(column))
  await db.schema.alterTable('applies', (t) => {
    t.dropIndex(['server_id', 'status'])
    t.dropColumn('pinned')
  })
  await db.schema.alterTable('drafts', (t) => {
    t.dropColumn('came_from')
  })
  await db.schema.alterTable('blobs', (t) => {
    t.dropColumn('touched_at')
  })
}
