<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'

/** What an update makes of the settings: every decision, before anything is touched. */
const route = useRoute()
const server = useServerStore()
const plan = usePlanStore()
type Tab = 'plan' | 'files' | 'changes'
const tab = ref<Tab>('plan')
const name = computed(() => String(route.params['plugin'] ?? ''))
const waiting = computed(() => (server.overview?.plugins ?? []).filter((item) => item.update))
const tabs = computed(() => [
  { id: 'plan' as const, name: 'Plan' },
  { id: 'files' as const, name: `Files ${plan.plan?.files.length ?? 0}` },
  { id: 'changes' as const, name: 'Changelog' },
])
const THEIRS = ['took-update', 'dropped', 'stamp']
const yours = computed(
  () =>
    plan.groups.flatMap((group) => group.rows).filter(({ decision }) => decision.mine !== undefined && !THEIRS.includes(decision.outcome))
      .length,
)

async function load(): Promise<void> {
  if (name.value === '') {
    if (waiting.value[0] && !plan.done) await navigateTo(`/s/${server.slug}/updates/${waiting.value[0].name}`, { replace: true })
    else if (!plan.done) await plan.open('', null)
    return
  }
  const packageId = Number(route.query['package'] ?? waiting.value.find((item) => item.name === name.value)?.update?.packageId)
  if (packageId || plan.plugin !== name.value) await plan.open(name.value, packageId || null)
}
// what came of another visit is not of this one
void plan.open('', null)
watch([name, () => server.overview?.plugins.length], load, { immediate: true })

function chooseNumber(n: number): void {
  const row = plan.inFocus
  const option = row?.decision.options?.[n - 1]
  if (row && option) void plan.choose(row, option)
}
useKeys({
  j: () => plan.move(1),
  k: () => plan.move(-1),
  ArrowDown: () => plan.move(1),
  ArrowUp: () => plan.move(-1),
  '.': plan.nextOpen,
  Enter: () => void plan.decide(),
  'ctrl+Enter': () => void plan.apply(),
  ...Object.fromEntries([1, 2, 3, 4].map((n) => [String(n), () => chooseNumber(n)])),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <UpdateDone v-if="plan.done" :done="plan.done" />
      <template v-else-if="plan.plan">
        <div class="titleline">
          <div class="name">
            <h1>{{ plan.plan.plugin }} {{ shortVersion(plan.plan.from) }} <BaseIcon name="arrow" /> {{ shortVersion(plan.plan.to) }}</h1>
            <span class="tally">what becomes of your {{ yours }} settings</span>
          </div>
          <BaseSegments v-model="tab" class="push" :options="tabs" label="View of the update" />
        </div>
        <PlanProblems :plan="plan.plan" :problem="plan.problem" />
        <PlanGrid v-if="tab === 'plan'" />
        <div v-else-if="tab === 'files'" class="scroll" tabindex="0">
          <section v-for="item in plan.plan.files" :key="item.path">
            <div class="grp">
              <h2>{{ item.path.split('/').pop() }}</h2>
              <span class="ct">today and after</span>
            </div>
            <TextDiff :before="item.mine ?? ''" :after="item.result ?? ''" />
          </section>
        </div>
        <div v-else class="scroll" tabindex="0">
          <p class="changelog">{{ plan.plan.changes || 'The author wrote no changelog.' }}</p>
        </div>
      </template>
      <div v-else-if="plan.problem" class="state">
        <h2>This update cannot be planned</h2>
        <p role="alert">{{ plan.problem }}</p>
        <div class="acts"><button class="btn" @click="load">Try again</button></div>
      </div>
      <div v-else-if="server.overview && waiting.length === 0" class="state">
        <h2>Everything is up to date</h2>
        <p>When the pantry has a newer version of a plugin, its plan appears here: every decision, before anything is touched.</p>
        <div class="acts"><NuxtLink class="btn" :to="`/s/${server.slug}/plugins`">Go to the pantry</NuxtLink></div>
      </div>
      <div v-else class="skeleton" aria-busy="true">
        <BaseProgress label="Loading" />
        <i v-for="n in 10" :key="n" />
      </div>
    </section>
    <aside class="margin" aria-label="Decision">
      <div class="titleline side"><h2>In the margin</h2></div>
      <div v-if="plan.plan && !plan.done" class="body">
        <PackageFacts :plan="plan.plan" />
        <DecisionNote v-if="plan.inFocus" :row="plan.inFocus" />
      </div>
    </aside>
    <Teleport to="#page-tray"><PlanTray /></Teleport>
  </div>
</template>

<style scoped>
.page {
  --plan-columns: 40px minmax(130px, 154px) minmax(60px, 0.8fr) minmax(70px, 1fr) minmax(70px, 0.9fr) 20px minmax(0, 1.7fr);
}
.changelog {
  padding: 16px;
  white-space: pre-line;
  max-width: 720px;
}
</style>
