import { crc32, deflateRawSync } from 'node:zlib'

/** One file of an archive, as honest or not as a test wants it. */
export interface Member {
  readonly name: string
  readonly data?: Uint8Array
  /** What the archive claims of it, where that is not so. */
  readonly claims?: { readonly size?: number; readonly crc?: number }
  readonly method?: number
  readonly flags?: number
  readonly attributes?: number
  /** Refers to the data of an earlier member instead of having its own. */
  readonly sharesWith?: number
}

/** Writes an archive (ZIP, APPNOTE.TXT 6.3) byte by byte, also such as no library would write. */
export function zip(members: readonly Member[]): Buffer {
  const parts: Buffer[] = []
  const central: Buffer[] = []
  const offsets: number[] = []
  let at = 0
  const add = (part: Buffer): void => {
    parts.push(part)
    at += part.length
  }
  for (const [i, member] of members.entries()) {
    const { name, data = Buffer.alloc(0), claims = {}, method = 8, flags = 0x800, attributes = 0, sharesWith } = member
    const packed = method === 8 ? deflateRawSync(data) : Buffer.from(data)
    const bytes = Buffer.from(name, 'utf8')
    const fields = Buffer.alloc(26)
    fields.writeUInt16LE(20, 0)
    fields.writeUInt16LE(flags, 2)
    fields.writeUInt16LE(method, 4)
    fields.writeUInt32LE(claims.crc ?? crc32(data), 10)
    fields.writeUInt32LE(packed.length, 14)
    fields.writeUInt32LE(claims.size ?? data.length, 18)
    fields.writeUInt16LE(bytes.length, 22)
    offsets[i] = sharesWith === undefined ? at : offsets[sharesWith]!
    if (sharesWith === undefined) for (const part of [Buffer.from('PK\x03\x04', 'latin1'), fields, bytes, packed]) add(part)
    const tail = Buffer.alloc(14)
    tail.writeUInt32LE(attributes >>> 0, 6)
    tail.writeUInt32LE(offsets[i]!, 10)
    central.push(Buffer.concat([Buffer.from('PK\x01\x02\x14\x03', 'latin1'), fields, tail, bytes]))
  }
  const start = at
  const directory = Buffer.concat(central)
  const end = Buffer.alloc(18)
  end.writeUInt16LE(members.length & 0xffff, 4)
  end.writeUInt16LE(members.length & 0xffff, 6)
  end.writeUInt32LE(directory.length, 8)
  end.writeUInt32LE(start, 12)
  return Buffer.concat([...parts, directory, Buffer.from('PK\x05\x06', 'latin1'), end])
}
