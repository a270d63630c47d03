import { open, rm } from 'node:fs/promises'

/** Gives the parts of a stream on, until they are more bytes than there may be: then nothing more is read, and `tooMuch` is thrown. */
export async function* upTo(parts: AsyncIterable<Uint8Array>, most: number, tooMuch: () => Error): AsyncGenerator<Uint8Array> {
  let size = 0
  for await (const part of parts) {
    size += part.length
    if (size > most) throw tooMuch()
    yield part
  }
}

/** Writes parts to a file that is not there yet, for our own account alone; where they break off, there is none. @returns its size in bytes */
export async function writeParts(parts: AsyncIterable<Uint8Array>, file: string): Promise<number> {
  const handle = await open(file, 'wx', 0o600)
  let size = 0
  try {
    for await (const part of parts) {
      await handle.writeFile(part)
      size += part.length
    }
    return size
  } catch (error) {
    await rm(file, { force: true })
    throw error
  } finally {
    await handle.close()
  }
}
