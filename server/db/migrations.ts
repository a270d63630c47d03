import type { Knex } from 'knex'
import * as first from './migrations/2026-11-23-first'
import * as connections from './migrations/2026-11-26-connections'
import * as placements from './migrations/2026-11-26-zz-placements'
import * as seenToRun from './migrations/2026-11-26-zzz-seen-to-run'
import * as rules from './migrations/2026-11-26-zzzz-rules'
import * as asides from './migrations/2026-11-27-asides'
import * as assumptions from './migrations/2026-11-27-assumptions'
import * as descriptions from './migrations/2026-11-27-descriptions'
import * as stagedCommands from './migrations/2026-11-27-staged-commands'
import * as passwords from './migrations/2026-11-26-passwords'
import * as retention from './migrations/2026-11-26-retention'

const all: Readonly<Record<string, Knex.Migration>> = {
  '2026-11-23-first': first,
  '2026-11-26-connections': connections,
  '2026-11-26-passwords': passwords,
  '2026-11-26-retention': retention,
  '2026-11-26-zz-placements': placements,
  '2026-11-26-zzz-seen-to-run': seenToRun,
  '2026-11-26-zzzz-rules': rules,
  '2026-11-27-asides': asides,
  '2026-11-27-assumptions': assumptions,
  '2026-11-27-descriptions': descriptions,
  '2026-11-27-staged-commands': stagedCommands,
}

/** Migrations are part of the program, so that a build needs no files beside it. */
export const migrations: Knex.MigrationSource<string> = {
  getMigrations: async () => Object.keys(all).sort(),
  getMigrationName: (name) => name,
  getMigration: async (name) => all[name]!,
}
