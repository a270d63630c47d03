import { posix } from 'node:path'
import { object, string } from 'yup'
import {
  PlaceError,
  changed,
  outside,
  tooLarge,
  type Place,
  type PlaceDriver,
  type PlaceFile,
  type Replaced,
  type Staged,
  type Still,
} from '../../../server/places'

/*
 * The shortest place there is: files in memory, by the name of a shelf. docs/extending.md shows it as the example, and
 * tests/server/place-contract.ts holds it to the same laws as all others.
 */
interface Kept {
  readonly bytes: Buffer
  readonly changed: number
}

const shelves = new Map<string, Map<string, Kept>>()
let clock = 0

export class MemoryPlace implements Place {
  readonly can = { replaceInOneStep: true, sync: false, modes: false }
  readonly files: Map<string, Kept>

  constructor(private readonly shelf: string) {
    this.files = shelves.get(shelf) ?? new Map<string, Kept>()
    shelves.set(shelf, this.files)
  }

  async probe(): Promise<string> {
    return this.shelf
  }

  private clean(path: string): string {
    const clean = posix.normalize(path)
    if (path.includes('\0') || posix.isAbsolute(clean) || clean === '..' || clean.startsWith('../')) throw outside(path)
    return clean
  }

  async stat(path: string): Promise<PlaceFile | null> {
    const file = this.files.get(this.clean(path))
    return file ? { path, size: file.bytes.length, changed: file.changed } : null
  }

  async read(path: string, most: number): Promise<Buffer | null> {
    const file = this.files.get(this.clean(path))
    if (file && file.bytes.length > most) throw tooLarge(path, file.bytes.length, most)
    return file ? Buffer.from(file.bytes) : null
  }

  async list(path: string, depth: number): Promise<PlaceFile[]> {
    const base = this.clean(path) === '.' ? '' : this.clean(path) + '/'
    return [...this.files]
      .filter(([name]) => name.startsWith(base) && name.slice(base.length).split('/').length <= depth + 1 && !name.endsWith('.tmp'))
      .map(([name, file]) => ({ path: name, size: file.bytes.length, changed: file.changed }))
      .sort((a, b) => (a.path.split('/').join('\0') < b.path.split('/').join('\0') ? -1 : 1))
  }

  async stage(path: string, bytes: Uint8Array): Promise<Staged> {
    const temporary = posix.join(posix.dirname(this.clean(path)), `.${String(++clock).padStart(16, '0')}.tmp`)
    this.put(temporary, bytes)
    return { path, temporary }
  }

  async commit({ path, temporary }: Staged, still: Still = () => true): Promise<Replaced> {
    const staged = this.files.get(temporary)
    if (!staged) throw new PlaceError('failed', `${path}: what was to be put there is gone.`)
    const kept = this.keep(path, still)
    this.files.delete(temporary)
    this.files.set(this.clean(path), staged)
    return { path, kept }
  }

  /** Gives what stands at a path a second name. */
  private keep(path: string, still: Still): string | null {
    const file = this.files.get(this.clean(path))
    if (!still(file ? Buffer.from(file.bytes) : null)) throw changed(path)
    if (!file) return null
    const kept = posix.join(posix.dirname(this.clean(path)), `.${String(++clock).padStart(16, '0')}.tmp`)
    this.files.set(kept, file)
    return kept
  }

  async before({ kept }: Replaced): Promise<Buffer | null> {
    return kept === null ? null : this.files.get(kept)!.bytes
  }

  async release({ kept }: Replaced): Promise<void> {
    if (kept !== null) this.files.delete(kept)
  }

  async discard({ temporary }: Staged): Promise<void> {
    this.files.delete(temporary)
  }

  async remove(path: string, still: Still = () => true): Promise<Replaced | null> {
    const clean = this.clean(path)
    if ([...this.files.keys()].some((name) => name.startsWith(clean + '/')))
      throw new PlaceError('failed', `${path}: a folder stands in its place.`)
    const kept = this.keep(path, still)
    this.files.delete(clean)
    return kept === null ? null : { path, kept }
  }

  async sweep(paths: readonly string[]): Promise<void> {
    const folders = new Set(paths.map((path) => posix.dirname(this.clean(path))))
    for (const name of this.files.keys()) if (folders.has(posix.dirname(name)) && /\/?\.\d{16}\.tmp$/.test(name)) this.files.delete(name)
  }

  async claim(): Promise<() => void> {
    return () => undefined
  }

  async close(): Promise<void> {}

  /** Puts a file there as others do. */
  put(path: string, bytes: Uint8Array): void {
    this.files.set(path, { bytes: Buffer.from(bytes), changed: ++clock })
  }
}

export const memoryDriver: PlaceDriver<{ shelf: string }> = {
  type: 'memory',
  schema: object({ shelf: string().required() }).noUnknown(),
  secrets: ['shelf'],
  open: ({ shelf }) => new MemoryPlace(shelf),
}
