import { deflateSync } from 'node:zlib'

/** A PNG of one colour, written after the format's specification (RFC 2083): header, pixels, end, each with its checksum. */
export function pngOf(width: number, height: number, grey = 0): Buffer {
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)]
    length.writeUInt32BE(data.length)
    sum.writeUInt32BE(crc(body))
    return Buffer.concat([length, body, sum])
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head.set([8, 0, 0, 0, 0], 8)
  const pixels = Buffer.alloc((width + 1) * height, grey)
  for (let y = 0; y < height; y++) pixels[y * (width + 1)] = 0
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  return Buffer.concat([signature, chunk('IHDR', head), chunk('IDAT', deflateSync(pixels)), chunk('IEND', Buffer.alloc(0))])
}
function crc(bytes: Buffer): number {
  let sum = 0xffffffff
  for (const byte of bytes) {
    sum ^= byte
    for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >>> 1) ^ 0xedb88320 : sum >>> 1
  }
  return (sum ^ 0xffffffff) >>> 0
}
