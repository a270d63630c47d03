import { parentPort } from 'node:worker_threads'
import { NO_KNOWLEDGE, type Knowledge } from '@pasticcio/core'
import { lookIntoAll, type CheckAnswer, type CheckRequest } from './looking'

let known: Knowledge = NO_KNOWLEDGE

/** A thread that checks files: one request after the other. */
parentPort!.on('message', (request: CheckRequest) => {
  if (request.kind === 'knowledge') {
    known = request.knowledge
    return
  }
  const { id, files } = request
  const answer = (said: Omit<CheckAnswer, 'id'>): void => parentPort!.postMessage({ id, ...said } satisfies CheckAnswer)
  try {
    answer({ looked: lookIntoAll(files, known) })
  } catch (error) {
    answer({ error: String((error as Error).stack ?? error) })
  }
})
