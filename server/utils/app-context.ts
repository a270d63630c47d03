import { mkdirSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import pino from 'pino'
import { databaseFile, openDatabase } from '../db/connection'
import { HeldElsewhere, Hold } from '../hold'
import { createContext, type Context } from '../services/context'
import { useEnvironment } from './environment'

let ready: Promise<Context> | null = null

/** The one context of this process, opened at first use. */
export function useContext(): Promise<Context> {
  ready ??= openContext()
  return ready
}

/** Held as long as this process lives: two that work on one data folder would settle each other's changes. */
let hold: Hold | null = null

async function openContext(): Promise<Context> {
  const environment = useEnvironment()
  const folder = environment.PASTICCIO_DATA
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  hold = holdData(folder)
  return createContext({
    db: await openDatabase(folder),
    log: pino({ level: environment.LOG_LEVEL, serializers: { error: pino.stdSerializers.err } }),
    now: () => new Date(),
    secret: environment.PASTICCIO_SECRET,
    sites: environment.PASTICCIO_SITES,
    linked: environment.PASTICCIO_ACCOUNTS.map(({ name }) => name),
    commands: environment.PASTICCIO_COMMANDS,
    keptChanges: environment.PASTICCIO_KEEP_CHANGES,
    sampleSeconds: environment.PASTICCIO_SAMPLE_SECONDS,
    scratch: emptyFolder(join(folder, 'incoming')),
    databaseFile: databaseFile(folder),
    unpackThread: () => asset('threads', 'thread.cjs'),
    checkThread: () => asset('checking', 'check-thread.cjs'),
  })
}

/** A program that is part of the app. */
const asset = async (folder: string, name: string): Promise<string> =>
  Buffer.from((await useStorage(`assets:${folder}`).getItemRaw<Uint8Array>(name))!).toString('utf8')

/** Lets the data folder go, as when Pasticcio stops. */
export function releaseData(): void {
  hold?.release()
  hold = null
}

function holdData(folder: string): Hold {
  try {
    return Hold.take(join(folder, 'lock'))
  } catch (error) {
    if (error instanceof HeldElsewhere)
      throw new Error(`another Pasticcio works on ${folder}. Stop that one first, or give this one a folder of its own (PASTICCIO_DATA)`, {
        cause: error,
      })
    throw error
  }
}

/** A folder for what is on its way in; what is left in it from before is of no use. */
function emptyFolder(folder: string): string {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  for (const name of readdirSync(folder)) rmSync(join(folder, name), { recursive: true, force: true })
  return folder
}
