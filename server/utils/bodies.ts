/*
 * Reading the bodies of requests. How much may come is looked at while it comes, so that nothing larger is ever held;
 * what comes after that is thrown away unread, for as long as it takes the other side to see the answer.
 */
import { buffer } from 'node:stream/consumers'
import { getHeader, type H3Event } from 'h3'
import { ServiceError } from '../services/errors'
import { upTo, writeParts } from '../services/parts'

/** How long somebody may go on sending what is thrown away, in milliseconds. */
const LINGER_MS = 10_000

/** The JSON of a body; an object without anything in it where there is no body. @throws ServiceError `too-large`, `bad-input` */
export async function readJson(event: H3Event, most: number): Promise<unknown> {
  const text = (await buffer(bodyOf(event, most, 'This request'))).toString('utf8')
  if (text.trim() === '') return {}
  try {
    return JSON.parse(text, refuseKeys) as unknown
  } catch (error) {
    if (error instanceof ServiceError) throw error
    // what the parser says quotes the body, which may hold what nobody else should read
    throw new ServiceError('bad-input', 400, 'The request cannot be read: its body is not JSON.', { cause: error })
  }
}

/** Keys that mean something to every object of JavaScript. */
const MEANT_OTHERWISE = ['__proto__', 'constructor', 'prototype']

function refuseKeys(key: string, value: unknown): unknown {
  if (MEANT_OTHERWISE.includes(key))
    throw new ServiceError('bad-input', 400, `The request is not right: it has a key ${key}, which is not taken.`)
  return value
}

/** A body as it came, in memory: for what is small. @throws ServiceError `too-large`, `bad-input` for an empty one */
export async function receiveBytes(event: H3Event, most: number, name: string): Promise<Buffer> {
  const bytes = await buffer(bodyOf(event, most, name))
  if (bytes.length === 0) throw new ServiceError('bad-input', 400, 'The file is empty.')
  return bytes
}

/** Writes a body to a file that is not there yet. @returns its size in bytes @throws ServiceError `too-large` */
export function receiveFile(event: H3Event, most: number, name: string, file: string): Promise<number> {
  return writeParts(bodyOf(event, most, name), file)
}

/** The parts of a body. */
async function* bodyOf(event: H3Event, most: number, name: string): AsyncGenerator<Uint8Array> {
  const { req } = event.node
  const tooLarge = (): ServiceError => {
    letItEnd(event)
    return new ServiceError('too-large', 413, `${name} has more than ${sizeInWords(most)}, and that much is not taken here.`)
  }
  if (Number(getHeader(event, 'content-length') ?? 0) > most) throw tooLarge()
  try {
    // leaving this early must not close the connection, which the answer goes through
    yield* upTo(req.iterator({ destroyOnReturn: false }) as AsyncIterable<Uint8Array>, most, tooLarge)
  } catch (error) {
    if (req.complete || error instanceof ServiceError) throw error
    throw new ServiceError('bad-input', 400, `${name} ended before all of it was here. Send it again.`, { cause: error })
  }
}

function letItEnd({ node: { req } }: H3Event): void {
  req.resume()
  const timer = setTimeout(() => req.destroy(), LINGER_MS).unref()
  req.once('close', () => clearTimeout(timer))
}

function sizeInWords(bytes: number): string {
  return bytes < 1024 * 1024 ? `${Math.round(bytes / 1024)} KB` : `${Math.round(bytes / 1024 / 1024)} MB`
}
