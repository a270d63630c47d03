import type { Family } from '@pasticcio/core'
import { Drivers } from '../drivers'
import type { Console, ConsoleDriver } from './console'
import { processDriver } from './process'

export * from './console'

/** Every kind of console; a new one is a file and an entry here. */
export const consoles = new Drivers<ConsoleDriver>('console', [processDriver as unknown as ConsoleDriver])

/** Opens the console that a server's connection names. @throws ValidationError for settings that are not right */
export function openConsole({ type, ...settings }: { readonly type: string }, family: Family): Console {
  const driver = consoles.get(type)
  return driver.open(driver.schema.validateSync(settings), family)
}
