import type { Knex } from 'knex'

/** Where a server's files are and how it is spoken to become data, and packages found on a server are remembered by place. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('servers', (t) => {
    t.text('connection').notNullable().defaultTo('{}')
  })
  for (const row of (await db('servers').select('id', 'folder', 'command')) as { id: number; folder: string; command: string }[]) {
    const connection = {
      place: { type: 'local', folder: row.folder },
      console: { type: 'process', folder: row.folder, command: JSON.parse(row.command) as string[] },
    }
    await db('servers')
      .where({ id: row.id })
      .update({ connection: JSON.stringify(connection) })
  }
  await db.schema.alterTable('servers', (t) => {
    t.dropColumn('folder')
    t.dropColumn('command')
  })
  await db.schema.createTable('installed_packages', (t) => {
    t.integer('server_id').notNullable().references('servers.id').onDelete('CASCADE')
    t.string('path').notNullable()
    t.integer('size').notNullable()
    t.double('changed').notNullable()
    t.integer('package_id').notNullable().references('packages.id').onDelete('CASCADE')
    t.primary(['server_id', 'path'])
  })
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable('installed_packages')
  await db.schema.alterTable('servers', (t) => {
    t.string('folder').notNullable().defaultTo('')
    t.text('command').notNullable().defaultTo('[]')
  })
  for (const row of (await db('servers').select('id', 'connection')) as { id: number; connection: string }[]) {
    const { place, console } = JSON.parse(row.connection) as { place: { folder?: string }; console: { command?: string[] } }
    await db('servers')
      .where({ id: row.id })
      .update({ folder: place.folder ?? '', command: JSON.stringify(console.command ?? []) })
  }
  await db.schema.alterTable('servers', (t) => {
    t.dropColumn('connection')
  })
}
