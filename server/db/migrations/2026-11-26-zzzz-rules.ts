import type { Knex } from 'knex'

/** What people say that settings are: it overrules what is told from the plugin's own words. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('rules', (t) => {
    t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
    t.string('path').notNullable()
    // a JSON Pointer in which * stands for any one name
    t.string('pointer').notNullable()
    t.text('rule').notNullable()
    t.string('set_by').notNullable()
    t.string('set_at').notNullable()
    t.primary(['server_id', 'path', 'pointer'])
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('rules')
}
