import { nameWords } from '../carry/likeness'
import type { FileLooks, PartLook, ValueLook } from '../checks/looks'
import type { WorkspaceFile } from '../checks/workspace'
import { authorsComment, describedIn } from '../rules/comments'
import { isNameless, type Document, type Entry } from '../tree/nodes'
import { formatPointer, locate } from '../tree/pointer'

/** A section with all that texts in it are told by; worked out once, however many there are. */
export interface Section {
  /** The names in it, as words in the singular. */
  readonly names: ReadonlySet<string>
  /** Its values by these. */
  readonly values: ReadonlyMap<string, ValueLook>
  readonly wordsAbove: readonly string[]
  /** What the author says of the section itself. */
  readonly says: string
  /** What is said above of settings by their names. */
  readonly described: ReadonlyMap<string, string>
  /** The entries that the plugin ships in it, by their keys. */
  readonly shipped: ReadonlyMap<string, Entry>
  /** What is opened where something of it is pressed; empty for nothing. */
  readonly opens: string
}

const LINKS = new Set(['link', 'url', 'address', 'open', 'href', 'website'])
const IS_LINK = /^\w+:\/\/|^[\w-]+(?:\.[\w-]+)+(?:\/|$)/

const linkIn = (values: readonly ValueLook[]): string =>
  values.find(({ node, entry, text }) => node.kind === 'text' && LINKS.has(nameWords(entry.key).at(-1) ?? '') && IS_LINK.test(text))
    ?.text ?? ''

const NOTHING: ReadonlyMap<string, string> = new Map()

/** The sections of a file by their keys. */
export class Sections {
  private readonly known = new Map<string, Section>()
  private readonly parts: ReadonlyMap<string, PartLook>
  private readonly inside = new Map<string, ValueLook[]>()

  constructor(
    private readonly file: WorkspaceFile,
    looks: FileLooks,
  ) {
    this.parts = new Map(looks.parts.map((part) => [formatPointer(part.keys), part]))
    for (const value of looks.values) {
      const at = formatPointer(value.keys.slice(0, -1))
      const there = this.inside.get(at)
      if (there) there.push(value)
      else this.inside.set(at, [value])
    }
  }

  /** The values in a section, or the items of a list. */
  valuesIn(keys: readonly string[]): readonly ValueLook[] {
    return this.inside.get(formatPointer(keys)) ?? []
  }

  /** What the author says of a setting: beside it, above it by its name, or in the factory copy. */
  saidOf(keys: readonly string[], entry: Entry): string {
    const { document, factory } = this.file
    const section = this.at(keys.slice(0, -1))
    const shipped = section.shipped.get(entry.key)
    return (
      authorsComment(document, entry) ||
      section.described.get(entry.key) ||
      (factory && shipped ? authorsComment(factory, shipped) : '') ||
      ''
    )
  }

  at(keys: readonly string[]): Section {
    const pointer = formatPointer(keys)
    let section = this.known.get(pointer)
    if (!section) this.known.set(pointer, (section = this.read(keys, this.parts.get(pointer) ?? null)))
    return section
  }

  private read(keys: readonly string[], part: PartLook | null): Section {
    const entries = part?.node.type === 'map' ? part.node.entries.filter((entry) => !isNameless(entry)) : []
    const above = keys.length > 0 ? this.at(keys.slice(0, -1)) : null
    const says = part?.entry ? this.saidOf(keys, part.entry) : ''
    const described = this.describedBy(part, keys)
    const shipped = part?.shipped?.type === 'map' ? part.shipped.entries : []
    return {
      names: new Set(entries.map(({ key }) => nameWords(key).join(' '))),
      values: new Map(this.valuesIn(keys).map((value) => [nameWords(value.entry.key).join(' '), value])),
      wordsAbove: above ? [...above.wordsAbove, ...nameWords(keys.at(-1)!)] : [],
      says,
      described: described.size === 0 ? (above?.described ?? NOTHING) : new Map([...(above?.described ?? NOTHING), ...described]),
      shipped: new Map(shipped.map((entry) => [entry.key, entry])),
      opens: linkIn(this.valuesIn(keys)),
    }
  }

  /** What the comment above a section says of the settings in it, here or in the factory copy. */
  private describedBy(part: PartLook | null, keys: readonly string[]): ReadonlyMap<string, string> {
    const { document, factory } = this.file
    const of = (from: Document | null, entry: Entry | null | undefined): ReadonlyMap<string, string> => {
      const comment = from && entry ? authorsComment(from, entry) : ''
      return comment === '' ? NOTHING : describedIn(comment)
    }
    const here = of(document, part?.entry)
    // sections without a comment of their own are many, and are not looked up
    return here.size > 0 || !factory || part?.shipped === null ? here : of(factory, keys.length > 0 ? locate(factory, keys)?.entry : null)
  }
}
