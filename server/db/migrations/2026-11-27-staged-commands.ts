import type { Knex } from 'knex'

/** Console commands that wait in the tray, and those that a change sent, with what takes them back. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('staged_commands', (t) => {
    t.increments('id')
    t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
    t.string('subject').notNullable()
    t.text('change').notNullable()
    t.string('called').notNullable()
    t.string('command').notNullable()
    t.string('changed_by').notNullable()
    t.string('changed_at').notNullable()
    t.unique(['server_id', 'subject'])
  })
  await db.schema.createTable('apply_commands', (t) => {
    t.integer('apply_id').notNullable().references('applies.id').onDelete('CASCADE')
    t.integer('position').notNullable()
    t.integer('staged_id')
    t.text('change').notNullable()
    t.string('called').notNullable()
    t.string('command').notNullable()
    t.text('before').notNullable()
    t.string('state').notNullable()
    t.text('reason').notNullable().defaultTo('')
    t.primary(['apply_id', 'position'])
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('apply_commands')
  await db.schema.dropTable('staged_commands')
}
