import { defineStore } from 'pinia'
import {
  NO_PERMISSIONS,
  PermissionBook,
  changeGrant,
  idleDenials,
  type Permissions,
  type PermissionGroup,
  type Step,
  type Subject,
} from '@pasticcio/core'
import type { Operation } from '~/drafts/engine'
import { toWire } from '~/drafts/wire'
import { filterNodes, gainsOf, nodeRows, type NodeFilter, type NodeOrder } from '~/utils/permission-rows'
import type { ServerPermissions } from '~/utils/types'

const NOTHING: ServerPermissions = {
  file: null,
  plugin: '',
  permissions: NO_PERMISSIONS,
  standing: null,
  nodes: [],
  lines: {},
  findings: [],
  canAsk: false,
}

/** A column of the grid. */
export interface Column {
  readonly id: string
  readonly name: string
  readonly subject: Subject
  readonly group: PermissionGroup | null
  /** How many players are in it. */
  readonly players: number
}

/** Who may what on the server at hand, as the drafts have it, and what changes it. */
export const usePermissionsStore = defineStore('permissions', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const answer = shallowRef<ServerPermissions>(NOTHING)
  const problem = ref('')
  const loading = ref(false)
  const isLoaded = ref(false)
  const order = ref<NodeOrder>('plugin')
  const filter = ref<NodeFilter>({ plugin: '', words: '', onlyDifferences: false })
  /** The player beside the groups, by id; empty for none. */
  const player = ref('')
  const node = ref('')
  const column = ref('')

  const permissions = computed(() => answer.value.permissions)
  const book = computed(() => new PermissionBook(permissions.value, answer.value.nodes))
  const columns = computed<readonly Column[]>(() => {
    const groups = [...permissions.value.groups].sort((a, b) => (a.weight ?? 0) - (b.weight ?? 0))
    const counts = countsOf(permissions.value)
    const own = permissions.value.players.find(({ id }) => id === player.value)
    return [
      ...groups.map((group): Column => ({
        id: `group ${group.name}`,
        name: group.name,
        subject: { group: group.name },
        group,
        players: counts.get(group.name) ?? 0,
      })),
      ...(own ? [{ id: `player ${own.id}`, name: own.name || own.id, subject: { player: own.id }, group: null, players: 1 }] : []),
    ]
  })
  const subjects = computed(() => columns.value.map(({ subject }) => subject))
  const rows = computed(() => nodeRows(filterNodes(answer.value.nodes, filter.value, book.value, subjects.value), order.value))
  const plugins = computed(() => [...new Set(answer.value.nodes.map(({ plugin }) => plugin))].filter(Boolean).sort())
  const current = computed(() => answer.value.nodes.find((one) => one.node === node.value) ?? null)
  const currentColumn = computed(() => columns.value.find(({ id }) => id === column.value) ?? null)
  const steps = computed<readonly Step[]>(() =>
    current.value && currentColumn.value ? book.value.trace(currentColumn.value.subject, current.value.node) : [],
  )
  const idle = computed(() => idleDenials(book.value, answer.value.nodes))
  /** Rights as they stand on the server; null where no draft changes them. */
  const before = computed(() => (answer.value.standing ? new PermissionBook(answer.value.standing, answer.value.nodes) : null))
  const gains = computed(() =>
    before.value
      ? gainsOf(
          before.value,
          book.value,
          answer.value.nodes.map((one) => one.node),
        )
      : [],
  )

  async function load(): Promise<void> {
    loading.value = true
    problem.value = ''
    try {
      answer.value = await callApi<ServerPermissions>(`${server.base}/permissions`)
      if (!current.value) node.value = rows.value.find(({ kind }) => kind === 'node')?.id ?? ''
      if (!currentColumn.value) column.value = columns.value[0]?.id ?? ''
      isLoaded.value = true
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      loading.value = false
    }
  }

  /** What the running server said that players may, by their names. */
  const told = ref<Readonly<Record<string, readonly string[]>>>({})
  /** Asks the running server what a player may. */
  async function ask(name: string): Promise<void> {
    problem.value = ''
    try {
      const { nodes } = await callApi<{ nodes: string[] }>(`${server.base}/permissions/ask`, { body: { player: name } })
      told.value = { ...told.value, [name]: nodes }
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  /** Does something to the file of the groups, keeps it, and looks again. */
  async function operate(operations: readonly Operation[]): Promise<void> {
    const { file } = answer.value
    if (file === null || operations.length === 0) return
    const wrong = await drafts.together(operations.map((operation) => ({ path: file, operation })))
    await drafts.flushAll()
    await load()
    problem.value = wrong
  }

  /** Gives a node to a group, denies it, or says nothing of it any more. */
  async function change(name: string, what: string, to: 'granted' | 'denied' | null): Promise<void> {
    const group = permissions.value.groups.find((one) => one.name === name)
    if (group)
      await operate(
        changeGrant(group, what, to).map((step): Operation => (step.kind === 'remove' ? step : { ...step, value: toWire(step.value) })),
      )
  }
  /** Copies a group under another name. */
  const copy = (group: PermissionGroup, name: string): Promise<void> => operate([{ kind: 'duplicate', pointer: group.pointer, name }])
  /** A group inherits from another, or from it no more. What would go round in a circle is refused. */
  async function inherit(group: PermissionGroup, parent: string): Promise<void> {
    const there = group.inherits.find(({ name }) => name === parent)
    if (there) return operate([{ kind: 'remove', pointer: there.pointer }])
    if (parent === group.name || book.value.inherits(parent, group.name)) {
      problem.value = `${parent} inherits from ${group.name}, so that it would go round in a circle.`
      return
    }
    const names = [...group.inherits.map(({ name }) => name), parent]
    await operate([{ kind: 'put', pointer: group.inheritsAt, value: toWire(names) }])
  }
  async function undo(): Promise<void> {
    drafts.undo(true)
    await drafts.flushAll()
    await load()
  }

  /** Moves the focus by rows and columns. */
  function move(down: number, right: number): void {
    const ids = rows.value.flatMap((row) => (row.kind === 'node' ? [row.id] : []))
    const at = Math.max(0, ids.indexOf(node.value))
    node.value = ids[Math.min(ids.length - 1, Math.max(0, at + down))] ?? ''
    const across = Math.max(
      0,
      columns.value.findIndex(({ id }) => id === column.value),
    )
    column.value = columns.value[Math.min(columns.value.length - 1, Math.max(0, across + right))]?.id ?? ''
  }

  return {
    answer,
    permissions,
    problem,
    loading,
    isLoaded,
    order,
    filter,
    player,
    node,
    column,
    book,
    columns,
    rows,
    plugins,
    current,
    currentColumn,
    steps,
    idle,
    before,
    gains,
    load,
    change,
    copy,
    inherit,
    told,
    ask,
    undo,
    move,
  }
})

/** How many players are in each group. */
function countsOf({ groups, players, everybody }: Permissions): ReadonlyMap<string, number> {
  const names = new Set(groups.map(({ name }) => name))
  const counts = new Map<string, number>()
  const add = (name: string): void => void counts.set(name, (counts.get(name) ?? 0) + 1)
  for (const { groups: own } of players) {
    const there = own.filter((name) => names.has(name))
    if (there.length > 0) there.forEach(add)
    else if (everybody !== null) add(everybody)
  }
  return counts
}
