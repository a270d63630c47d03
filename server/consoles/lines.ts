import type { Readable } from 'node:stream'
import { StringDecoder } from 'node:string_decoder'

/** Characters of a line that are kept. */
export const LONGEST_LINE = 4_000

/** Reads a stream line by line. Of a line that is too long the rest is left out, which is said; a line without end costs no memory. */
export function readLines(stream: Readable, take: (line: string) => void): void {
  const decoder = new StringDecoder('utf8')
  let line = ''
  let leftOut = 0
  const end = (): void => {
    const text = line.endsWith('\r') && leftOut === 0 ? line.slice(0, -1) : line
    take(leftOut > 0 ? `${text} … ${leftOut} more characters` : text)
    line = ''
    leftOut = 0
  }
  const add = (part: string): void => {
    const fits = part.slice(0, LONGEST_LINE - line.length)
    line += fits
    leftOut += part.length - fits.length
  }
  stream.on('data', (bytes: Buffer) => {
    const parts = decoder.write(bytes).split('\n')
    for (const [i, part] of parts.entries()) {
      if (i > 0) end()
      add(part)
    }
  })
  stream.on('end', () => {
    if (line !== '' || leftOut > 0) end()
  })
  stream.on('error', () => undefined)
}
