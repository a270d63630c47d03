import { wrap, type Remote } from 'comlink'
import type { EngineInput, SheetEngine } from './engine'

/** An engine in a worker of its own, which ends with it. */
export interface WorkerEngine {
  readonly engine: Remote<SheetEngine>
  close(): void
}

export async function openWorkerEngine(input: EngineInput): Promise<WorkerEngine> {
  const worker = new Worker(new URL('../workers/sheet.worker.ts', import.meta.url), { type: 'module' })
  const Engine = wrap<new (input: EngineInput) => SheetEngine>(worker)
  return { engine: await new Engine(input), close: () => worker.terminate() }
}
