import type { Knex } from 'knex'

const KINDS = ['settings', 'install', 'update', 'undo', 'remove', 'switch']
const OLD_KINDS = ['settings', 'install', 'update', 'undo']

/**
 * What placing a plugin did to the server's files is kept with the change, so that it can be taken out again; packages may
 * lie in a part of a download; families can be changed here, beside what is shipped; what only a person can do is ticked off.
 */
export async function up(db: Knex): Promise<void> {
  await setKinds(db, KINDS)
  await db.schema.alterTable('packages', (t) => {
    t.string('root').notNullable().defaultTo('')
  })
  await db.schema.alterTable('families', (t) => {
    // null for one that was made here
    t.text('shipped')
    t.string('changed_by').notNullable().defaultTo('')
    t.string('changed_at').notNullable().defaultTo('')
  })
  await db('families').update({ shipped: db.ref('text') })
  await db.schema
    .createTable('placements', (t) => {
      t.integer('apply_id').notNullable().references('applies.id').onDelete('CASCADE')
      t.string('plugin').notNullable()
      t.string('version').notNullable()
      // taken out again
      t.boolean('is_out').notNullable().defaultTo(false)
      t.text('actions').notNullable()
      t.primary(['apply_id', 'plugin'])
    })
    .createTable('done_tasks', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.string('plugin').notNullable()
      t.string('task').notNullable()
      t.string('done_by').notNullable()
      t.string('done_at').notNullable()
      t.primary(['server_id', 'plugin', 'task'])
    })
}

/** SQLite changes no constraint in place; a new column takes the old one's name. */
async function setKinds(db: Knex, kinds: readonly string[]): Promise<void> {
  const list = kinds.map((kind) => `'${kind}'`).join(', ')
  await db.raw(`ALTER TABLE applies ADD COLUMN what VARCHAR(255) NOT NULL DEFAULT 'settings' CHECK (what IN (${list}))`)
  await db('applies').update({ what: db.raw(`CASE WHEN kind IN (${list}) THEN kind ELSE 'install' END`) })
  await db.raw('ALTER TABLE applies DROP COLUMN kind')
  await db.raw('ALTER TABLE applies RENAME COLUMN what TO kind')
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('done_tasks')
  await db.schema.dropTable('placements')
  for (const column of ['shipped', 'changed_by', 'changed_at']) await db.raw(`ALTER TABLE families DROP COLUMN ${column}`)
  await db.raw('ALTER TABLE packages DROP COLUMN root')
  await setKinds(db, OLD_KINDS)
}
