import { defineStore } from 'pinia'
import type { ApplyRow, Option, UpdatePlan } from '~/utils/types'
import { NEEDS_EYES, groupPlan, rowId, standingChoice, type PlanRow } from '~/utils/plan-groups'

/** The plan of one update: its decisions, the one in focus, and what came of applying it. */
export const usePlanStore = defineStore('plan', () => {
  const server = useServerStore()
  const session = useSessionStore()
  const plugin = ref('')
  const plan = shallowRef<UpdatePlan | null>(null)
  const problem = ref('')
  const working = ref(false)
  const applying = ref(false)
  const done = shallowRef<ApplyRow | null>(null)
  const focus = ref('')
  const unfolded = ref(new Set<string>())

  const groups = computed(() => (plan.value ? groupPlan(plan.value) : []))
  /** The rows that are to be seen, in their order. */
  const rows = computed(() => groups.value.flatMap((group) => (group.folded && !unfolded.value.has(group.id) ? [] : group.rows)))
  const inFocus = computed(() => rows.value.find((row) => rowId(row) === focus.value) ?? null)
  const address = computed(() => `${server.base}/updates/${encodeURIComponent(plugin.value)}`)
  const ready = computed(
    () => plan.value !== null && plan.value.open === 0 && plan.value.problems.length === 0 && plan.value.staged.length === 0,
  )

  /** Shows the plan of a package; null lets go of the one at hand. */
  async function open(name: string, packageId: number | null): Promise<void> {
    if (plugin.value !== name || packageId === null) {
      plan.value = done.value = null
      problem.value = ''
    }
    plugin.value = name
    if (packageId === null || done.value) return
    try {
      const loaded = await callApi<UpdatePlan>(`${address.value}/plan?package=${packageId}`)
      if (plugin.value !== name) return
      plan.value = loaded
      problem.value = ''
      if (!inFocus.value) focus.value = rows.value[0] ? rowId(rows.value[0]) : ''
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  async function choose(row: PlanRow, option: Option | null): Promise<void> {
    if (!plan.value || !session.mayEdit) return
    working.value = true
    const choice = option && { id: option.id, ...(option.id === 'value' ? { value: option.value } : {}) }
    try {
      const body = { packageId: plan.value.packageId, path: row.path, decision: row.decision.id, choice }
      plan.value = await callApi<UpdatePlan>(`${address.value}/choice`, { method: 'PUT', body })
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      working.value = false
    }
  }

  /** Decides the row in focus as it stands, and goes to the next that waits. */
  async function decide(): Promise<void> {
    const row = inFocus.value
    if (row?.open) await choose(row, row.decision.options?.find((item) => item.id === standingChoice(row)) ?? null)
    nextOpen()
  }

  /** Takes what is shown, but for those that need a look of their own. */
  async function keepAll(): Promise<void> {
    for (const row of groups.value[0]?.rows.filter((item) => item.open && !NEEDS_EYES.includes(item.decision.outcome)) ?? []) {
      const option = row.decision.options?.find((item) => item.id === standingChoice(row))
      if (option) await choose(row, option)
    }
  }

  function nextOpen(): void {
    const at = rows.value.findIndex((row) => rowId(row) === focus.value)
    const next = [...rows.value.slice(at + 1), ...rows.value.slice(0, at + 1)].find((row) => row.open)
    if (next) focus.value = rowId(next)
  }

  function move(by: number): void {
    const next = rows.value[rows.value.findIndex((row) => rowId(row) === focus.value) + by]
    if (next) focus.value = rowId(next)
  }

  function fold(id: string): void {
    if (!unfolded.value.delete(id)) unfolded.value.add(id)
  }

  async function apply(): Promise<void> {
    if (!plan.value || !ready.value || applying.value || !session.mayEdit) return
    applying.value = true
    problem.value = ''
    try {
      done.value = await callApi<ApplyRow>(`${address.value}/apply`, {
        body: { packageId: plan.value.packageId, planSha: plan.value.sha },
      })
      server.complained = done.value.status === 'complained' ? done.value : null
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      applying.value = false
      await server.refresh()
    }
  }

  /** Goes back to before the update, and plans it anew. */
  async function goBack(): Promise<void> {
    if (!done.value || !plan.value) return
    await server.undo(done.value.id)
    done.value = null
    await open(plugin.value, plan.value.packageId)
  }

  return {
    plugin,
    plan,
    problem,
    working,
    applying,
    done,
    focus,
    unfolded,
    groups,
    rows,
    inFocus,
    ready,
    open,
    choose,
    decide,
    keepAll,
    nextOpen,
    move,
    fold,
    apply,
    goBack,
  }
})
