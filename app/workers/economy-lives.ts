import { proxy, wrap } from 'comlink'
import type { Outlook, Plan } from '@pasticcio/core'

type LiveAll = (plans: readonly Plan[], runs: number, told: (done: number) => void) => Promise<Outlook[]>

/** Days that are being lived in a worker of their own. */
export interface Lives {
  /** What they come to; never, where they are ended before. */
  readonly outlooks: Promise<Outlook[]>
  end(): void
}

/** Begins to live the days of several plans. @param told after each run how many are done */
export function beginLives(plans: readonly Plan[], runs: number, told: (done: number) => void): Lives {
  const worker = new Worker(new URL('./economy.worker.ts', import.meta.url), { type: 'module' })
  const outlooks = new Promise<Outlook[]>((resolve, reject) => {
    worker.addEventListener('error', () => reject(new Error('The days could not be lived: the worker ended. Try once more.')))
    ;(wrap(worker) as unknown as LiveAll)(plans, runs, proxy(told)).then(resolve, reject)
  })
  return { outlooks, end: () => worker.terminate() }
}
