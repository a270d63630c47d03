/** An answer that says why something cannot be done, in words for the user. */
export class ApiProblem extends Error {
  constructor(
    readonly code: string,
    readonly status: number,
    message: string,
    /** What else the answer tells. */
    readonly data: Readonly<Record<string, unknown>> = {},
  ) {
    super(message)
    this.name = 'ApiProblem'
  }
}

interface Request {
  readonly method?: 'GET' | 'POST' | 'PUT' | 'DELETE'
  readonly body?: unknown
  readonly bytes?: Blob
}

let whenSignedOut: () => void = () => undefined

/** Says what happens when an answer tells that nobody is signed in any more. */
export function onSignedOut(handler: () => void): void {
  whenSignedOut = handler
}

/** Asks our own server. @throws ApiProblem with the server's words, or a plain one when it cannot be reached */
export async function callApi<T>(path: string, request: Request = {}): Promise<T> {
  let response: Response
  try {
    response = await fetch(path, {
      method: request.method ?? (request.body === undefined && !request.bytes ? 'GET' : 'POST'),
      ...(request.bytes
        ? { body: request.bytes, headers: { 'content-type': 'application/octet-stream' } }
        : request.body !== undefined
          ? { body: JSON.stringify(request.body), headers: { 'content-type': 'application/json' } }
          : {}),
    })
  } catch {
    throw new ApiProblem(
      'unreachable',
      0,
      'Pasticcio does not answer. Check that it is still running where you started it; what you typed is kept here.',
    )
  }
  const data: unknown = await response.json().catch(() => null)
  if (response.ok) return data as T
  const { code, title, ...rest } = (data ?? {}) as { code?: string; title?: string }
  if (response.status === 401 && path !== '/api/sign-in') whenSignedOut()
  throw new ApiProblem(code ?? 'internal', response.status, title ?? `The server answered ${response.status}.`, rest)
}

/** The words of any error, for showing. */
export function wordsOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error)
}
