import { parentPort } from 'node:worker_threads'
import type { Family } from '@pasticcio/core'
import { answer, type Request } from './index'

const MOST_FAMILIES = 50
/** Descriptions by what they say: each question brings a copy, and the patterns of one are made once and not for each copy. */
const families = new Map<string, Family>()

function known(family: Family): Family {
  const key = JSON.stringify(family)
  const there = families.get(key)
  if (there) return there
  if (families.size >= MOST_FAMILIES) families.clear()
  families.set(key, family)
  return family
}

const withKnown = (request: Request): Request =>
  request.kind === 'packages' ? { ...request, family: known(request.family), others: request.others.map(known) } : request

/** The thread packages are opened in: one question after the other, each with its number. */
parentPort!.on('message', ({ id, request }: { id: number; request: Request }) => {
  answer(withKnown(request)).then(
    (result) => parentPort!.postMessage({ id, result }),
    (error: unknown) => parentPort!.postMessage({ id, error: String((error as Error).stack ?? error) }),
  )
})
