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

/** The engine was closed while it was asked, as when its file is read anew. */
export class EngineClosed extends Error {
  constructor() {
    super('The file is being read anew.')
    this.name = 'EngineClosed'
  }
}

/** A worker that ended never answers: whoever waits for it is told so. */
function untilClosed(engine: WorkerEngine['engine']): { readonly engine: WorkerEngine['engine']; readonly end: () => void } {
  let end = (): void => undefined
  const closed = new Promise<never>((_resolve, reject) => (end = () => reject(new EngineClosed())))
  closed.catch(() => undefined)
  const asked = new Proxy(engine, {
    get: (target, key) =>
      typeof key === 'string' && key !== 'then'
        ? (...args: unknown[]) =>
            Promise.race([(target as never as Record<string, (...given: unknown[]) => unknown>)[key]!(...args), closed])
        : undefined,
  })
  return { engine: asked, end }
}

/**
 * The worker of files that are worked on beside the one at hand: there may be many of them, and they share it. Its maker is
 * held as long: a worker stops to listen when nobody holds what was wrapped of it.
 */
let shared: { readonly worker: Worker; readonly Engine: Remote<EngineMaker>; users: number } | null = null

function startShared(): NonNullable<typeof shared> {
  const worker = startWorker()
  return { worker, Engine: wrap<EngineMaker>(worker), users: 0 }
}

/** An engine that shares its worker with others; the last one ends it. */
export async function openSharedEngine(input: EngineInput): Promise<WorkerEngine> {
  const at = (shared ??= startShared())
  const leave = (): void => {
    if (--at.users > 0) return
    at.worker.terminate()
    if (shared === at) shared = null
  }
  at.users++
  try {
    const own = await new at.Engine(input)
    const { engine, end } = untilClosed(own)
    return {
      engine,
      close() {
        end()
        own[releaseProxy]()
        leave()
      },
    }
  } catch (error) {
    leave()
    throw error
  }
}
