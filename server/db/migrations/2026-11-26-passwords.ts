import type { Knex } from 'knex'

/** Accounts get passwords, sessions a beginning, and there are invitations; attempts to sign in are counted. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('accounts', (t) => {
    t.string('password')
    t.string('name_key').notNullable().defaultTo('')
  })
  for (const { id, name } of (await db('accounts').select('id', 'name')) as { id: number; name: string }[])
    await db('accounts')
      .where({ id })
      .update({ name_key: name.normalize('NFKC').toLowerCase() })
  await db.schema.alterTable('accounts', (t) => {
    t.unique(['name_key'])
  })
  await db.schema.alterTable('sessions', (t) => {
    t.string('started_at').notNullable().defaultTo('')
  })
  await db.schema
    .createTable('invitations', (t) => {
      t.increments('id')
      t.string('key_hash').notNullable().unique()
      t.string('role').notNullable().checkIn(['owner', 'editor', 'viewer'])
      // an invitation for an account that is there gives it a new password
      t.integer('account_id').references('accounts.id').onDelete('CASCADE')
      t.string('invited_by').notNullable()
      t.string('expires_at').notNullable()
    })
    .createTable('sign_in_attempts', (t) => {
      t.string('kind').notNullable()
      t.string('key').notNullable()
      t.integer('count').notNullable()
      t.bigInteger('last_at').notNullable()
      t.bigInteger('wait_until').notNullable()
      t.primary(['kind', 'key'])
    })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('sign_in_attempts')
  await db.schema.dropTable('invitations')
  await db.schema.alterTable('sessions', (t) => {
    t.dropColumn('started_at')
  })
  await db.schema.alterTable('accounts', (t) => {
    t.dropUnique(['name_key'])
    t.dropColumn('name_key')
    t.dropColumn('password')
  })
}
