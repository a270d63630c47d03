import { releaseProxy, wrap, type Remote } from 'comlink'
import type { EngineInput, SheetEngine } from './engine'

/** An engine in a worker of its own, which ends with it. */
export interface WorkerEngine {
  readonly engine: Remote<SheetEngine>
  close(): void
}

type EngineMaker = new (input: EngineInput) => SheetEngine
const startWorker = (): Worker => new Worker(new URL('../workers/sheet.worker.ts', import.meta.url), { type: 'module' })

export async function openWorkerEngine(input: EngineInput): Promise<WorkerEngine> {
  const worker = startWorker()
  return { engine: await new (wrap<EngineMaker>(worker))(input), close: () => worker.terminate() }
}

/** The worker of files that are worked on beside the one at hand: there may be many of them, and they share it. */
let shared: { readonly worker: Worker; users: number } | null = null

/** An engine that shares its worker with others; the last one ends it. */
export async function openSharedEngine(input: EngineInput): Promise<WorkerEngine> {
  const at = (shared ??= { worker: startWorker(), users: 0 })
  at.users++
  const engine = await new (wrap<EngineMaker>(at.worker))(input)
  return {
    engine,
    close() {
      engine[releaseProxy]()
      if (--at.users > 0) return
      at.worker.terminate()
      if (shared === at) shared = null
    },
  }
}
