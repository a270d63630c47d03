import {
  defineEventHandler,
  getCookie,
  getHeader,
  getQuery,
  getRouterParam,
  readBody,
  setResponseHeader,
  setResponseStatus,
  type EventHandler,
  type H3Event,
} from 'h3'
import { ValidationError, type InferType, type Schema } from 'yup'
import type { Account, Role } from '../db/repositories/accounts'
import { accountOf, requireRole } from '../services/accounts'
import { requireServer, type Context, type Server } from '../services/context'
import { ServiceError } from '../services/errors'
import { useContext } from './app-context'

export const SESSION_COOKIE = 'pasticcio_session'

export interface Call<B> {
  readonly event: H3Event
  readonly context: Context
  readonly account: Account
  readonly body: B
  param(name: string): string
  query(name: string): string
  number(name: string): number
  /** The server the address names. */
  server(): Promise<Server>
}

/** A route: the role it takes, the shape of its body, and the service it calls. Errors become problem details (RFC 9457). */
export function api<S extends Schema = Schema<undefined>>(
  options: { readonly role: Role; readonly body?: S },
  handle: (call: Call<InferType<S>>) => Promise<unknown>,
): EventHandler {
  return defineEventHandler(async (event) => {
    const context = await useContext()
    try {
      refuseStrangers(event)
      const account = requireRole(await accountOf(context, getCookie(event, SESSION_COOKIE)), options.role)
      const body = options.body ? await options.body.validate(await readBody(event), { strict: true, stripUnknown: false }) : undefined
      return await handle(makeCall(event, context, account, body as InferType<S>))
    } catch (error) {
      return problem(event, context, error)
    }
  })
}

function makeCall<B>(event: H3Event, context: Context, account: Account, body: B): Call<B> {
  const param = (name: string): string => decodeURIComponent(getRouterParam(event, name) ?? '')
  const query = (name: string): string => {
    const value = getQuery(event)[name]
    if (typeof value !== 'string' || value === '') throw new ServiceError('bad-input', 400, `The address lacks “${name}”.`)
    return value
  }
  const number = (name: string): number => {
    const value = Number(name in (event.context.params ?? {}) ? param(name) : query(name))
    if (!Number.isSafeInteger(value)) throw new ServiceError('bad-input', 400, `“${name}” must be a whole number.`)
    return value
  }
  return { event, context, account, body, param, query, number, server: () => requireServer(context, param('slug')) }
}

/** Requests that change something come from our own pages only. */
function refuseStrangers(event: H3Event): void {
  if (event.method === 'GET' || event.method === 'HEAD') return
  const origin = getHeader(event, 'origin')
  const host = getHeader(event, 'host')
  if (origin && (!URL.canParse(origin) || new URL(origin).host !== host))
    throw new ServiceError('not-allowed', 403, 'This request came from another site.')
}

/** The one place where errors become answers. What is not ours to tell is logged and masked. */
export function problem(event: H3Event, context: Context, error: unknown): unknown {
  const known =
    error instanceof ServiceError
      ? error
      : error instanceof ValidationError
        ? new ServiceError('bad-input', 400, `The request is not right: ${error.message}.`)
        : null
  if (!known) context.log.error({ error, path: event.path }, 'unexpected error')
  const status = known?.status ?? 500
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return {
    type: `about:blank#${known?.code ?? 'internal'}`,
    code: known?.code ?? 'internal',
    title: known?.message ?? 'Something went wrong inside Pasticcio. Nothing was lost; its log says more.',
    status,
  }
}
