<script setup lang="ts">
import type { ChangedFile, HistoryRow, ShownCommand } from '~/utils/types'

/** What was done to this server, newest first; each change can be looked at and taken back. */
const server = useServerStore()
const session = useSessionStore()
const route = useRoute()
const rows = ref<HistoryRow[] | null>(null)
const chosen = ref<(HistoryRow & { files: readonly string[] }) | null>(null)
const detail = ref<{ files: ChangedFile[]; steps: { step: string; detail: string; at: string }[]; commands: ShownCommand[] } | null>(null)
const problem = ref('')
const working = ref(false)
const STATUS = {
  verified: 'verified',
  written: 'written',
  complained: 'complained',
  failed: 'failed',
  undone: 'taken back',
  running: 'working',
} as const

const STATES = { waiting: 'not sent', sent: 'sent, with no answer', done: 'done', refused: 'refused' } as const

async function load(): Promise<void> {
  try {
    rows.value = await callApi<HistoryRow[]>(`${server.base}/history`)
    const wanted = rows.value.find(({ id }) => String(id) === route.query['change']) ?? rows.value[0]
    if (!chosen.value && wanted) await choose(wanted)
  } catch (error) {
    problem.value = wordsOf(error)
    rows.value ??= []
  }
}
onMounted(load)
async function choose(row: HistoryRow): Promise<void> {
  chosen.value = row
  detail.value = null
  detail.value = await callApi(`${server.base}/history/${row.id}`)
}
async function undo(): Promise<void> {
  if (!chosen.value) return
  working.value = true
  problem.value = ''
  try {
    await server.undo(chosen.value.id)
    chosen.value = null
    await load()
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    working.value = false
  }
}
async function pin(): Promise<void> {
  if (!chosen.value) return
  const { id, pinned } = chosen.value
  problem.value = ''
  try {
    await callApi(`${server.base}/history/${id}/pin`, { method: 'PUT', body: { pinned: !pinned } })
    await load()
    chosen.value = rows.value?.find((row) => row.id === id) ?? null
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
function move(by: number): void {
  const at = rows.value?.findIndex((row) => row.id === chosen.value?.id) ?? -1
  const next = rows.value?.[at + by]
  if (next) void choose(next)
}
useKeys({ j: () => move(1), k: () => move(-1) })
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>History</h1>
          <span class="tally">what was done to {{ server.slug }}</span>
        </div>
      </div>
      <div class="scroll" tabindex="0">
        <Message v-if="problem" severity="error">{{ problem }}</Message>
        <div v-if="rows === null" class="skeleton" aria-busy="true"><i v-for="n in 6" :key="n" /></div>
        <div v-else-if="rows.length === 0" class="state">
          <h2>Nothing was changed yet</h2>
          <p>Installing, applying settings and updating are kept here, with the files as they were before.</p>
        </div>
        <ul v-else class="rows list">
          <li v-for="row in rows" :key="row.id">
            <button :aria-pressed="chosen?.id === row.id" @click="choose(row)">
              <FindingMark
                :kind="row.status === 'verified' || row.status === 'written' ? 'done' : row.status === 'undone' ? 'note' : 'error'"
              />
              <span class="cut" :class="{ b: chosen?.id === row.id, gone: row.status === 'undone' }">{{ row.title }}</span><span
                class="muted"
                >{{ STATUS[row.status] }}</span
              ><span class="muted">{{ row.startedBy }}</span
              ><span class="muted">{{ momentOf(row.startedAt, { seconds: true }) }}</span>
            </button>
          </li>
        </ul>
        <template v-if="chosen && detail">
          <section v-for="item in detail.files" :key="item.path">
            <div class="grp">
              <h2>{{ item.path.split('/').pop() }}</h2>
              <code class="muted">{{ item.path }}</code>
            </div>
            <TextDiff v-if="item.text" :before="item.before ?? ''" :after="item.after ?? ''" />
            <p v-else class="pack">The file was {{ !item.stood ? 'put there' : item.stands ? 'replaced' : 'taken away' }}.</p>
          </section>
          <section v-if="detail.commands?.length > 0">
            <div class="grp"><h2>Said to the console</h2></div>
            <ul class="pack">
              <li v-for="{ command, state, reason } in detail.commands" :key="command">
                <FindingMark :kind="state === 'done' ? 'done' : 'warning'" /> <code>{{ command }}</code>
                <span class="muted">{{ reason || STATES[state] }}</span>
              </li>
            </ul>
          </section>
        </template>
      </div>
    </section>
    <aside class="margin" aria-label="About this change">
      <div class="titleline side"><h2>About this change</h2></div>
      <div v-if="chosen" class="body note" tabindex="0" role="group" aria-label="What this change did">
        <h3>{{ chosen.title }}</h3>
        <dl class="facts">
          <dt>By</dt>
          <dd>{{ chosen.startedBy }}</dd>
          <dt>When</dt>
          <dd>{{ momentOf(chosen.startedAt, { seconds: true }) }}</dd>
          <dt>State</dt>
          <dd>{{ STATUS[chosen.status] }}</dd>
        </dl>
        <p v-if="chosen.outcome.message" :class="chosen.status === 'complained' || chosen.status === 'failed' ? 'problem' : 'good'">
          {{ chosen.outcome.message }}
        </p>
        <div class="acts">
          <button
            class="btn"
            :disabled="!session.mayEdit || working || !['verified', 'written', 'complained'].includes(chosen.status)"
            @click="undo"
          >
            <BaseIcon name="back" /> Go back to before this
          </button>
          <button class="btn quiet" :aria-pressed="chosen.pinned" :disabled="!session.mayEdit" @click="pin">
            {{ chosen.pinned ? 'Kept for good' : 'Keep for good' }}
          </button>
        </div>
        <BaseProgress v-if="working" label="Going back" />
        <template v-if="detail">
          <div class="h">Steps</div>
          <ol class="told">
            <li v-for="(step, i) in detail.steps" :key="i">{{ step.at.slice(11, 19) }} {{ step.step }} {{ step.detail }}</li>
          </ol>
          <div v-if="chosen.outcome.lines.length > 0" class="h">Console</div>
          <ul class="told">
            <li v-for="line in chosen.outcome.lines" :key="line">{{ line }}</li>
          </ul>
        </template>
      </div>
    </aside>
  </div>
</template>

<style scoped>
.list button {
  width: 100%;
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) 80px 70px 130px;
  gap: 10px;
  align-items: center;
  min-height: 30px;
  padding: 0 12px 0 16px;
  font: var(--t-small);
}
.list button[aria-pressed='true'] {
  background: var(--semolina);
  box-shadow: inset 3px 0 0 var(--crust);
}
.list button:hover {
  background: var(--semolina);
}
.gone {
  text-decoration: line-through;
  color: var(--muted);
}
.pack {
  padding: 8px 16px;
  font: var(--t-small);
}
.note h3 {
  padding-top: 8px;
}
.told {
  font: 400 11px/16px var(--mono);
  overflow-wrap: anywhere;
  color: var(--muted);
}
</style>
