import { defineStore } from 'pinia'
import { goalPrice, thingsOf, type Economy, type Outlook, type Plan } from '@pasticcio/core'
import type { EconomyVersion } from '~/stores/economy'
import { beginLives, type Lives } from '~/workers/economy-lives'

export interface Lived {
  readonly version: EconomyVersion['version']
  readonly outlook: Outlook
}

/** Where the days begin; each run goes on from one more. */
const SEED = 7700
/** Players times runs that are lived in about a second, and between how many runs lie. */
const LIVES = 4000
const [FEWEST, MOST] = [5, 40]
/** Typing rests so long before days are lived anew. */
const REST_MS = 300

/** Days that are lived in a worker, from several seeds: what today's numbers, the drafts' and the updates' come to. */
export const useEconomyDaysStore = defineStore('economy-days', () => {
  const economy = useEconomyStore()
  const days = ref(30)
  const withUpdate = ref(false)
  const lived = shallowRef<readonly Lived[]>([])
  const done = ref(0)
  const total = ref(0)
  const isLiving = ref(false)
  /** Whether what is shown is of other numbers than those that are here now. */
  const isStale = ref(false)
  const problem = ref('')
  let lives: Lives | null = null

  const runs = computed(() => {
    const players = economy.kinds.reduce((sum, kind) => sum + kind.players.value, 0)
    return Math.min(MOST, Math.max(FEWEST, Math.round(LIVES / Math.max(1, players))))
  })
  const versions = computed(() => economy.versions.filter(({ version }) => version !== 'update' || withUpdate.value))

  /** Lives them; what went on before ends. */
  async function live(): Promise<void> {
    stop()
    problem.value = ''
    const asked = versions.value
    const plans = asked.map((one) => planOf(one.economy))
    isLiving.value = true
    total.value = plans.length * runs.value
    const own = (lives = beginLives(plans, runs.value, (count) => lives === own && (done.value = count)))
    try {
      const outlooks = await own.outlooks
      if (lives !== own) return
      lived.value = outlooks.map((outlook, i) => ({ version: asked[i]!.version, outlook }))
      isStale.value = false
    } catch (error) {
      if (lives === own) problem.value = wordsOf(error)
    }
    if (lives === own) stop()
  }
  /** Each version has its own prices of what is saved for. */
  function planOf(version: Economy): Plan {
    const things = thingsOf(version)
    const goals = economy.goals.flatMap((goal, i) => {
      const price = goalPrice(things, goal)
      return price === null ? [] : [{ name: String(i), price }]
    })
    // what nobody does costs time in each of many days
    const isDone = (activity: string): boolean => economy.people.some(({ rates }) => (rates[activity] ?? 0) > 0)
    const streams = version.streams.filter(({ activity, isOnce, isShare }) => isOnce || isShare || isDone(activity))
    return { streams, kinds: economy.people, goals, days: days.value, seed: SEED }
  }
  /** Ends what goes on; what was lived before stays. */
  function stop(): void {
    lives?.end()
    lives = null
    isLiving.value = false
    done.value = 0
  }
  watch(
    () => [versions.value, economy.people, economy.goals, days.value],
    () => (isStale.value = true),
  )
  watchDebounced([versions, () => economy.people, () => economy.goals, days], () => lived.value.length > 0 && live(), { debounce: REST_MS })

  return { days, withUpdate, lived, done, total, isLiving, isStale, problem, runs, versions, live, stop }
})
