import { sameNode } from '../tree/compare'
import type { Document, Entry } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import type { TreeIndex } from './index-tree'
import type { Spot } from './patch'

/** The three versions of one file, as far as they are there. */
export interface MergedFile {
  readonly factory: Document | null
  readonly mine: Document | null
  readonly update: Document | null
}

/** A setting of one version. */
export interface Seen {
  readonly index: TreeIndex
  readonly entry: Entry
}

/** The three versions of all files at hand, and what one asks of them. */
export class Sides {
  constructor(
    readonly factory: TreeIndex | null,
    readonly mine: TreeIndex,
    readonly update: TreeIndex,
    readonly files: readonly MergedFile[],
  ) {}

  json(index: TreeIndex, entry: Entry): unknown {
    return toJson(index.documentOf(entry), entry.value)
  }

  /** Whether two settings say the same. */
  same(a: TreeIndex, left: Entry, b: TreeIndex, right: Entry): boolean {
    return sameNode({ document: a.documentOf(left), node: left.value }, { document: b.documentOf(right), node: right.value })
  }

  /** The pointer of an entry; with several files at hand, behind the name of its file. */
  name({ index, entry }: Seen): string {
    const { file } = index.documentOf(entry)
    return (file === undefined ? '' : `${file}#`) + formatPointer(index.keys(entry))
  }

  /** Names a decision: by mine, else by the factory copy, else by the update. */
  idOf(f: Entry | null, m: Entry | null, u: Entry | null): string {
    return this.name(this.seen(f, m, u))
  }

  private seen(f: Entry | null, m: Entry | null, u: Entry | null): Seen {
    if (m) return { index: this.mine, entry: m }
    return f ? { index: this.factory!, entry: f } : { index: this.update, entry: u! }
  }

  /** The other versions of the file that an entry of any of them stands in. */
  peers({ index, entry }: Seen): MergedFile | null {
    const document = index.documentOf(entry)
    return this.files.find((file) => file.factory === document || file.mine === document || file.update === document) ?? null
  }

  /** The entry of the same name in another version of the same file; in lists positions say nothing about who is who. */
  sameNamed(seen: Seen, other: TreeIndex, side: keyof MergedFile): Entry | null {
    if (seen.index.chain(seen.entry).some((entry) => seen.index.seat(entry).parent.type === 'list')) return null
    const document = this.peers(seen)?.[side] ?? null
    return document ? other.at(seen.index.keys(seen.entry), document) : null
  }

  /** The spot of what is not in the result: its name in mine, or in the factory copy, under its file. */
  nowhere(f: Entry | null, m: Entry | null, u: Entry | null): Spot {
    const seen = this.seen(f, m, u)
    const peers = this.peers(seen)
    return { type: 'elsewhere', pointer: formatPointer(seen.index.keys(seen.entry)), document: peers?.update ?? peers?.mine ?? undefined }
  }
}
