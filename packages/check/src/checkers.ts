import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import { lookIntoAll, type CheckAnswer, type CheckRequest } from './looking'
import type { Knowledge, LookedFile, WorkspaceInput } from '@pasticcio/core'

const BATCH_FILES = 12
const BATCH_LETTERS = 200_000
/** What is checked in so many milliseconds keeps nobody waiting, and goes without a thread. */
const FEW_FILES = 4
const FEW_LETTERS = 60_000
const MOST_THREADS = 4
const IDLE_MS = 10_000

interface Waiting {
  resolve(looked: readonly LookedFile[]): void
  reject(error: Error): void
}

/** Who asked for a check no longer wants it. */
export class CheckEnded extends Error {}

/** Asked while it goes on: how far it is, and whether it shall go on. */
export interface CheckWatch {
  /** @param looked what came of some of the files @returns whether to go on */
  done(files: readonly WorkspaceInput[], looked: readonly LookedFile[]): boolean
  /** A file that costs a thread more than it may; the others lose nothing. */
  failed(file: WorkspaceInput, error: Error): void
}

/** Checks files in threads of their own, so that a server of many files keeps nobody else waiting. */
export class Checkers {
  private threads: Thread[] = []
  private idle: NodeJS.Timeout | null = null
  private asked = 0

  /** @param source the threads' program, which needs nothing beside it */
  constructor(private readonly source: () => Promise<string>) {}

  /** Looks into files. @throws CheckEnded where whoever watches ends it */
  async look(files: readonly WorkspaceInput[], knowledge: Knowledge, watch: CheckWatch): Promise<void> {
    if (files.length === 0) return
    const letters = files.reduce((sum, { text }) => sum + text.length, 0)
    if (files.length <= FEW_FILES && letters <= FEW_LETTERS) {
      watch.done(files, lookIntoAll(files, knowledge))
      return
    }
    if (this.idle) clearTimeout(this.idle)
    this.asked++
    try {
      await this.inThreads(batchesOf(files), knowledge, watch)
    } finally {
      if (--this.asked === 0) this.idle = setTimeout(() => void this.close(), IDLE_MS).unref()
    }
  }

  async close(): Promise<void> {
    if (this.idle) clearTimeout(this.idle)
    const { threads } = this
    this.threads = []
    await Promise.all(threads.map((thread) => thread.close()))
  }

  private async open(): Promise<Thread> {
    return new Thread(await this.source())
  }

  private async inThreads(batches: WorkspaceInput[][], knowledge: Knowledge, watch: CheckWatch): Promise<void> {
    const wanted = Math.min(MOST_THREADS, availableParallelism(), batches.length)
    while (this.threads.length < wanted) this.threads.push(await this.open())
    let goesOn = true
    const work = async (at: number): Promise<void> => {
      for (let batch = batches.shift(); batch && goesOn; batch = batches.shift()) {
        const thread = this.threads[at]!
        const looked = await thread.look(batch, knowledge).catch((error: Error) => error)
        if (!(looked instanceof Error)) {
          goesOn = watch.done(batch, looked) && goesOn
          continue
        }
        // another takes its place, and each of the files is looked at alone
        await thread.close()
        this.threads[at] = await this.open()
        if (batch.length === 1) watch.failed(batch[0]!, looked)
        else batches.push(...batch.map((file) => [file]))
      }
    }
    await Promise.all(Array.from({ length: wanted }, (_, at) => work(at)))
    if (!goesOn) throw new CheckEnded('the check was ended')
  }
}

function batchesOf(files: readonly WorkspaceInput[]): WorkspaceInput[][] {
  const batches: WorkspaceInput[][] = []
  let letters = Infinity
  for (const file of files) {
    letters += file.text.length
    if (letters > BATCH_LETTERS || batches.at(-1)!.length >= BATCH_FILES) {
      batches.push([])
      letters = file.text.length
    }
    batches.at(-1)!.push(file)
  }
  return batches
}

class Thread {
  private readonly waiting = new Map<number, Waiting>()
  private last = 0
  private told: Knowledge | null = null

  private readonly worker: Worker

  constructor(source: string) {
    const worker = new Worker(source, { eval: true, resourceLimits: { maxOldGenerationSizeMb: 512, stackSizeMb: 8 } })
    this.worker = worker
    worker.unref()
    worker.on('message', ({ id, looked, error }: CheckAnswer) => {
      const waiting = this.waiting.get(id)
      this.waiting.delete(id)
      if (looked) waiting?.resolve(looked)
      else waiting?.reject(new Error(`the thread that checks files failed: ${error}`))
    })
    worker.on('error', (error) => this.lost(error))
    worker.on('exit', () => this.lost(new Error('the thread that checks files ended')))
  }

  look(files: readonly WorkspaceInput[], knowledge: Knowledge): Promise<readonly LookedFile[]> {
    if (this.told !== knowledge) this.ask({ kind: 'knowledge', knowledge })
    this.told = knowledge
    const id = ++this.last
    this.worker.ref()
    return new Promise<readonly LookedFile[]>((resolve, reject) => {
      this.waiting.set(id, { resolve, reject })
      this.ask({ kind: 'files', id, files })
    }).finally(() => this.worker.unref())
  }

  async close(): Promise<void> {
    await this.worker.terminate()
  }

  private ask(request: CheckRequest): void {
    this.worker.postMessage(request)
  }

  private lost(error: Error): void {
    for (const { reject } of this.waiting.values()) reject(error)
    this.waiting.clear()
  }
}
