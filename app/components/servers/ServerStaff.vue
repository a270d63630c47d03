<script setup lang="ts">
import { SLOW, bestOf } from '~/charts/stave'
import type { TimeLine } from '~/utils/time-line'
import type { HouseServer, Load } from '~/utils/types'

/** One server among all: how it runs, what waits on it, and its picture. */
const props = defineProps<{ server: HouseServer; load: Load | null; lines: readonly TimeLine[]; view: 'picture' | 'table' }>()
const house = useHouseStore()
const session = useSessionStore()
const home = computed(() => `/s/${props.server.slug}`)
const isRunning = computed(() => props.server.status === 'running')
const marks = computed(() => house.marksOf(props.server.slug))
const about = computed(() => props.server.about)
const state = computed(() => {
  const { status, since } = props.server
  const words = STATUS_WORDS[status]
  return since ? `${words} since ${shortTime(Date.parse(since) / 1000)}` : words
})
const bad = computed(() => [
  ...(about.value?.failed.length ? [`${about.value.failed.length} failed`] : []),
  ...(about.value?.silent.length ? [`${about.value.silent.length} silent`] : []),
])
const plugins = computed(() => {
  const count = about.value?.plugins ?? 0
  if (bad.value.length > 0) return `${count}, `
  return isRunning.value && count > 0 ? `${count}, all loaded` : String(count)
})
const isSlow = computed(() => props.load !== null && props.server.ticks !== null && props.server.ticks < SLOW * bestOf(props.load))
</script>

<template>
  <section
    class="srv"
    :class="{ foc: house.focus === server.slug }"
    :aria-label="server.slug"
    @click="house.look(server.slug, house.focus === server.slug ? house.letter : '')"
  >
    <div class="sh">
      <LayerMark factory :yours="(about?.yours ?? 0) > 0" :update="(about?.updates.length ?? 0) > 0" />
      <h2 class="cut">
        <NuxtLink :to="`${home}/plugins`">{{ server.slug }}</NuxtLink>
      </h2>
      <span class="stt"
        ><i class="dot" :class="server.status" /> {{ state
        }}<span class="fam">{{ server.family }}, game {{ about?.game ?? '?' }}</span></span
      >
      <span v-if="isRunning && server.players !== null" class="r"
        ><b>{{ server.players }}</b> players&ensp;<b :class="{ wrn: isSlow }">{{ server.ticks?.toFixed(1) }}</b> ticks/s</span
      >
      <button
        v-else-if="session.mayEdit && (server.status === 'stopped' || (server.status === 'failed' && server.problem === ''))"
        class="act r"
        @click.stop="house.control(server.slug, 'start')"
      >
        Start
      </button>
    </div>
    <p v-if="server.problem" class="plan-line problem"><FindingMark kind="error" /> {{ server.problem }}</p>
    <div v-else class="sb">
      <dl v-if="about">
        <div>
          <dt>Plugins</dt>
          <dd>
            {{ plugins }}<NuxtLink v-if="bad.length > 0" class="err" :to="`${home}/server`">{{ bad.join(', ') }}</NuxtLink>
          </dd>
        </div>
        <div>
          <dt>Yours</dt>
          <dd>
            <template v-if="about.yours > 0"><i class="bar y" /> {{ counted(about.yours, 'setting') }}</template
            ><span v-else class="muted">as shipped</span>
          </dd>
        </div>
        <div>
          <dt>Updates</dt>
          <dd>
            <template v-if="about.updates.length > 0"
              ><i class="bar u" /> {{ about.updates.length }} <span class="muted cut">{{ about.updates[0]!.plugin }} first</span></template
            ><span v-else class="muted">none</span>
          </dd>
        </div>
        <div>
          <dt>Findings</dt>
          <dd>
            <template v-if="about.errors > 0"
              ><FindingMark kind="error" /> <b>{{ about.errors }}</b></template
            >
            <template v-if="about.warnings > 0"><FindingMark kind="warning" /> {{ about.warnings }}</template>
            <span v-if="about.errors + about.warnings === 0" class="muted">none</span>
          </dd>
        </div>
        <div>
          <dt>Tray</dt>
          <dd>
            <template v-if="about.staged.changes > 0"><i class="chg" /> {{ counted(about.staged.changes, 'change') }}</template
            ><span v-else class="muted">empty</span>
          </dd>
        </div>
        <div>
          <dt>Last change</dt>
          <dd>
            <template v-if="about.last">{{ shortTime(Date.parse(about.last.at) / 1000) }}, {{ about.last.by }}</template
            ><span v-else class="muted">none yet</span>
          </dd>
        </div>
      </dl>
      <div class="sc">
        <template v-if="load">
          <LoadTable v-if="view === 'table'" :load="load" :label="`How ${server.slug} ran, in numbers`" />
          <template v-else>
            <LoadStave
              :load="load"
              :lines="lines"
              :marks="marks"
              :is-running="isRunning"
              :letter="house.focus === server.slug ? house.letter : ''"
              :label="`Players and tick rate of ${server.slug}, with ${counted(marks.length, 'mark')}`"
              @look="house.look(server.slug, $event)"
            />
            <p v-if="load.points.length === 0" class="nothing muted">
              Nothing was measured yet. How it runs is noted once a minute while it does.
            </p>
            <p class="sn cut">
              <span v-for="mark in marks.slice(-4)" :key="mark.letter"
                ><b>{{ mark.letter }}</b
                >{{ mark.title }}</span
              >
            </p>
          </template>
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.srv {
  border-bottom: 1px solid var(--hairline);
  min-height: 204px;
  position: relative;
}
.sh {
  height: 32px;
  display: grid;
  grid-template-columns: 18px calc(var(--stave-left) - 54px) minmax(0, 1fr) auto;
  align-items: center;
  gap: 10px;
  padding: 0 var(--edge) 0 16px;
  white-space: nowrap;
}
.sh h2 {
  font: 600 17px/24px var(--serif);
  letter-spacing: -0.01em;
}
.sh h2 a {
  text-decoration: none;
}
.stt {
  font: var(--t-small);
  display: flex;
  align-items: center;
  gap: 7px;
  min-width: 0;
}
.fam {
  font: var(--t-fine);
  color: var(--muted);
  margin-left: 6px;
}
.sh .r {
  font: var(--t-small);
}
.srv.foc .sh {
  background: var(--semolina);
  box-shadow: 0 -1px 0 var(--crust);
}
.sb {
  display: grid;
  grid-template-columns: var(--stave-left) minmax(0, 1fr);
  padding: 8px 0;
}
.sc {
  padding-right: var(--edge);
  min-width: 0;
  position: relative;
}
dl > div {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr);
  height: 24px;
  align-items: center;
  padding: 0 8px 0 16px;
  font: var(--t-small);
  white-space: nowrap;
}
dt {
  font: var(--t-fine);
  color: var(--muted);
}
dd {
  display: flex;
  align-items: center;
  gap: 5px;
  min-width: 0;
}
dd .muted {
  font: var(--t-fine);
}
.chg {
  width: 3px;
  height: 14px;
  background: var(--crust);
  border-radius: 1px;
}
.nothing {
  position: absolute;
  inset: 48px 0 auto;
  text-align: center;
  font: var(--t-fine);
}
.sn {
  font: var(--t-fine);
  display: flex;
  gap: 14px;
  padding-top: 8px;
  color: var(--muted);
}
.sn b {
  font: 600 11px/14px var(--mono);
  color: var(--crust);
  margin-right: 6px;
}
</style>
