import type { Knex } from 'knex'

/** Findings that somebody set aside, with why: they are remembered while the value stays. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('asides', (t) => {
    t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
    t.string('subject').notNullable()
    t.string('path').notNullable()
    t.string('code').notNullable()
    t.text('reason').notNullable()
    t.string('set_by').notNullable()
    t.string('set_at').notNullable()
    t.primary(['server_id', 'subject'])
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('asides')
}
