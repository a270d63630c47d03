<script setup lang="ts">
import { LENIENT, formatOf, LineIndex, locate, parse, parsePointer } from '@pasticcio/core'
import type { ApplyRow, Option, UpdatePlan } from '~/utils/types'
import { NEEDS_EYES, brief, choiceWords, groupPlan, sentence, type PlanRow } from '~/utils/plan-groups'

/** What an update makes of the settings: every decision, before anything is touched. */
const route = useRoute()
const server = useServerStore()
const session = useSessionStore()
const plan = shallowRef<UpdatePlan | null>(null)
const problem = ref('')
const working = ref(false)
const applying = ref(false)
const done = ref<ApplyRow | null>(null)
const focus = ref('')
const tab = ref<'plan' | 'files' | 'changes'>('plan')
const unfolded = ref(new Set<string>())
const plugin = computed(() => String(route.params['plugin'] ?? ''))
const waiting = computed(() => (server.overview?.plugins ?? []).filter((item) => item.update))
const groups = computed(() => (plan.value ? groupPlan(plan.value) : []))
const idOf = (row: PlanRow): string => `${row.path}#${row.decision.id}`
const rows = computed(() => groups.value.flatMap((group) => (group.folded && !unfolded.value.has(group.id) ? [] : group.rows)))
const inFocus = computed(() => rows.value.find((row) => idOf(row) === focus.value) ?? null)
const count = (...outcomes: string[]): number =>
  groups.value.flatMap((group) => group.rows).filter((row) => outcomes.includes(row.decision.outcome)).length
const yours = computed(
  () =>
    groups.value
      .flatMap((group) => group.rows)
      .filter((row) => row.decision.mine !== undefined && !['took-update', 'dropped', 'stamp'].includes(row.decision.outcome)).length,
)
const short = (version: string): string => version.replace(/\.0$/, '')

