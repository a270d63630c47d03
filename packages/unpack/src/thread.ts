import { parentPort } from 'node:worker_threads'
import { answer, type Request } from './index'

/** The thread packages are opened in: one question after the other, each with its number. */
parentPort!.on('message', ({ id, request }: { id: number; request: Request }) => {
  answer(request).then(
    (result) => parentPort!.postMessage({ id, result }),
    (error: unknown) => parentPort!.postMessage({ id, error: String((error as Error).stack ?? error) }),
  )
})
