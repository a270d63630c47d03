import type { Knex } from 'knex'

/** What people of a server assume of its players, from which the economy is reckoned. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('assumptions', (t) => {
    t.integer('server_id').primary().references('servers.id').onDelete('CASCADE')
    t.text('assumed').notNullable()
    t.integer('revision').notNullable()
    t.string('set_by').notNullable()
    t.string('set_at').notNullable()
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('assumptions')
}
