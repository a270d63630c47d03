import { emptyScalar, isContainer, type Comment, type Container, type Entry, type MapNode, type Node, type Span } from '../tree/nodes'

interface Statement {
  readonly from: number
  readonly to: number
  readonly value: Node
  readonly lead: readonly Comment[]
  readonly trail: Comment | null
}

/**
 * Builds the tree of a file made of assignments (Lua, scripts): `A.b.c = value` becomes the setting /A/b/c, under the
 * table assigned to `A.b` where there is one. Statements that assign nothing stand under their own first line.
 */
export class StatementTree {
  private readonly root: MapNode = block(0)
  private readonly keys = new Map<Container, Map<string, Entry>>()
  private table: Container | null = null
  private tableLead: readonly Comment[] = []

  constructor(
    private readonly text: string,
    private readonly dot: string,
  ) {
    this.keys.set(this.root, new Map())
  }

  /** Whether the file gave back a table already. */
  get returned(): boolean {
    return this.table !== null
  }

  /** The table the whole file stands for (`return { … }`): its fields are settings of the root. */
  returns(value: Container, lead: readonly Comment[]): void {
    this.table = value
    this.tableLead = lead
  }

  assign(path: readonly string[], names: readonly Span[], statement: Statement): void {
    let container: MapNode = this.root
    let depth = 0
    for (; depth < path.length - 1; depth++) {
      const next = this.section(container, path[depth]!, names.slice(0, depth + 1), statement)
      if (!next) break
      container = next
    }
    // what hangs on code, not on a table, keeps its whole path as its name
    const key = depth === path.length - 1 ? path[depth]! : path.slice(depth).join(this.dot)
    const first = names[depth]!
    this.add(container, {
      key,
      keyFrom: first.from,
      keyTo: names[names.length - 1]!.to,
      value: statement.value,
      from: statement.from,
      to: statement.to,
      lead: statement.lead,
      trail: statement.trail,
      comma: -1,
      names,
    })
  }

  code(from: number, to: number, lead: readonly Comment[], trail: Comment | null): void {
    if (to <= from) return
    const line = /^[^\r\n]*/
      .exec(this.text.slice(from, Math.min(to, from + 80)))![0]
      .replace(/\s+/g, ' ')
      .trim()
    const keys = this.keysOf(this.root)
    let key = line
    for (let i = 2; keys.has(key); i++) key = `${line} (${i})`
    const value: Node = { ...emptyScalar(from), to, kind: 'code', style: 'plain', value: this.text.slice(from, to) }
    this.add(this.root, { key, keyFrom: from, keyTo: from, value, from, to, lead, trail, comma: -1, names: [] })
  }

  finish(tail: readonly Comment[]): Node {
    const { root, table } = this
    const first = root.entries[0]
    root.from = root.outer = first?.from ?? this.text.length
    root.to = root.entries.reduce((to, entry) => Math.max(to, entry.to), root.from)
    if (!table) {
      root.tail = tail
      return root
    }
    table.tail = [...table.tail, ...tail]
    // what stands above the table is kept with its first field, but is not inside the braces with it
    if (table.entries[0])
      table.entries[0].lead = [...this.tableLead.map((comment) => ({ ...comment, attached: false })), ...table.entries[0].lead]
    if (root.entries.length === 0) return table
    if (table.type === 'list') {
      this.add(root, {
        key: 'return',
        keyFrom: table.from,
        keyTo: table.from,
        value: table,
        from: table.from,
        to: table.to,
        lead: [],
        trail: null,
        comma: -1,
      })
      return root
    }
    // a field that only hands on a name assigned above is no setting of its own
    const handed = this.keysOf(root)
    const fields = table.entries.filter((entry) => !(handed.has(entry.key) && entry.value.type === 'scalar' && entry.value.kind === 'code'))
    return { ...table, entries: [...root.entries, ...fields], prefix: '' }
  }

  private add(container: MapNode, entry: Entry): void {
    container.entries.push(entry)
    this.keysOf(container).set(entry.key, entry)
    if (!container.flow) container.to = Math.max(container.to, entry.to)
  }

  private keysOf(container: Container): Map<string, Entry> {
    let keys = this.keys.get(container)
    if (!keys) {
      keys = new Map(container.entries.map((entry) => [entry.key, entry]))
      this.keys.set(container, keys)
    }
    return keys
  }

  /** The section of that name, made where no statement assigned one; null where the name holds something else. */
  private section(container: MapNode, key: string, names: readonly Span[], statement: Statement): MapNode | null {
    const known = this.keysOf(container).get(key)
    const prefix = this.text.slice(names[0]!.from, names[names.length - 1]!.to)
    if (known) {
      if (!isContainer(known.value) || known.value.type !== 'map') return null
      known.value.prefix ??= prefix
      return known.value
    }
    const value = { ...block(statement.from), prefix, to: statement.to }
    this.add(container, {
      key,
      keyFrom: names[names.length - 1]!.from,
      keyTo: names[names.length - 1]!.to,
      value,
      from: statement.from,
      to: statement.to,
      lead: [],
      trail: null,
      comma: -1,
    })
    return value
  }
}

function block(from: number): MapNode {
  return { type: 'map', flow: false, indent: 0, entries: [], tail: [], from, to: from, outer: from, anchor: null, tag: null }
}
