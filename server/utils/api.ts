import {
  defineEventHandler,
  getHeader,
  getQuery,
  getRouterParams,
  isError,
  setResponseHeader,
  setResponseStatus,
  type EventHandler,
  type EventHandlerRequest,
  type H3Event,
} from 'h3'
import { ValidationError, object, string, type InferType, type Schema } from 'yup'
import type { Account, Role } from '../db/repositories/accounts'
import { accountOf, requireRole } from '../services/accounts'
import { requireServer, type Context, type Server } from '../services/context'
import { ServiceError, asServiceError } from '../services/errors'
import { SIZES } from '../services/sizes'
import { useContext } from './app-context'
import { readJson } from './bodies'
import { useEnvironment } from './environment'
import { sessionOf } from './sessions'

/** What a route works with, checked. */
export interface Call<Body, Query, Params> {
  readonly event: H3Event
  readonly context: Context
  readonly account: Account
  readonly body: Body
  readonly query: Query
  readonly params: Params
  /** The server the address names. */
  server(): Promise<Server>
}

/** What a route takes: the least role, and the shapes of body, query and the variable parts of its address. */
export interface RouteOptions<Body extends Schema, Query extends Schema, Params extends Schema> {
  readonly role: Role
  readonly body?: Body
  readonly query?: Query
  readonly params?: Params
  /** How large the body may be, in bytes. */
  readonly most?: number
}

type None = Schema<undefined>

/** A route that anybody may call: signing in, and what leads there. */
export function openApi<Body extends Schema = None, Result = unknown>(
  options: { readonly body?: Body },
  handle: (call: { readonly event: H3Event; readonly context: Context; readonly body: InferType<Body> }) => Promise<Result>,
): EventHandler<EventHandlerRequest, Promise<Result>> {
  return defineEventHandler(async (event) => {
    const context = await useContext()
    try {
      refuseStrangers(event)
      return await handle({ event, context, body: await bodyOf(event, options.body, SIZES.openBody) })
    } catch (error) {
      return problem(event, context, error) as Result
    }
  })
}

async function bodyOf<Body extends Schema>(event: H3Event, shape: Body | undefined, most: number): Promise<InferType<Body>> {
  if (!shape) return undefined
  const body = await readJson(event, most)
  // checking strictly fills nothing in
  return shape.cast(await shape.validate(body, { strict: true, stripUnknown: false })) as InferType<Body>
}

/** A route: what it takes, and the service it calls. Errors become problem details (RFC 9457). */
export function api<Body extends Schema = None, Query extends Schema = None, Params extends Schema = None, Result = unknown>(
  options: RouteOptions<Body, Query, Params>,
  handle: (call: Call<InferType<Body>, InferType<Query>, InferType<Params>>) => Promise<Result>,
): EventHandler<EventHandlerRequest, Promise<Result>> {
  return defineEventHandler(async (event) => {
    const context = await useContext()
    try {
      refuseStrangers(event)
      const account = requireRole(await accountOf(context, sessionOf(event)), options.role)
      const params = await options.params?.validate(getRouterParams(event, { decode: true }))
      const query = await options.query?.validate(getQuery(event))
      const body = await bodyOf(event, options.body, options.most ?? SIZES.body)
      return await handle({ event, context, account, body, query, params, server: () => serverOf(event, context) })
    } catch (error) {
      return problem(event, context, error) as Result
    }
  })
}

const slugParams = object({ slug: string().required() })

async function serverOf(event: H3Event, context: Context): Promise<Server> {
  return requireServer(context, (await slugParams.validate(getRouterParams(event, { decode: true }))).slug)
}

/**
 * Requests that change something come from our own pages only, which browsers tell (RFC 6454, section 7). Where the
 * names Pasticcio answers to are set, the API answers to no other: a page elsewhere could make its own name mean this
 * machine.
 */
export function refuseStrangers(event: H3Event): void {
  const { PASTICCIO_HOSTS: hosts, PASTICCIO_BEHIND_PROXY: behindProxy } = useEnvironment()
  const host = (behindProxy && getHeader(event, 'x-forwarded-host')?.split(',')[0]?.trim()) || getHeader(event, 'host')
  if (hosts.length > 0 && !hosts.includes(host ?? ''))
    throw new ServiceError('not-allowed', 403, 'Pasticcio does not answer to this name. PASTICCIO_HOSTS says to which it does.')
  if (event.method === 'GET' || event.method === 'HEAD') return
  const origin = getHeader(event, 'origin')
  if (origin && (!URL.canParse(origin) || new URL(origin).host !== host))
    throw new ServiceError('not-allowed', 403, 'This request came from another site.')
}

/** What is wrong with a request; that it is no object at all is said in plain words. */
function wordsOfValidation({ path, type, message }: ValidationError): string {
  return path || type === 'either'
    ? message.replace(/\.$/, '')
    : /unspecified|unknown/.test(message)
      ? message
      : 'its body must be a JSON object'
}

/** The one place where errors become answers. What is not ours to tell is logged and masked. */
export function problem(event: H3Event, context: Context, thrown: unknown): unknown {
  const error = asServiceError(thrown)
  const known =
    error instanceof ServiceError
      ? error
      : error instanceof ValidationError
        ? new ServiceError('bad-input', 400, `The request is not right: ${wordsOfValidation(error)}.`)
        : isError(error) && error.statusCode < 500
          ? new ServiceError('bad-input', error.statusCode, 'The request cannot be read.')
          : null
  const status = known?.status ?? 500
  const requestId = String(event.context['requestId'] ?? '')
  if (status >= 500)
    context.log.error({ error: known?.cause ?? error, requestId, method: event.method, path: event.path.split('?')[0] }, 'a request failed')
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  if (known?.data['retryAfter']) setResponseHeader(event, 'retry-after', Number(known.data['retryAfter']))
  return {
    type: `about:blank#${known?.code ?? 'internal'}`,
    code: known?.code ?? 'internal',
    title:
      known?.message ??
      `Something went wrong inside Pasticcio, and what you asked for was not done. What was kept before is safe. Its log says more at “${requestId}”.`,
    status,
    ...(status >= 500 ? { requestId } : {}),
    ...known?.data,
  }
}
