/*
 * Fetching from elsewhere: links come from people and from lists of others, so that what they lead to is bounded in size
 * and time, and in where it may be. A name is looked up once, and the connection made to what was found and allowed:
 * one that means another machine a moment later gains nothing.
 */
import { lookup } from 'node:dns'
import type { LookupFunction } from 'node:net'
import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import addresses from 'ipaddr.js'
import { Agent, fetch, type Response } from 'undici'
import { ServiceError } from './errors'
import { upTo } from './parts'

const HEADERS_WITHIN_MS = 10_000
const SILENCE_MS = 15_000
const MOST_REDIRECTS = 3

export interface Bounds {
  /** Bytes, unpacked where the other side packs its answers. */
  readonly most: number
  readonly withinMs: number
  /** Whether a host (with its port where that is not the usual one) may be at an address of one's own network. */
  mayBePrivate(host: string): boolean
  /** Gives up when it is told to. */
  readonly signal?: AbortSignal
  /** Hears how many bytes came, of how many; null where nobody says. */
  readonly progress?: (bytes: number, size: number | null) => void
}

/** An address that is not to be reached from here. */
class PrivateAddress extends Error {
  constructor(readonly host: string) {
    super(`${host} is at an address of one's own network`)
  }
}

/** The parts of an answer. @throws ServiceError `bad-link`, `private-address`, `too-large`, `cancelled` */
export async function* fetchParts(url: URL, bounds: Bounds): AsyncGenerator<Uint8Array> {
  const stop = new AbortController()
  const whole = setTimeout(() => stop.abort(), bounds.withinMs)
  let silence = setTimeout(() => stop.abort(), HEADERS_WITHIN_MS)
  const cancel = (): void => stop.abort()
  bounds.signal?.addEventListener('abort', cancel, { once: true })
  try {
    bounds.signal?.throwIfAborted()
    const response = await follow(url, bounds, stop.signal)
    if (!response.ok || !response.body)
      throw new ServiceError('bad-link', 502, `${url.host} answered ${response.status} for ${url.pathname}. Check the link.`)
    const size = sizeOf(response)
    if ((size ?? 0) > bounds.most) throw tooLarge(url, bounds.most)
    const source = Readable.fromWeb(response.body as WebStream, { signal: stop.signal })
    let bytes = 0
    bounds.progress?.(bytes, size)
    for await (const part of upTo(source, bounds.most, () => tooLarge(url, bounds.most))) {
      clearTimeout(silence)
      silence = setTimeout(() => stop.abort(), SILENCE_MS)
      bytes += part.length
      bounds.progress?.(bytes, size)
      yield part
    }
  } catch (error) {
    throw told(error, url, bounds.signal?.aborted ?? false)
  } finally {
    clearTimeout(silence)
    clearTimeout(whole)
    bounds.signal?.removeEventListener('abort', cancel)
    // one that was given up on is not read on
    stop.abort()
  }
}

/** How large the answer is, where it is sent as it is. */
function sizeOf({ headers }: Response): number | null {
  const length = headers.get('content-length')
  return length === null || headers.has('content-encoding') ? null : Number(length)
}

/** Asks, and asks again where an answer leads; each of the places must be allowed. */
async function follow(url: URL, bounds: Bounds, signal: AbortSignal): Promise<Response> {
  let at = url
  for (let redirects = 0; ; redirects++) {
    requireHttp(at)
    const response = await fetch(at, { redirect: 'manual', signal, dispatcher: agentFor(at.host, bounds) })
    const location = response.headers.get('location')
    if (![301, 302, 303, 307, 308].includes(response.status) || location === null) return response
    await response.body?.cancel()
    if (redirects === MOST_REDIRECTS)
      throw new ServiceError('bad-link', 502, `${url.host} leads on and on from ${url.pathname}. Check the link.`)
    const next = URL.canParse(location, at) ? new URL(location, at) : null
    if (!next || (at.protocol === 'https:' && next.protocol !== 'https:'))
      throw new ServiceError('bad-link', 502, `${at.host} leads to ${location.slice(0, 200)}, which is not followed.`)
    at = next
  }
}

function requireHttp({ protocol, username, href }: URL): void {
  if (!['http:', 'https:'].includes(protocol) || username !== '')
    throw new ServiceError('bad-link', 400, `${href.slice(0, 200)} is no link that begins with https:// or http://.`)
}

const agents = {
  open: new Agent({ keepAliveTimeout: 1 }),
  guarded: new Agent({ keepAliveTimeout: 1, connect: { lookup: guardedLookup() } }),
}

function agentFor(host: string, bounds: Bounds): Agent {
  if (bounds.mayBePrivate(host)) return agents.open
  const bare = host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '')
  // an address is not looked up
  if (addresses.isValid(bare) && isPrivate(bare)) throw new PrivateAddress(host)
  return agents.guarded
}

function guardedLookup(): LookupFunction {
  return (host, options, done) =>
    lookup(host, { ...options, all: true }, (error, found) => {
      if (error) return done(error, '')
      if (found.some(({ address }) => isPrivate(address))) return done(new PrivateAddress(host), '')
      if (options.all) return done(null, found)
      done(null, found[0]!.address, found[0]!.family)
    })
}

/** Whether an address is anything but one of the open network: of this machine, of a local one, or reserved (RFC 6890). */
export function isPrivate(address: string): boolean {
  const parsed = addresses.parse(address)
  const plain =
    parsed.kind() === 'ipv6' && 'isIPv4MappedAddress' in parsed && parsed.isIPv4MappedAddress() ? parsed.toIPv4Address() : parsed
  return plain.range() !== 'unicast'
}

function told(error: unknown, url: URL, isCancelled: boolean): unknown {
  if (error instanceof ServiceError) return error
  if (isCancelled) return new ServiceError('cancelled', 409, 'It was cancelled, and nothing was kept.', { cause: error })
  const cause = (error as { cause?: unknown }).cause ?? error
  if (cause instanceof PrivateAddress)
    return new ServiceError(
      'private-address',
      403,
      `${cause.host} is at an address of one's own network, which is not asked unless an owner allows it: add it as a plugin site that may be private.`,
      { cause: error },
    )
  return new ServiceError('bad-link', 502, `${url.origin} did not answer, or not to the end. Check that it is up, and try again.`, {
    cause: error,
  })
}

const tooLarge = (url: URL, most: number): ServiceError =>
  new ServiceError('too-large', 413, `${url.pathname} is over ${most / 1024 / 1024} MB, and that much is not taken.`)