watch([plugin, () => server.overview?.plugins.length], () => void load(), { immediate: true })
async function load(): Promise<void> {
  if (!plugin.value) {
    if (waiting.value[0] && !done.value) await navigateTo(`/s/${server.slug}/updates/${waiting.value[0].name}`, { replace: true })
    return
  }
  const packageId = Number(route.query['package'] ?? waiting.value.find((item) => item.name === plugin.value)?.update?.packageId)
  if (!packageId || done.value) return
  try {
    plan.value = await callApi<UpdatePlan>(`${server.base}/updates/${encodeURIComponent(plugin.value)}/plan?package=${packageId}`)
    problem.value = ''
    if (!rows.value.some((row) => idOf(row) === focus.value)) focus.value = rows.value[0] ? idOf(rows.value[0]) : ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
async function choose(row: PlanRow, option: Option | null): Promise<void> {
  if (!plan.value || !session.mayEdit) return
  working.value = true
  try {
    plan.value = await callApi<UpdatePlan>(`${server.base}/updates/${encodeURIComponent(plugin.value)}/choice`, {
      method: 'PUT',
      body: {
        packageId: plan.value.packageId,
        path: row.path,
        decision: row.decision.id,
        choice: option ? { id: option.id, ...(option.id === 'value' ? { value: option.value } : {}) } : null,
      },
    })
    problem.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    working.value = false
  }
}
/** The option that stands unless somebody chooses otherwise. */
function standing(row: PlanRow): string {
  const { decision } = row
  if (decision.chosen) return decision.chosen
  const ids = (decision.options ?? []).map((option) => option.id)
  // the same amount in the new unit is nearly always what is meant, so it is what Enter takes
  if (row.open && ids.includes('converted')) return 'converted'
  const same = (decision.options ?? []).find((option) => JSON.stringify(option.value) === JSON.stringify(decision.result))
  return same?.id ?? ids[0] ?? ''
}
async function decide(): Promise<void> {
  const row = inFocus.value
  const option = row?.decision.options?.find((item) => item.id === standing(row))
  if (row?.open) await choose(row, option ?? null)
  nextOpen()
}
/** Takes what is shown, but for those that need a look of their own. */
async function keepAll(): Promise<void> {
  for (const row of groups.value[0]?.rows.filter((item) => item.open && !NEEDS_EYES.includes(item.decision.outcome)) ?? []) {
    const option = row.decision.options?.find((item) => item.id === standing(row))
    if (option) await choose(row, option)
  }
}
function nextOpen(): void {
  const at = rows.value.findIndex((row) => idOf(row) === focus.value)
  const next = [...rows.value.slice(at + 1), ...rows.value.slice(0, at + 1)].find((row) => row.open)
  if (next) focus.value = idOf(next)
}
function move(by: number): void {
  const next = rows.value[rows.value.findIndex((row) => idOf(row) === focus.value) + by]
  if (next) focus.value = idOf(next)
}
async function apply(): Promise<void> {
  if (!plan.value || plan.value.open > 0 || applying.value || !session.mayEdit) return
  applying.value = true
  problem.value = ''
  try {
    done.value = await callApi<ApplyRow>(`${server.base}/updates/${encodeURIComponent(plugin.value)}/apply`, {
      body: { packageId: plan.value.packageId },
    })
    server.complained = done.value.status === 'complained' ? done.value : null
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    applying.value = false
    await server.refresh()
  }
}
async function goBack(): Promise<void> {
  if (!done.value) return
  await server.undo(done.value.id)
  done.value = null
  await load()
}
/** Lines of the new file around the setting in focus. */
const excerpt = computed(() => {
  const row = inFocus.value
  const file = plan.value?.files.find((item) => item.path === row?.path)
  const format = file && formatOf(file.path)
  if (!row || !file || !format || file.result === null) return null
  const document = parse(file.result, format, LENIENT)
  const entry = locate(document, parsePointer(row.decision.path) ?? [])?.entry
  if (!entry) return null
  const index = new LineIndex(file.result)
  const from = Math.max(1, index.position(entry.lead.find((comment) => comment.attached)?.from ?? entry.from).line - 1)
  const here = index.position(entry.from).line
  const lines = file.result.split(/\r?\n/)
  return {
    total: lines.length,
    lines: lines.slice(from - 1, Math.min(here + 3, from + 8)).map((text, i) => ({ no: from + i, text, here: from + i === here })),
  }
})
watch(focus, () => void nextTick(() => document.querySelector('.cr.focus')?.scrollIntoView({ block: 'nearest' })))
useKeys({
  j: () => move(1),
  k: () => move(-1),
  ArrowDown: () => move(1),
  ArrowUp: () => move(-1),
  '.': nextOpen,
  Enter: () => void decide(),
  'ctrl+Enter': () => void apply(),
  ...Object.fromEntries(
    [1, 2, 3, 4].map((n) => [
      String(n),
      () => {
        const option = inFocus.value?.decision.options?.[n - 1]
        if (inFocus.value && option) void choose(inFocus.value, option)
      },
    ]),
  ),
})
</script>

<template>
  <div class="page">
    <section class="bench">
      <template v-if="done">
        <div class="titleline">
          <div class="name">
            <h1>{{ done.title }}</h1>
          </div>
        </div>
        <div class="state">
          <h2>{{ done.status === 'verified' ? 'Updated, and the server took it' : 'The server complained' }}</h2>
          <p :class="done.status === 'verified' ? 'good' : 'problem'" role="status">
            {{
              done.outcome.message ||
              `${plan?.plugin} ${short(plan?.to ?? '')} is loaded with your settings carried forward. The files and the package as they were are in History.`
            }}
          </p>
          <div class="acts">
            <button class="btn" :disabled="!session.mayEdit" @click="goBack">
              <BaseIcon name="back" /> Go back to {{ short(plan?.from ?? '') }}</button
            ><NuxtLink class="btn" :to="`/s/${server.slug}/history`">History</NuxtLink>
          </div>
          <ul class="told">
            <li v-for="line in done.outcome.lines" :key="line">{{ line }}</li>
          </ul>
        </div>
      </template>
      <template v-else-if="plan">
        <div class="titleline">
          <div class="name">
            <h1>{{ plan.plugin }} {{ short(plan.from) }} <BaseIcon name="arrow" /> {{ short(plan.to) }}</h1>
            <span class="tally">what becomes of your {{ yours }} settings</span>
          </div>
          <span class="seg push" role="radiogroup" aria-label="View of the update"
            ><button role="radio" :aria-checked="tab === 'plan'" @click="tab = 'plan'">Plan</button
            ><button role="radio" :aria-checked="tab === 'files'" @click="tab = 'files'">Files {{ plan.files.length }}</button
            ><button role="radio" :aria-checked="tab === 'changes'" @click="tab = 'changes'">Changelog</button></span
          >
        </div>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <p v-for="item in plan.problems" :key="item" class="problem">{{ item }}</p>
        <p v-if="plan.staged.length > 0" class="problem">
          {{ plan.staged[0]!.split('/').pop() }} has changes in the tray. Apply or discard them first, so that they are carried too.
        </p>
        <p v-if="plan.files.some((item) => !item.baseline)" class="problem">
          There is no factory copy of the old version, so everything that differs from the update is taken for yours.
        </p>
        <template v-if="tab === 'plan'">
          <div class="sums">
            <div :class="{ need: plan.open > 0 }">
              <b>{{ plan.open }}<FindingMark :kind="plan.open > 0 ? 'decision' : 'done'" /></b><span>need your decision</span>
            </div>
            <div>
              <b>{{ count('default-moved', 'kind-changed', 'scale-changed') }}<LayerMark factory yours update /></b
              ><span>changed under you</span>
            </div>
            <div>
              <b>{{ count('moved') }}<BaseIcon name="arrow" /></b><span>renamed, moved along</span>
            </div>
            <div>
              <b>{{ count('added-by-update', 'offered') }}<LayerMark update /></b><span>new settings</span>
            </div>
            <div>
              <b>{{ count('kept-mine', 'kept-addition', 'same-change', 'stays-removed') }}<LayerMark factory yours /></b
              ><span>kept as yours</span>
            </div>
          </div>
          <div class="cols">
            <span /><span>setting</span><span><i class="bar f" />factory {{ short(plan.from) }}</span
            ><span><i class="bar y" />yours</span><span><i class="bar u" />factory {{ short(plan.to) }}</span
            ><span /><span>in the new file</span>
          </div>
          <div class="scroll" role="grid" aria-label="Carry-forward plan">
            <template v-for="group in groups" :key="group.id">
              <div class="grp" role="row">
                <button
                  v-if="group.folded"
                  :aria-expanded="unfolded.has(group.id)"
                  class="fold"
                  @click="unfolded.has(group.id) ? unfolded.delete(group.id) : unfolded.add(group.id)"
                >
                  <BaseIcon :name="unfolded.has(group.id) ? 'down' : 'right'" />
                </button>
                <h2>{{ group.title }}</h2>
                <span class="ct"
                  >{{ group.rows.length
                  }}<template v-if="group.id === 'decide'">, {{ group.rows.filter((row) => row.decided).length }} made</template></span
                >
                <span class="r"
                  ><template v-if="group.id === 'decide'"
                    ><button
                      v-if="group.rows.some((row) => row.open && !NEEDS_EYES.includes(row.decision.outcome))"
                      class="act"
                      :disabled="!session.mayEdit || working"
                      @click="keepAll"
                    >
                      keep the clear ones as shown
                    </button>
                    next <kbd>.</kbd></template
                  ><template v-else>{{ group.aside }}</template></span
                >
              </div>
              <template v-if="!group.folded || unfolded.has(group.id)">
                <button
                  v-for="row in group.rows"
                  :key="idOf(row)"
                  class="cr"
                  role="row"
                  :class="{ dec: group.id === 'decide' || group.id === 'told', focus: focus === idOf(row) }"
                  :aria-selected="focus === idOf(row)"
                  @click="focus = idOf(row)"
                  @focus="focus = idOf(row)"
                >
                  <FindingMark v-if="row.open" class="mk" kind="decision" /><FindingMark
                    v-else-if="row.decided"
                    class="mk"
                    kind="done"
                  /><LayerMark
                    v-else
                    class="mk"
                    :factory="row.decision.factory !== undefined"
                    :yours="row.decision.mine !== undefined && row.decision.outcome !== 'took-update'"
                    :update="
                      row.decision.update !== undefined && JSON.stringify(row.decision.update) !== JSON.stringify(row.decision.factory)
                    "
                  />
                  <span class="lb cut">{{ row.decision.comment ? 'Your comment' : row.label }}</span>
                  <span class="c f cut">{{ brief(row.decision.factory) }}</span><span class="c y cut">{{ brief(row.decision.mine) }}</span
                  ><span class="c u cut">{{
                    row.decision.update === undefined ? (row.decision.comment ? '–' : 'gone') : brief(row.decision.update)
                  }}</span>
                  <BaseIcon name="arrow" />
                  <span class="res cut"
                    ><template v-if="row.decision.result !== undefined"
                      ><i class="bar" :class="JSON.stringify(row.decision.result) === JSON.stringify(row.decision.update) ? 'u' : 'y'" />
                      {{ row.decision.path.slice(1).split('/').slice(-2).join('.') }}: {{ brief(row.decision.result) }}</template
                    ><span v-else class="say muted">not in the new file</span></span
                  >
                  <span v-if="group.id === 'decide' || group.id === 'told'" class="why cut"
                    >{{ sentence(row.decision.reason)
                    }}<template v-if="row.decision.confidence">, {{ Math.round(row.decision.confidence * 100) }} % sure</template></span
                  >
                </button>
              </template>
            </template>
            <p class="rest">
              Everything else is as shipped in both versions and follows {{ short(plan.to) }}, with its new comments and order.
            </p>
          </div>
        </template>
        <div v-else-if="tab === 'files'" class="scroll">
          <section v-for="item in plan.files" :key="item.path">
            <div class="grp">
              <h2>{{ item.path.split('/').pop() }}</h2>
              <span class="ct">today and after</span>
            </div>
            <TextDiff :before="item.mine ?? ''" :after="item.result ?? ''" />
          </section>
        </div>
        <div v-else class="scroll">
          <p class="changelog">{{ plan.changes || 'The author wrote no changelog.' }}</p>
        </div>
      </template>
      <div v-else-if="problem" class="state">
        <h2>This update cannot be planned</h2>
        <p role="alert">{{ problem }}</p>
        <div class="acts"><button class="btn" @click="load">Try again</button></div>
      </div>
      <div v-else-if="server.overview && waiting.length === 0" class="state">
        <h2>Everything is up to date</h2>
        <p>When the pantry has a newer version of a plugin, its plan appears here: every decision, before anything is touched.</p>
        <div class="acts"><NuxtLink class="btn" :to="`/s/${server.slug}/plugins`">Go to the pantry</NuxtLink></div>
      </div>
      <div v-else class="skeleton" aria-busy="true">
        <div class="progress" />
        <i v-for="n in 10" :key="n" />
      </div>
    </section>
    <aside class="margin" aria-label="Decision">
      <div class="titleline side"><h2>In the margin</h2></div>
      <div v-if="plan && !done" class="body">
        <dl class="facts before">
          <dt>Package</dt>
          <dd>{{ plan.plugin.toLowerCase() }}-{{ short(plan.to) }}, in the pantry</dd>
          <dt>Asks for</dt>
          <dd v-for="item in plan.requires" :key="item.name">
            {{ item.name }} {{ item.range }}, you have {{ item.have ?? 'none' }} <FindingMark :kind="item.fits ? 'done' : 'error'" />
          </dd>
          <dd v-if="plan.requires.length === 0">nothing</dd>
          <dt>Writes</dt>
          <dd>
            {{
              plan.files
                .filter((item) => item.result !== item.mine)
                .map((item) => item.path.split('/').pop())
                .join(', ') || 'no settings'
            }}
          </dd>
          <dt>Backup</dt>
          <dd>these files and the {{ short(plan.from) }} package, first</dd>
        </dl>
        <section v-if="inFocus" class="note focus-note">
          <header>
            <h3 class="cut">{{ inFocus.decision.comment ? 'Your comment' : inFocus.label }}</h3>
            <span class="push muted">{{ inFocus.file }}</span>
          </header>
          <p class="comment">{{ sentence(inFocus.decision.reason) }}.</p>
          <p v-if="inFocus.decision.comment" class="mono-block">{{ inFocus.decision.mine }}</p>
          <template v-if="(inFocus.decision.options?.length ?? 0) > 1">
            <div class="h">What shall it be?</div>
            <div class="choices" role="radiogroup">
              <label v-for="option in inFocus.decision.options" :key="option.id" :class="{ on: standing(inFocus) === option.id }">
                <input
                  type="radio"
                  name="choice"
                  :checked="standing(inFocus) === option.id"
                  :disabled="!session.mayEdit || working"
                  @change="choose(inFocus, option)"
                />
                <span
                  ><b>{{ choiceWords(option.id)[0] }}</b
                  ><code v-if="option.value !== undefined">{{ brief(option.value) }}</code
                  >{{ choiceWords(option.id)[1] }}</span
                >
              </label>
            </div>
            <div class="acts">
              <button v-if="inFocus.open" class="btn" :disabled="!session.mayEdit || working" @click="decide">
                Decide and go on <kbd>Enter</kbd></button
              ><button v-else-if="inFocus.decided" class="btn quiet" :disabled="!session.mayEdit || working" @click="choose(inFocus, null)">
                Take the decision back
              </button>
            </div>
          </template>
          <div v-else-if="inFocus.open" class="acts">
            <button class="btn" :disabled="!session.mayEdit" @click="choose(inFocus, { id: 'drop' })">Seen, let it go</button>
          </div>
          <template v-if="excerpt">
            <div class="h">
              In the new {{ inFocus.file }} <span class="push">of {{ excerpt.total }} lines</span>
            </div>
            <ol class="lines">
              <li v-for="line in excerpt.lines" :key="line.no" :class="{ here: line.here }">
                <span class="no">{{ line.no }}</span><span :class="{ cm: /^\s*#/.test(line.text) }">{{ line.text }}</span>
              </li>
            </ol>
          </template>
        </section>
      </div>
    </aside>
    <Teleport to="#page-tray">
      <div v-if="plan && !done" class="tray">
        <span class="lead"><i class="chg" /> {{ plan.plugin }} {{ short(plan.to) }}</span
        ><span class="v" />
        <span v-if="plan.open > 0" class="err"
          ><FindingMark kind="decision" /> {{ plan.open }} {{ plan.open === 1 ? 'decision' : 'decisions' }} open</span
        ><span v-else class="ok"><FindingMark kind="done" /> every decision is made</span><span class="v" />
        <span>then a restart of {{ server.slug }}</span>
        <div v-if="applying" class="progress wide" role="progressbar" aria-label="Updating" />
        <span class="push" />
        <button
          class="btn go"
          :disabled="plan.open > 0 || plan.problems.length > 0 || plan.staged.length > 0 || applying || !session.mayEdit"
          @click="apply"
        >
          Apply the update <kbd>Ctrl Enter</kbd>
        </button>
      </div>
    </Teleport>
  </div>
</template>

<style scoped>
.sums {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  height: 60px;
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.sums > div {
  padding: 6px 0 0 16px;
  border-left: 1px solid var(--hairline);
}
.sums > div:first-child {
  border-left: 0;
}
.sums b {
  font: var(--t-figure);
  display: flex;
  align-items: center;
  gap: 8px;
}
.sums > div > span {
  font: var(--t-fine);
  color: var(--muted);
  display: block;
}
.sums .need b,
.sums .need > span {
  color: var(--error);
}
.cols,
.cr {
  display: grid;
  grid-template-columns: 40px minmax(130px, 154px) minmax(60px, 0.8fr) minmax(70px, 1fr) minmax(70px, 0.9fr) 20px minmax(0, 1.7fr);
  align-items: center;
  padding-right: 12px;
}
.cols {
  height: 24px;
  flex: none;
  font: var(--t-fine);
  color: var(--muted);
  border-bottom: 1px solid var(--hairline);
}
.cols span {
  display: flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
.cr {
  height: 24px;
  position: relative;
  width: 100%;
}
.cr > * {
  min-width: 0;
}
.cr .mk {
  margin-left: 16px;
}
.cr .c {
  font: 400 12px/20px var(--mono);
  padding-right: 8px;
}
.cr .c.f {
  color: var(--muted);
}
.cr .c.y {
  font-weight: 600;
}
.cr .c.u {
  color: var(--update);
}
.cr .res {
  font: 400 12px/20px var(--mono);
}
.say {
  font: var(--t-small);
}
.cr.dec {
  height: 40px;
  grid-template-rows: 22px 18px;
}
.cr .why {
  grid-column: 2 / -1;
  font: var(--t-fine);
  color: var(--muted);
  margin-top: -3px;
}
.cr.focus {
  background: var(--semolina);
  box-shadow:
    inset 0 1px 0 var(--crust),
    inset 0 -1px 0 var(--hairline);
  outline: 0;
}
.cr.focus .lb {
  font-weight: 700;
}
.fold {
  align-self: center;
  width: 16px;
}
.rest {
  font: var(--t-fine);
  color: var(--muted);
  padding: 8px 16px 24px;
}
.facts.before {
  padding: 12px 0;
  margin: 0;
  grid-template-columns: 56px 1fr;
  gap: 4px 8px;
  border-bottom: 1px solid var(--crust);
}
.facts.before dd {
  grid-column: 2;
}
.focus-note header {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding-top: 6px;
  font: var(--t-fine);
}
.mono-block {
  font: 400 12px/18px var(--mono);
  white-space: pre-wrap;
  margin-top: 6px;
}
.lines {
  margin-top: 4px;
  border-top: 1px solid var(--hairline);
  border-bottom: 1px solid var(--hairline);
  padding: 4px 0;
  font: 400 12px/18px var(--mono);
}
.lines li {
  display: grid;
  grid-template-columns: 34px 1fr;
  white-space: pre;
  overflow: hidden;
}
.lines .no {
  color: var(--muted);
  font-size: 11px;
  text-align: right;
  padding-right: 10px;
}
.lines .cm {
  color: var(--muted);
}
.lines .here {
  font-weight: 600;
  background: var(--wash-yours);
}
.changelog {
  padding: 16px;
  white-space: pre-line;
  max-width: 720px;
}
.told {
  font: 400 11px/16px var(--mono);
  color: var(--muted);
  margin-top: 16px;
}
.wide {
  width: 160px;
}
</style>
