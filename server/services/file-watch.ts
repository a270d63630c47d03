import type { Inventory } from './inventory'

const EVERY_MS = 2_000
/** Looking takes at most such a share of the time, however many files there are. */
const SHARE = 1 / 20

export interface Watcher {
  /** Hears of files that are other than they were, that came, or that went. */
  changed(paths: readonly string[]): Promise<void>
  /** Hears of what could not be looked at. */
  failed(error: unknown): void
}

/**
 * Looks at a server's settings and records again and again, until nobody wants to know any more. Asking the place each time
 * works for all kinds of places, and misses nothing that is there for longer than a moment. @returns ends it
 */
export function watchFiles(inventory: Inventory, watcher: Watcher): () => void {
  let known: ReadonlyMap<string, string> | null = null
  let isOn = true
  let timer = again(0)

  function again(afterMs: number): NodeJS.Timeout {
    return setTimeout(() => void look(), afterMs).unref()
  }

  async function look(): Promise<void> {
    const from = performance.now()
    let tookMs = 0
    try {
      const now = await standOf(inventory)
      // what whoever hears of it waits for is no looking
      tookMs = performance.now() - from
      const paths = known ? differing(known, now) : []
      known = now
      if (paths.length > 0 && isOn) await watcher.changed(paths)
    } catch (error) {
      watcher.failed(error)
    }
    if (isOn) timer = again(Math.max(EVERY_MS, tookMs / SHARE))
  }

  return () => {
    isOn = false
    clearTimeout(timer)
  }
}

async function standOf(inventory: Inventory): Promise<ReadonlyMap<string, string>> {
  const plugins = await inventory.plugins()
  return new Map(
    plugins.flatMap(({ files, records }) => [...files, ...records].map(({ path, size, changed }) => [path, `${size} ${changed}`] as const)),
  )
}

/** Paths that are in one of two maps, or not the same in both. */
export function differing(before: ReadonlyMap<string, string>, now: ReadonlyMap<string, string>): string[] {
  return [...new Set([...before.keys(), ...now.keys()])].filter((path) => before.get(path) !== now.get(path)).sort()
}
