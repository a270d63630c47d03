import { fillIn, wordsFor } from '@pasticcio/core'
import type { Server } from './context'
import type { Installed } from './inventory'

/** A server that says when it has written is waited for so long; of others it is hoped that this is enough. */
const SAYS_WITHIN_MS = 3_000
const WRITES_WITHIN_MS = 500
/** What was written so short a time ago is as it is now: many who look do not ask one after the other. */
const FRESH_MS = 2_000

const asked = new WeakMap<Server, Map<string, { readonly at: number; readonly done: Promise<void> }>>()

/** Has a running server write what it keeps in memory of a plugin, so that its records say how things are now. */
export function flushRecords(server: Server, plugin: Installed, mayBeOlder = true): Promise<void> {
  const { flush } = server.family.console
  if (flush === undefined || plugin.records.length === 0 || plugin.isOff || server.console.state.status !== 'running')
    return Promise.resolve()
  const ofServer = asked.get(server) ?? new Map<string, { at: number; done: Promise<void> }>()
  asked.set(server, ofServer)
  const last = ofServer.get(plugin.name)
  if (mayBeOlder && last && performance.now() - last.at < FRESH_MS) return last.done
  const done = askToWrite(server, plugin, flush)
  ofServer.set(plugin.name, { at: performance.now(), done })
  return done
}

async function askToWrite({ console, family, inventory }: Server, plugin: Installed, flush: string): Promise<void> {
  const from = console.lastSeq
  console.send(fillIn(flush, wordsFor(family, plugin)))
  const says = family.console.flushed !== undefined
  await console.waitFor(({ event }) => event?.type === 'flushed', from, says ? SAYS_WITHIN_MS : WRITES_WITHIN_MS)
  inventory.forget()
}
