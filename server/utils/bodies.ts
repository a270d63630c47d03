/*
 * Reading the bodies of requests. How much may come is looked at while it comes, so that nothing larger is ever held;
 * what comes after that is thrown away unread, for as long as it takes the other side to see the answer.
 */
import { open, rm } from 'node:fs/promises'
import { getHeader, type H3Event } from 'h3'
import { ServiceError } from '../services/errors'

/** How long somebody may go on sending what is thrown away, in milliseconds. */
const LINGER_MS = 10_000

/** The bytes of a body. @throws ServiceError `too-large` */
async function readBytes(event: H3Event, most: number): Promise<Buffer> {
  const parts: Buffer[] = []
  await read(event, most, 'This request', (part) => void parts.push(part))
  return Buffer.concat(parts)
}

/** The JSON of a body; an object without anything in it where there is no body. @throws ServiceError `too-large`, `bad-input` */
export async function readJson(event: H3Event, most: number): Promise<unknown> {
  const text = (await readBytes(event, most)).toString('utf8')
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

/** Writes a body to a file that is not there yet. @returns its size in bytes @throws ServiceError `too-large` */
export async function receiveFile(event: H3Event, most: number, name: string, file: string): Promise<number> {
  const handle = await open(file, 'wx', 0o600)
  try {
    return await read(event, most, name, (part) => handle.write(part))
  } catch (error) {
    await rm(file, { force: true })
    throw error
  } finally {
    await handle.close()
  }
}

/** Gives the parts of a body to `take`, one after the other. @returns how many bytes there were */
async function read(event: H3Event, most: number, name: string, take: (part: Buffer) => unknown): Promise<number> {
  const { req } = event.node
  const refuse = (): never => {
    letItEnd(event)
    throw new ServiceError('too-large', 413, `${name} has more than ${sizeInWords(most)}, and that much is not taken here.`)
  }
  if (Number(getHeader(event, 'content-length') ?? 0) > most) refuse()
  let size = 0
  try {
    // leaving this loop must not close the connection, which the answer goes through
    for await (const part of req.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
      size += part.length
      if (size > most) refuse()
      await take(part)
    }
  } catch (error) {
    if (req.complete || error instanceof ServiceError) throw error
    throw new ServiceError('bad-input', 400, `${name} ended before all of it was here. Send it again.`, { cause: error })
  }
  return size
}

function letItEnd({ node: { req } }: H3Event): void {
  req.resume()
  const timer = setTimeout(() => req.destroy(), LINGER_MS).unref()
  req.once('close', () => clearTimeout(timer))
}

function sizeInWords(bytes: number): string {
  return bytes < 1024 * 1024 ? `${Math.round(bytes / 1024)} KB` : `${Math.round(bytes / 1024 / 1024)} MB`
}
