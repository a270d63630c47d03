import type { Knex } from 'knex'

export async function up(db: Knex): Promise<void> {
  await db.schema
    .createTable('accounts', (t) => {
      t.increments('id')
      t.string('name').notNullable().unique()
      t.string('role').notNullable().checkIn(['owner', 'editor', 'viewer'])
    })
    .createTable('sessions', (t) => {
      t.string('token_hash').primary()
      t.integer('account_id').notNullable().references('accounts.id').onDelete('CASCADE')
      t.string('expires_at').notNullable()
    })
    .createTable('families', (t) => {
      t.string('id').primary()
      t.text('text').notNullable()
    })
    .createTable('servers', (t) => {
      t.increments('id')
      t.string('slug').notNullable().unique()
      t.string('family_id').notNullable().references('families.id')
      t.string('folder').notNullable()
      t.text('command').notNullable()
    })
    .createTable('blobs', (t) => {
      t.string('sha').primary()
      t.binary('bytes').notNullable()
    })
    .createTable('packages', (t) => {
      t.increments('id')
      t.string('family_id').notNullable().references('families.id')
      t.string('name').notNullable()
      t.string('version').notNullable()
      t.string('sha').notNullable().references('blobs.sha')
      t.text('info').notNullable()
      t.string('origin').notNullable()
      t.string('added_at').notNullable()
      t.unique(['family_id', 'name', 'version'])
    })
    .createTable('factory_files', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.string('plugin').notNullable()
      t.string('version').notNullable()
      t.string('path').notNullable()
      t.string('sha').notNullable().references('blobs.sha')
      t.primary(['server_id', 'plugin', 'version', 'path'])
    })
    .createTable('drafts', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.string('path').notNullable()
      t.string('base_sha').notNullable().references('blobs.sha')
      t.string('sha').notNullable().references('blobs.sha')
      t.string('changed_by').notNullable()
      t.string('changed_at').notNullable()
      t.primary(['server_id', 'path'])
    })
    .createTable('choices', (t) => {
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.integer('package_id').notNullable().references('packages.id').onDelete('CASCADE')
      t.text('choices').notNullable()
      t.primary(['server_id', 'package_id'])
    })
    .createTable('applies', (t) => {
      t.increments('id')
      t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
      t.string('kind').notNullable().checkIn(['settings', 'install', 'update', 'undo'])
      t.string('title').notNullable()
      t.string('status').notNullable().checkIn(['running', 'verified', 'written', 'complained', 'failed', 'undone'])
      t.integer('undoes').references('applies.id')
      t.text('outcome').notNullable()
      t.string('started_by').notNullable()
      t.string('started_at').notNullable()
    })
    .createTable('apply_files', (t) => {
      t.integer('apply_id').notNullable().references('applies.id').onDelete('CASCADE')
      t.string('path').notNullable()
      t.string('before_sha').references('blobs.sha')
      t.string('after_sha').references('blobs.sha')
      t.primary(['apply_id', 'path'])
    })
    .createTable('apply_steps', (t) => {
      t.increments('id')
      t.integer('apply_id').notNullable().references('applies.id').onDelete('CASCADE')
      t.string('step').notNullable()
      t.string('detail').notNullable()
      t.string('at').notNullable()
    })
    .createTable('record', (t) => {
      t.increments('id')
      t.string('at').notNullable()
      t.string('account').notNullable()
      t.integer('server_id')
      t.string('action').notNullable()
      t.string('detail').notNullable()
    })
  // the record of who did what is only ever added to
  for (const event of ['UPDATE', 'DELETE'])
    await db.raw(
      `CREATE TRIGGER record_no_${event.toLowerCase()} BEFORE ${event} ON record BEGIN SELECT RAISE(ABORT, 'the record is append-only'); END`,
    )
}

export async function down(db: Knex): Promise<void> {
  for (const table of [
    'record',
    'apply_steps',
    'apply_files',
    'applies',
    'choices',
    'drafts',
    'factory_files',
    'packages',
    'blobs',
    'servers',
    'families',
    'sessions',
    'accounts',
  ])
    await db.schema.dropTable(table)
}
