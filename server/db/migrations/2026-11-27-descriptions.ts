import type { Knex } from 'knex'

/** Descriptions of settings files, as JSON Schemas, that somebody attached. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('descriptions', (t) => {
    t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
    t.string('path').notNullable()
    t.string('name').notNullable()
    t.text('text').notNullable()
    t.string('set_by').notNullable()
    t.string('set_at').notNullable()
    t.primary(['server_id', 'path'])
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('descriptions')
}
