import { defineStore } from 'pinia'
import { inTurn } from '~/utils/in-turn'
import {
  NO_PERMISSIONS,
  PermissionBook,
  findPlayer,
  idleDenials,
  type Permissions,
  type PermissionGroup,
  type PermissionPlayer,
  type Step,
  type Subject,
} from '@pasticcio/core'
import { peopleOf, type PersonRow } from '~/utils/permission-people'
import { NO_FILTER, dangersOf, filterNodes, gainsOf, nodeRows, type NodeFilter, type NodeOrder } from '~/utils/permission-rows'
import type { ServerPermissions } from '~/utils/types'

const NOTHING: ServerPermissions = {
  file: null,
  plugin: '',
  permissions: NO_PERMISSIONS,
  standing: null,
  nodes: [],
  open: [],
  lines: {},
  findings: [],
  canAsk: false,
  players: { file: null, by: null, units: [], hasDeny: false, hasGroups: false, at: '', lines: {}, id: null },
  staged: [],
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
  const answer = shallowRef<ServerPermissions>(NOTHING)
  const problem = ref('')
  const loading = ref(false)
  const isLoaded = ref(false)
  const order = ref<NodeOrder>('plugin')
  const filter = ref<NodeFilter>(NO_FILTER)
  /** The player beside the groups, by id; empty for none. */
  const player = ref('')
  const node = ref('')
  const column = ref('')

  /** What has ended by then counts no more; taken anew whenever they are read. */
  const now = ref(Date.now())

  const permissions = computed(() => answer.value.permissions)
  const book = computed(() => new PermissionBook(permissions.value, answer.value.nodes, now.value))
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
  const subjects = computed(() => new Map(columns.value.map(({ id, subject }) => [id, subject])))
  const idle = computed(() => idleDenials(book.value, answer.value.nodes))
  const dangers = computed(() =>
    dangersOf(
      answer.value.nodes,
      book.value,
      idle.value.map(({ grant }) => grant.node),
    ),
  )
  const rows = computed(() =>
    nodeRows(filterNodes(answer.value.nodes, filter.value, book.value, subjects.value, dangers.value), order.value),
  )
  /** What some players may, beside what their ranks give. */
  const people = (players: readonly PermissionPlayer[]): readonly PersonRow[] =>
    peopleOf(
      book.value,
      answer.value.nodes.map((one) => one.node),
      players,
    )
  const current = computed(() => answer.value.nodes.find((one) => one.node === node.value) ?? null)
  const currentColumn = computed(() => columns.value.find(({ id }) => id === column.value) ?? null)
  const steps = computed<readonly Step[]>(() =>
    current.value && currentColumn.value ? book.value.trace(currentColumn.value.subject, current.value.node) : [],
  )
  /** Rights as they stand on the server; null where no draft changes them. */
  const before = computed(() => (answer.value.standing ? new PermissionBook(answer.value.standing, answer.value.nodes, now.value) : null))
  const gains = computed(() =>
    before.value
      ? gainsOf(
          before.value,
          book.value,
          answer.value.nodes.map((one) => one.node),
        )
      : [],
  )

  const turn = inTurn()
  /** Reads them anew. An answer that comes after one that was asked for later is not heard. */
  async function load(): Promise<void> {
    const isLast = turn()
    loading.value = true
    problem.value = ''
    try {
      now.value = Date.now()
      const found = await callApi<ServerPermissions>(`${server.base}/permissions`)
      if (!isLast()) return
      answer.value = found
      if (!current.value) node.value = rows.value.find(({ kind }) => kind === 'node')?.id ?? ''
      if (!currentColumn.value) column.value = columns.value[0]?.id ?? ''
      isLoaded.value = true
    } catch (error) {
      if (isLast()) problem.value = wordsOf(error)
    } finally {
      if (isLast()) loading.value = false
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

  const groupBy = (name: string): PermissionGroup | undefined => permissions.value.groups.find((one) => one.name === name)
  const playerBy = (who: string): PermissionPlayer | undefined => findPlayer(permissions.value.players, who)

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
    current,
    currentColumn,
    steps,
    idle,
    dangers,
    people,
    before,
    gains,
    groupBy,
    playerBy,
    load,
    told,
    ask,
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
