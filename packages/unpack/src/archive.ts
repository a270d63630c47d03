import { Transform, type Readable, type TransformCallback } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { crc32, inflateRawSync } from 'node:zlib'
import { nameOnDisk } from '@pasticcio/core'
import { fromBufferPromise, type Entry, type ZipFile } from 'yauzl'

/** How much an archive may ask of whoever opens it; sizes in bytes. */
export interface ArchiveLimits {
  readonly entries: number
  /** One file, unpacked. */
  readonly entry: number
  /** All files, unpacked. */
  readonly total: number
  /** How many times its own size all of it may become; looked at above `free`. */
  readonly ratio: number
  readonly free: number
}

/** Why an archive is not opened; `message` ends a sentence that begins with its name. */
export class ArchiveError extends Error {
  readonly code = 'bad-archive'
}

const STORED = 0
const DEFLATED = 8
const LOCAL_HEADER = 30
/** Files up to so many bytes are unpacked in one go: a chain of streams costs more than the file. */
const IN_ONE_GO = 1024 * 1024
/** In the upper half of the external attributes, as Unix writes them: what kind of file it is. */
const KIND = 0o170000
const LINK = 0o120000
const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`

/**
 * An archive (ZIP, APPNOTE.TXT 6.3) whose list of contents was looked at whole before anything of it is unpacked. What
 * it claims is held against it while unpacking.
 */
export class Archive {
  /** Files that were unpacked whole and are as the archive says. */
  private readonly sound = new Set<Entry>()

  private constructor(
    private readonly bytes: Buffer,
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
    private readonly limits: ArchiveLimits,
  ) {}

  /** @throws ArchiveError */
  static async open(bytes: Uint8Array, limits: ArchiveLimits): Promise<Archive> {
    const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    const zip = await worded(fromBufferPromise(buffer, { strictFileNames: true }))
    if (zip.entryCount > limits.entries) throw new ArchiveError(`it holds ${zip.entryCount} files, and ${limits.entries} are the most`)
    const all: Entry[] = []
    await worded(
      (async () => {
        for await (const entry of zip.eachEntry()) all.push(entry)
      })(),
    )
    refuseSizes(all, bytes.length, limits)
    refuseNames(all)
    refuseShared(all)
    return new Archive(buffer, zip, new Map(all.filter(isFile).map((entry) => [entry.fileName, entry])), limits)
  }

  get names(): string[] {
    return [...this.entries.keys()]
  }

  size(name: string): number {
    return this.entries.get(name)?.uncompressedSize ?? 0
  }

  /** One file; null where the archive holds none of this name. @throws ArchiveError */
  async read(name: string): Promise<Buffer | null> {
    const entry = this.entries.get(name)
    if (!entry) return null
    const parts: Buffer[] = []
    await this.unpack(entry, (part) => parts.push(part))
    return Buffer.concat(parts)
  }

  /** Unpacks what nobody read yet and keeps nothing, so that what is damaged is known. @throws ArchiveError */
  async verify(): Promise<void> {
    for (const entry of this.entries.values()) if (!this.sound.has(entry)) await this.unpack(entry, () => undefined)
  }

  private async unpack(entry: Entry, take: (part: Buffer) => void): Promise<void> {
    if (Math.max(entry.uncompressedSize, entry.compressedSize) <= IN_ONE_GO) take(await this.unpackInOneGo(entry))
    else await this.unpackInParts(entry, take)
    this.sound.add(entry)
  }

  private async unpackInOneGo(entry: Entry): Promise<Buffer> {
    const { fileName, compressedSize, uncompressedSize, compressionMethod } = entry
    const { fileDataStart } = await worded(this.zip.readLocalFileHeaderPromise(entry, { minimal: true }), fileName)
    const packed = this.bytes.subarray(fileDataStart, fileDataStart + compressedSize)
    const part = compressionMethod === STORED ? packed : await worded(inflated(packed, uncompressedSize), fileName)
    if (part.length !== uncompressedSize) throw new ArchiveError(`${fileName} in it is damaged`)
    if (crc32(part) !== entry.crc32) throw damagedSum(entry)
    return part
  }

  private async unpackInParts(entry: Entry, take: (part: Buffer) => void): Promise<void> {
    let sum = 0
    let size = 0
    const { entry: most } = this.limits
    const check = new Transform({
      transform(part: Buffer, _encoding, done: TransformCallback) {
        size += part.length
        if (size > most) return done(new ArchiveError(`${entry.fileName} is larger than it says`))
        sum = crc32(part, sum)
        take(part)
        done()
      },
    })
    const source: Readable = await worded(this.zip.openReadStreamPromise(entry), entry.fileName)
    await worded(pipeline(source, check.resume()), entry.fileName)
    if (sum !== entry.crc32) throw damagedSum(entry)
  }
}

/** What unpacks to more than it says is refused, with no more memory than it said. */
const inflated = async (packed: Buffer, size: number): Promise<Buffer> => inflateRawSync(packed, { maxOutputLength: size + 1 })

const damagedSum = ({ fileName }: Entry): ArchiveError => new ArchiveError(`${fileName} in it is damaged: its check sum is not right`)

const isFile = (entry: Entry): boolean => !entry.fileName.endsWith('/')

function refuseSizes(all: readonly Entry[], own: number, limits: ArchiveLimits): void {
  let total = 0
  for (const { fileName, uncompressedSize } of all) {
    if (uncompressedSize > limits.entry)
      throw new ArchiveError(`${fileName} in it has ${megabytes(uncompressedSize)}, and ${megabytes(limits.entry)} are the most`)
    total += uncompressedSize
  }
  if (total > limits.total) throw new ArchiveError(`it would unpack to ${megabytes(total)}, and ${megabytes(limits.total)} are the most`)
  if (total > limits.free && total > own * limits.ratio)
    throw new ArchiveError(`it would unpack to ${Math.round(total / own)} times its size, and ${limits.ratio} times are the most`)
}

function refuseNames(all: readonly Entry[]): void {
  const taken = new Map<string, string>()
  for (const entry of all) {
    const { fileName, compressionMethod, externalFileAttributes } = entry
    if (/[\x00-\x1f]/.test(fileName)) throw new ArchiveError('a name in it holds characters that cannot be seen')
    if (fileName.split('/').some((part) => part === '.' || part === '..')) throw new ArchiveError(`${fileName} in it leads out of it`)
    if (entry.isEncrypted()) throw new ArchiveError(`${fileName} in it is encrypted`)
    if (![STORED, DEFLATED].includes(compressionMethod))
      throw new ArchiveError(`${fileName} in it is packed in a way that is not known here`)
    if (((externalFileAttributes >>> 16) & KIND) === LINK) throw new ArchiveError(`${fileName} in it is a link`)
    const name = nameOnDisk(fileName.replace(/\/$/, ''))
    const twin = taken.get(name)
    if (twin !== undefined) throw new ArchiveError(`it holds ${twin === fileName ? `${fileName} twice` : `both ${twin} and ${fileName}`}`)
    taken.set(name, fileName)
  }
  for (const [name, fileName] of taken)
    for (let end = name.indexOf('/'); end >= 0; end = name.indexOf('/', end + 1)) {
      const above = taken.get(name.slice(0, end))
      if (above !== undefined && !above.endsWith('/')) throw new ArchiveError(`${above} in it is a file, and ${fileName} lies below it`)
    }
}

/** Files whose data lies over each other's make a small archive unpack to a large one. */
function refuseShared(all: readonly Entry[]): void {
  let end = 0
  for (const entry of [...all].sort((a, b) => a.relativeOffsetOfLocalHeader - b.relativeOffsetOfLocalHeader)) {
    if (entry.relativeOffsetOfLocalHeader < end) throw new ArchiveError(`${entry.fileName} in it shares its data with another file`)
    end = entry.relativeOffsetOfLocalHeader + LOCAL_HEADER + entry.fileNameLength + entry.compressedSize
  }
}

/** What the reader says of a damaged archive is not for users. */
async function worded<T>(work: Promise<T>, name?: string): Promise<T> {
  try {
    return await work
  } catch (error) {
    if (error instanceof ArchiveError) throw error
    throw new ArchiveError(name ? `${name} in it is damaged` : 'it is not an archive, or it is damaged', { cause: error })
  }
}
