import type { Knex } from 'knex'

/**
 * How servers ran is kept by the minute, and after two days by the quarter of an hour; plugin sites can be added here, each
 * with whether it may be at an address of one's own network; files that plugins write anew when they start are remembered.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema
    .createTable('samples', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      // seconds since 1970
      t.integer('at').notNullable()
      // how much time it stands for
      t.integer('seconds').notNullable()
      t.integer('players').notNullable()
      t.float('ticks').notNullable()
      // megabytes
      t.float('memory')
      t.primary(['server_id', 'at'])
    })
    .createTable('plugin_times', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.integer('at').notNullable()
      t.integer('seconds').notNullable()
      t.string('plugin').notNullable()
      // milliseconds of a tick
      t.float('ms').notNullable()
      t.primary(['server_id', 'at', 'plugin'])
    })
    .createTable('sites', (t) => {
      t.increments('id')
      t.string('address').notNullable().unique()
      t.boolean('may_be_private').notNullable().defaultTo(false)
      t.string('added_by').notNullable()
      t.string('added_at').notNullable()
    })
    .createTable('rewrites', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.string('path').notNullable()
      t.string('plugin').notNullable()
      t.text('settings').notNullable()
      t.string('at').notNullable()
      t.primary(['server_id', 'path'])
    })
}

export async function down(db: Knex): Promise<void> {
  for (const table of ['rewrites', 'sites', 'plugin_times', 'samples']) await db.schema.dropTable(table)
}
