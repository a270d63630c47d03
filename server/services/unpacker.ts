import { Worker } from 'node:worker_threads'
import type { Answer, Described, Download, Member, Opened, Request } from '@pasticcio/unpack'
import type { Family } from '@pasticcio/core'
import { ServiceError } from './errors'
import { SIZES } from './sizes'
import { Turns } from './turns'

const WITHIN_MS = 30_000
const IDLE_MS = 10_000

interface Waiting {
  resolve(answer: Answer): void
  reject(error: Error): void
}

/**
 * Opens packages in a thread of its own, one after the other, so that an archive made to cost more than it should costs
 * only that thread: it has so much memory and so much time, and a new one takes its place.
 */
export class Unpacker {
  private worker: Worker | null = null
  private idle: NodeJS.Timeout | null = null
  private readonly turns = new Turns()
  private waiting: Waiting | null = null
  private id = 0

  /** @param source the thread's program, which needs nothing beside it */
  constructor(private readonly source: () => Promise<string>) {}

  /** The packages a download holds. `others` are families it may be meant for instead. @throws ServiceError `bad-package` */
  async packages(bytes: Uint8Array, family: Family, fileName: string, others: readonly Family[] = []): Promise<readonly Described[]> {
    const answer = await this.ask({ kind: 'packages', downloads: [{ bytes, fileName }], family, others, limits: SIZES.archive })
    const found = packagesOr(fileName, answer.kind === 'packages' ? answer.downloads[0]! : answer)
    if (found instanceof ServiceError) throw found
    return found
  }

  /**
   * The packages of several downloads, in one go: each question costs a way to the thread and back. Where one of them costs
   * the thread too much, each is opened alone, so that the others lose nothing.
   * @returns in their order, what each holds, or why it is none
   */
  async several(downloads: readonly Download[], family: Family): Promise<readonly (readonly Described[] | ServiceError)[]> {
    if (downloads.length === 0) return []
    const answer = await this.ask({ kind: 'packages', downloads, family, others: [], limits: SIZES.archive }).catch(() => null)
    if (answer?.kind === 'packages') return downloads.map(({ fileName }, index) => packagesOr(fileName, answer.downloads[index]!))
    const found: (readonly Described[] | ServiceError)[] = []
    for (const { bytes, fileName } of downloads) found.push(await this.packages(bytes, family, fileName).catch(serviceErrorOnly))
    return found
  }

  /** The files of an archive. @throws ServiceError `bad-package` */
  async listing(bytes: Uint8Array, fileName: string): Promise<readonly Member[]> {
    const answer = await this.ask({ kind: 'listing', bytes, limits: SIZES.archive })
    if (answer.kind === 'listing') return answer.members
    throw cannotUnpack(fileName, answer)
  }

  /** Some files of an archive. @throws ServiceError `bad-package`, also where one of them is not in it */
  async members(bytes: Uint8Array, names: readonly string[], fileName: string): Promise<ReadonlyMap<string, Uint8Array>> {
    const answer = await this.ask({ kind: 'members', bytes, names, limits: SIZES.archive })
    if (answer.kind === 'members') return answer.bytes
    throw cannotUnpack(fileName, answer)
  }

  async close(): Promise<void> {
    if (this.idle) clearTimeout(this.idle)
    const { worker } = this
    this.worker = null
    await worker?.terminate()
  }

  private ask(request: Request): Promise<Answer> {
    return this.turns.run(() => this.run(request))
  }

  private async run(request: Request): Promise<Answer> {
    if (this.idle) clearTimeout(this.idle)
    const worker = (this.worker ??= await this.open())
    const id = ++this.id
    let timer: NodeJS.Timeout | undefined
    try {
      return await new Promise<Answer>((resolve, reject) => {
        this.waiting = { resolve, reject }
        timer = setTimeout(() => {
          void this.close()
          resolve({ kind: 'refused', reason: 'opening it takes too long' })
        }, WITHIN_MS)
        worker.ref()
        worker.postMessage({ id, request })
      })
    } finally {
      clearTimeout(timer)
      this.waiting = null
      this.worker?.unref()
      this.idle = setTimeout(() => void this.close(), IDLE_MS).unref()
    }
  }

  private async open(): Promise<Worker> {
    const worker = new Worker(await this.source(), {
      eval: true,
      resourceLimits: { maxOldGenerationSizeMb: 256, maxYoungGenerationSizeMb: 32, stackSizeMb: 4 },
    })
    worker.on('message', ({ result, error }: { result?: Answer; error?: string }) => {
      const { waiting } = this
      this.waiting = null
      if (result) waiting?.resolve(result)
      else waiting?.reject(new Error(`the thread that opens archives failed: ${error}`))
    })
    worker.on('error', (error) => this.lost(worker, error))
    worker.on('exit', () => this.lost(worker, new Error('the thread that opens archives ended')))
    return worker
  }

  /** The thread is gone, as when an archive took more memory than it may. */
  private lost(worker: Worker, error: Error & { code?: string }): void {
    if (this.worker !== worker) return
    this.worker = null
    const { waiting } = this
    this.waiting = null
    if (error.code === 'ERR_WORKER_OUT_OF_MEMORY') waiting?.resolve({ kind: 'refused', reason: 'opening it takes too much memory' })
    else waiting?.reject(error)
  }
}

const packagesOr = (fileName: string, opened: Opened | Answer): readonly Described[] | ServiceError =>
  opened.kind === 'opened'
    ? opened.packages
    : new ServiceError(
        'bad-package',
        422,
        `${fileName} is no package for this server: ${reasonOf(opened)}. Download it again, or check that it is meant for this game.`,
      )

/** @throws whatever is no ServiceError */
function serviceErrorOnly(error: unknown): ServiceError {
  if (error instanceof ServiceError) return error
  throw error
}

const reasonOf = (answer: Opened | Answer): string => (answer.kind === 'refused' ? answer.reason : 'it was read as something else')

const cannotUnpack = (fileName: string, answer: Answer): ServiceError =>
  new ServiceError('bad-package', 422, `${fileName} cannot be unpacked: ${reasonOf(answer)}. Download it again.`)
