import type { Knex } from 'knex'
import { object, string } from 'yup'
import { consoles } from '../../consoles'
import { places } from '../../places'
import { ReadCache } from '../read-cache'
import type { SecretBox } from '../secrets'

/** Settings of a place or console, with its type; the rest is the driver's to check. */
export interface DriverSettings {
  readonly type: string
  readonly [name: string]: unknown
}

/** Where a server's files are, and how it is spoken to. */
export interface Connection {
  readonly place: DriverSettings
  readonly console: DriverSettings
}

export interface ServerRow {
  readonly id: number
  readonly slug: string
  readonly familyId: string
  readonly connection: Connection
}

/** Where a server's files are, in words. */
export function placeInWords({ place }: Connection): string {
  return String(place['folder'] ?? place.type)
}

interface Raw {
  id: number
  slug: string
  family_id: string
  connection: string
}

const driverSchema = object({ type: string().required() })
const connectionSchema = object({ place: driverSchema.required(), console: driverSchema.required() })

export class ServerRepository {
  private readonly cache = new ReadCache()

  constructor(
    private readonly db: Knex,
    private readonly secrets: SecretBox,
  ) {}

  async list(): Promise<readonly ServerRow[]> {
    return this.cache.get('servers', async () => ((await this.db('servers').orderBy('id')) as Raw[]).map((raw) => this.fromRaw(raw)))
  }

  async get(slug: string): Promise<ServerRow | null> {
    return (await this.list()).find((row) => row.slug === slug) ?? null
  }

  /** Adds a server; secrets in its connection are encrypted. @throws ValidationError for a connection that is not right */
  async add(server: Omit<ServerRow, 'id'>): Promise<void> {
    await this.db('servers').insert({ slug: server.slug, family_id: server.familyId, connection: this.sealed(server.connection) })
  }

  /** @throws ValidationError for a connection that is not right */
  async setConnection(id: number, connection: Connection): Promise<void> {
    await this.db('servers')
      .where({ id })
      .update({ connection: this.sealed(connection) })
  }

  private sealed(connection: Connection): string {
    const { place, console } = checked(connection)
    return JSON.stringify({
      place: this.secrets.sealIn(place, places.get(place.type).secrets),
      console: this.secrets.sealIn(console, consoles.get(console.type).secrets),
    })
  }

  /** Removes a server and everything kept of it; the record stays. */
  async remove(id: number): Promise<void> {
    await this.db('servers').where({ id }).delete()
  }

  private fromRaw(raw: Raw): ServerRow {
    const { place, console } = connectionSchema.validateSync(JSON.parse(raw.connection)) as Connection
    const connection = {
      place: this.secrets.openIn(place, places.get(place.type).secrets),
      console: this.secrets.openIn(console, consoles.get(console.type).secrets),
    }
    return { id: raw.id, slug: raw.slug, familyId: raw.family_id, connection }
  }
}

/** A connection as its drivers want it. */
function checked(connection: Connection): Connection {
  const settings = (of: DriverSettings, schema: { validateSync(value: unknown): unknown }): DriverSettings => {
    const { type, ...rest } = of
    return { type, ...(schema.validateSync(rest) as object) }
  }
  return {
    place: settings(connection.place, places.get(connection.place.type).schema),
    console: settings(connection.console, consoles.get(connection.console.type).schema),
  }
}
