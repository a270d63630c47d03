import type { Console, PluginTime } from '../consoles'
import type { SampleRepository } from '../db/repositories/samples'

interface Sum {
  count: number
  ticks: number
  players: number
  memory: number | null
}

const NOTHING: Sum = { count: 0, ticks: 0, players: 0, memory: null }

export interface SamplerOptions {
  readonly serverId: number
  readonly everySeconds: number
  readonly now: () => Date
  /** Hears of what could not be kept. */
  readonly failed: (error: unknown) => void
}

/**
 * Measures one server: what its console tells between two moments is one sample. A server that tells nothing, or does not
 * run, has none for that time.
 */
export class LoadSampler {
  private sum = NOTHING
  private times = new Map<string, number>()
  private readonly timer: NodeJS.Timeout
  private readonly unhear: () => void

  constructor(
    private readonly console: Console,
    private readonly samples: SampleRepository,
    private readonly options: SamplerOptions,
  ) {
    this.unhear = console.listen({
      line: ({ event }) => event?.type === 'state' && this.add(event),
      time: (time) => this.addTime(time),
    })
    this.timer = setInterval(() => void this.keep().catch(options.failed), options.everySeconds * 1000).unref()
  }

  private add({ players, ticks, memory }: { players: number; ticks: number; memory: number | null }): void {
    // of players the last count holds: halves of players cannot be compared
    this.sum = { count: this.sum.count + 1, ticks: this.sum.ticks + ticks, players, memory }
  }

  private addTime({ plugin, ms }: PluginTime): void {
    if (this.times.size < MOST_PLUGINS) this.times.set(plugin, ms)
  }

  /** Keeps what was told since the last time, and asks for what plugins take, which belongs to the next. */
  async keep(): Promise<void> {
    const { sum, times } = this
    this.sum = NOTHING
    this.times = new Map()
    if (this.console.state.status !== 'running') return
    if (sum.count > 0) {
      const { serverId, everySeconds, now } = this.options
      const sample = {
        at: Math.floor(now().getTime() / 1000),
        seconds: everySeconds,
        players: sum.players,
        ticks: sum.ticks / sum.count,
        memory: sum.memory,
      }
      await this.samples.add(
        serverId,
        sample,
        [...times].map(([plugin, ms]) => ({ plugin, ms })),
      )
    }
    if (this.console.state.status === 'running') this.console.askTimes()
  }

  close(): void {
    clearInterval(this.timer)
    this.unhear()
  }
}

const MOST_PLUGINS = 2000
