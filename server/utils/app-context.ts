import pino from 'pino'
import { openDatabase } from '../db/connection'
import { createContext, type Context } from '../services/context'
import { readEnvironment } from './environment'

let ready: Promise<Context> | null = null

/** The one context of this process, opened at first use. */
export function useContext(): Promise<Context> {
  ready ??= openContext()
  return ready
}

async function openContext(): Promise<Context> {
  const environment = readEnvironment()
  return createContext({
    db: await openDatabase(environment.PASTICCIO_DATA),
    log: pino({ level: environment.LOG_LEVEL }),
    now: () => new Date(),
    secret: environment.PASTICCIO_SECRET,
    sites: environment.PASTICCIO_SITES,
    linked: environment.PASTICCIO_ACCOUNTS.map(({ name }) => name),
  })
}
