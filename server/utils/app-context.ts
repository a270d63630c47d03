import { createContext, type Context } from '../services/context'
import { openDatabase } from '../db/connection'
import pino from 'pino'

let ready: Promise<Context> | null = null

/** Where Pasticcio keeps its own data: `PASTICCIO_DATA`, else `.data` in the working folder. */
export function dataFolder(): string {
  return process.env['PASTICCIO_DATA'] || '.data'
}

/** The secret sign-in links are made from. Start-up stops without it. */
export function requireSecret(): string {
  const secret = process.env['PASTICCIO_SECRET']
  if (!secret || secret.length < 16)
    throw new Error('PASTICCIO_SECRET is not set (16 characters or more). Start Pasticcio with "npm start", which makes one.')
  return secret
}

/** The one context of this process, opened at first use. */
export function useContext(): Promise<Context> {
  ready ??= openDatabase(dataFolder()).then((db) =>
    createContext(
      db,
      pino({ level: process.env['LOG_LEVEL'] ?? 'warn' }),
      () => new Date(),
      (process.env['PASTICCIO_SITES'] ?? '').split(',').filter((site) => site !== ''),
    ),
  )
  return ready
}
