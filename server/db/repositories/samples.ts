import type { Knex } from 'knex'

/** How a server ran over a short time. */
export interface SampleRow {
  /** Seconds since 1970. */
  readonly at: number
  /** How much time it stands for. */
  readonly seconds: number
  readonly players: number
  /** Ticks a second. */
  readonly ticks: number
  /** Megabytes; null where the server does not tell. */
  readonly memory: number | null
}

/** Several samples as one. */
export interface SampleStep extends Omit<SampleRow, 'seconds'> {
  /** The fewest ticks a second in it. */
  readonly least: number
}

export interface PluginMean {
  readonly plugin: string
  /** Milliseconds of a tick. */
  readonly ms: number
}

/** Times from one on, up to and without another, in seconds since 1970. */
export interface Range {
  readonly from: number
  readonly until: number
}

/** How servers ran, and what their plugins took of it. */
export class SampleRepository {
  constructor(private readonly db: Knex) {}

  async add(serverId: number, { at, seconds, players, ticks, memory }: SampleRow, times: readonly PluginMean[]): Promise<void> {
    await this.db.transaction(async (trx) => {
      await trx('samples').insert({ server_id: serverId, at, seconds, players, ticks, memory }).onConflict(['server_id', 'at']).merge()
      for (let first = 0; first < times.length; first += AT_ONCE)
        await trx('plugin_times')
          .insert(times.slice(first, first + AT_ONCE).map(({ plugin, ms }) => ({ server_id: serverId, at, seconds, plugin, ms })))
          .onConflict(['server_id', 'at', 'plugin'])
          .merge()
    })
  }

  /** In order. */
  async list(serverId: number, range: Range): Promise<SampleRow[]> {
    const rows = this.within('samples', serverId, range).select('at', 'seconds', 'players', 'ticks', 'memory').orderBy('at')
    return (await rows) as SampleRow[]
  }

  /** In order, all of a step of so many seconds as one. */
  async steps(serverId: number, range: Range, seconds: number): Promise<SampleStep[]> {
    const rows = this.within('samples', serverId, range)
      .select(this.db.raw(`${STEP} AS step`, [seconds, seconds]))
      .avg({ players: 'players', ticks: 'ticks', memory: 'memory' })
      .min({ least: 'ticks' })
      .groupBy('step')
      .orderBy('step')
    return ((await rows) as unknown as (Omit<SampleStep, 'at'> & { step: number })[]).map(({ step, ...row }) => ({ at: step, ...row }))
  }

  /** What each plugin took of a tick on the whole, the most first. */
  async timesOf(serverId: number, range: Range): Promise<PluginMean[]> {
    const rows = this.within('plugin_times', serverId, range)
      .select('plugin')
      .select(this.db.raw('SUM(ms * seconds) / SUM(seconds) AS ms'))
      .groupBy('plugin')
      .orderBy('ms', 'desc')
    return (await rows) as PluginMean[]
  }

  /** Makes one of all that is older than a time and finer than so many seconds; what is older than another time goes. */
  async fold(olderThan: number, seconds: number, goneBefore: number): Promise<void> {
    await this.db.transaction(async (trx) => {
      for (const table of ['samples', 'plugin_times']) await trx(table).where('at', '<', goneBefore).delete()
      const until = olderThan - (olderThan % seconds)
      const isFine = (table: string): Knex.QueryBuilder => trx(table).where('at', '<', until).where('seconds', '<', seconds)
      const step = trx.raw(`${STEP} AS at_step`, [seconds, seconds])
      const samples = (await isFine('samples')
        .select('server_id', step)
        .avg({ players: 'players', ticks: 'ticks', memory: 'memory' })
        .groupBy('server_id', 'at_step')) as Folded[]
      const times = (await isFine('plugin_times')
        .select('server_id', 'plugin', step)
        .avg({ ms: 'ms' })
        .groupBy('server_id', 'plugin', 'at_step')) as Folded[]
      await isFine('samples').delete()
      await isFine('plugin_times').delete()
      const whole = ({ at_step: at, ...row }: Folded): object => ({
        ...row,
        at,
        seconds,
        // numbers of players stay whole, so that like can be compared with like
        ...(row.players === undefined ? {} : { players: Math.round(row.players) }),
      })
      for (const [table, rows, key] of [
        ['samples', samples, ['server_id', 'at']],
        ['plugin_times', times, ['server_id', 'at', 'plugin']],
      ] as const)
        for (let first = 0; first < rows.length; first += AT_ONCE)
          await trx(table)
            .insert(rows.slice(first, first + AT_ONCE).map(whole))
            .onConflict([...key])
            .merge()
    })
  }

  private within(table: string, serverId: number, { from, until }: Range): Knex.QueryBuilder {
    return this.db(table).where('server_id', serverId).where('at', '>=', from).where('at', '<', until)
  }
}

/** When a step of so many seconds began. Numbers are handed over as fractions, which would divide without a rest. */
const STEP = '(at / CAST(? AS INTEGER)) * CAST(? AS INTEGER)'

/** SQLite takes so many values with one statement. */
const AT_ONCE = 100

interface Folded {
  readonly server_id: number
  readonly at_step: number
  readonly players?: number
}
