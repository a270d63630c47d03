import { randomUUID } from 'node:crypto'
import { openConsole, type Console, type NumberedLine } from '../consoles'
import { openPlace } from '../places'
import { requireAllowed } from './commands'
import type { Context } from './context'
import { ServiceError, asServiceError, notFound } from './errors'
import { familyIn } from './profiles'
import { refuseTaken } from './survey'

/** What a server needs to be tried and added. */
export interface ServerSetup {
  readonly folder: string
  readonly familyId: string
  /** The program that starts it, and its arguments. */
  readonly command: readonly string[]
}

export type StepName = 'folder' | 'start' | 'stop'

export interface TryStep {
  readonly step: StepName
  /** Null while it is under way. */
  readonly ok: boolean | null
  readonly detail: string
}

/** A server that was started once to see whether that works, and stopped again. */
export interface Try {
  readonly id: string
  readonly status: 'running' | 'passed' | 'failed'
  readonly steps: readonly TryStep[]
  readonly lines: readonly NumberedLine[]
}

interface RunningTry {
  readonly id: string
  readonly setup: ServerSetup
  status: Try['status']
  steps: TryStep[]
  console: Console | null
}

/** So many tries are kept to be looked at after they ended. */
const KEPT = 20

/** The tries of this process: one at a time, since a server that starts takes ports and files for itself. */
export class Tries {
  private readonly all = new Map<string, RunningTry>()

  /** Starts trying, and does not wait. @throws ServiceError where another try is under way, or the folder is taken */
  async begin(context: Context, setup: ServerSetup): Promise<string> {
    requireAllowed(context, setup.command)
    await refuseTaken(context, setup.folder)
    if ([...this.all.values()].some(({ status }) => status === 'running'))
      throw new ServiceError('busy', 409, 'Another server is being tried. Wait until that is done.')
    const current: RunningTry = { id: randomUUID(), setup, status: 'running', steps: [], console: null }
    this.all.set(current.id, current)
    for (const id of [...this.all.keys()].slice(0, -KEPT)) this.all.delete(id)
    void this.run(context, current).catch((error: unknown) => {
      context.log.error({ error }, 'a try ended unexpectedly')
      current.status = 'failed'
    })
    return current.id
  }

  get(id: string): Try {
    const { status, steps, console } = this.require(id)
    return { id, status, steps, lines: console?.since(0).slice(-400) ?? [] }
  }

  /** Ends a try that takes too long. */
  async cancel(id: string): Promise<void> {
    const lifecycle = this.require(id).console?.lifecycle
    if (lifecycle && !(await lifecycle.stop())) await lifecycle.kill()
  }

  /** Ends what runs, as when Pasticcio stops. */
  async close(): Promise<void> {
    for (const { console } of this.all.values()) await console?.close().catch(() => undefined)
  }

  /** Whether exactly this was tried, and worked. */
  passed(id: string, setup: ServerSetup): boolean {
    const done = this.all.get(id)
    return done?.status === 'passed' && JSON.stringify(pick(done.setup)) === JSON.stringify(pick(setup))
  }

  /** Files that plugins wrote for the first time while it was tried. */
  generated(id: string): { plugin: string; file: string }[] {
    const lines = this.all.get(id)?.console?.since(0) ?? []
    return lines.flatMap(({ event }) => (event?.type === 'generated' ? [{ plugin: event.plugin, file: event.file }] : []))
  }

  private require(id: string): RunningTry {
    const found = this.all.get(id)
    if (!found) throw notFound('such try; Pasticcio was started again since. Try it once more')
    return found
  }

  private async run(context: Context, current: RunningTry): Promise<void> {
    const { folder, familyId, command } = current.setup
    await step(current, 'folder', async () => {
      await openPlace({ type: 'local', folder } as { type: string }).probe()
      return 'It may be read and written.'
    })
    await step(current, 'start', async () => {
      const place = openPlace({ type: 'local', folder } as { type: string })
      const family = await familyIn(await context.families.require(familyId), place, command)
      current.console = openConsole({ type: 'process', folder, command } as { type: string }, family)
      const from = performance.now()
      await current.console.lifecycle!.start()
      const loaded = current.console.since(0).filter(({ event }) => event?.type === 'loaded').length
      return `Ready after ${((performance.now() - from) / 1000).toFixed(1)} s, with ${loaded} plugin${loaded === 1 ? '' : 's'} loaded.`
    })
    await step(current, 'stop', async () => {
      if (await current.console!.lifecycle!.stop()) return 'It stopped when it was asked to.'
      await current.console!.lifecycle!.kill()
      throw new Error('It did not stop when it was asked to, and was ended. Check that the command starts the server itself.')
    })
    // one that is not ready in time still runs
    await current.console?.close()
    current.status = current.steps.every(({ ok }) => ok) ? 'passed' : 'failed'
  }
}

async function step(current: RunningTry, name: StepName, work: () => Promise<string>): Promise<void> {
  if (current.steps.some(({ ok }) => ok === false)) return
  const at = current.steps.length
  current.steps = [...current.steps, { step: name, ok: null, detail: '' }]
  const end = (ok: boolean, detail: string): void => {
    current.steps = current.steps.map((item, i) => (i === at ? { step: name, ok, detail } : item))
  }
  try {
    end(true, await work())
  } catch (error) {
    end(false, (asServiceError(error) as Error).message)
  }
}

const pick = ({ folder, familyId, command }: ServerSetup): ServerSetup => ({ folder, familyId, command })
