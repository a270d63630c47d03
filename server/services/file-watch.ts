import type { Inventory } from './inventory'

const EVERY_MS = 2_000
/** Looking takes at most such a share of the time, however many files there are. */
const SHARE = 1 / 20

export interface FileWatchOptions {
  /** Hears of files that are other than they were, that came, or that went. */
  changed(paths: readonly string[]): Promise<void> | void
  /** Hears of what could not be looked at. */
  failed(error: unknown): void
  readonly everyMs?: number
}

/**
 * Looks at a server's settings and records again and again, for as long as somebody wants to know. Asking the place each
 * time works for all kinds of places, and misses nothing that is there for longer than a moment.
 */
export class FileWatch {
  private known: ReadonlyMap<string, string> | null = null
  private timer: NodeJS.Timeout | null = null
  private isOn = false

  constructor(
    private readonly inventory: Inventory,
    private readonly options: FileWatchOptions,
  ) {}

  start(): void {
    if (this.isOn) return
    this.isOn = true
    this.known = null
    this.again(0)
  }

  stop(): void {
    this.isOn = false
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
  }

  private again(afterMs: number): void {
    this.timer = setTimeout(() => void this.look(), afterMs).unref()
  }

  private async look(): Promise<void> {
    const from = performance.now()
    try {
      const now = await this.stand()
      const before = this.known
      this.known = now
      const paths = before ? differing(before, now) : []
      if (paths.length > 0 && this.isOn) await this.options.changed(paths)
    } catch (error) {
      this.options.failed(error)
    }
    if (this.isOn) this.again(Math.max(this.options.everyMs ?? EVERY_MS, (performance.now() - from) / SHARE))
  }

  private async stand(): Promise<ReadonlyMap<string, string>> {
    const plugins = await this.inventory.plugins()
    return new Map(
      plugins.flatMap(({ files, records }) =>
        [...files, ...records].map(({ path, size, changed }) => [path, `${size} ${changed}`] as const),
      ),
    )
  }
}

/** Paths that are in one of two maps, or not the same in both. */
export function differing(before: ReadonlyMap<string, string>, now: ReadonlyMap<string, string>): string[] {
  return [...new Set([...before.keys(), ...now.keys()])].filter((path) => before.get(path) !== now.get(path)).sort()
}
