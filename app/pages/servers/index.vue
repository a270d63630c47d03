<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'

/** All servers: how each runs and ran, what waits on it, and what each change cost it. */
const session = useSessionStore()
const house = useHouseStore()
const confirm = useConfirm()
const router = useRouter()
const { problem, run } = useTask()
const LOOK_AGAIN_MS = 20_000
const view = ref<'picture' | 'table'>('picture')
const SPANS = [
  { id: 'day' as const, name: 'Day' },
  { id: 'week' as const, name: 'Week' },
  { id: 'month' as const, name: 'Month' },
]
const VIEWS = [
  { id: 'picture' as const, name: 'Picture' },
  { id: 'table' as const, name: 'Table' },
]
const span = computed({ get: () => house.span, set: (wanted) => house.setSpan(wanted) })
const some = computed(() => house.loads.values().next().value ?? null)
const lines = computed(() => (some.value ? timeLines(some.value.from, some.value.until, house.span) : []))
const servers = computed(() => house.servers ?? [])
const current = computed(() => house.current)
const note = computed(() => {
  const running = servers.value.filter(({ status }) => status === 'running').length
  return house.servers ? `${running} running, ${servers.value.length - running} not` : ''
})
const updates = computed(() => servers.value.reduce((sum, { about }) => sum + (about?.updates.length ?? 0), 0))
const errors = computed(() => servers.value.reduce((sum, { about }) => sum + (about?.errors ?? 0), 0))
const staged = computed(() => servers.value.filter(({ about }) => (about?.staged.changes ?? 0) > 0))
const toReview = computed(() => staged.value.find(({ slug }) => slug === house.focus) ?? staged.value[0] ?? null)
const stagedCount = computed(() => staged.value.reduce((sum, { about }) => sum + about!.staged.changes, 0))
const review = (): unknown => (toReview.value ? router.push(`/s/${toReview.value.slug}/review`) : false)

onMounted(house.load)
useIntervalFn(() => void house.load(), LOOK_AGAIN_MS)
useKeys({
  j: () => house.step(1),
  k: () => house.step(-1),
  ']': () => house.stepMark(1),
  '[': () => house.stepMark(-1),
  Enter: (event) => ((event.target as HTMLElement).closest('a, button') || !house.focus ? false : router.push(`/s/${house.focus}/plugins`)),
  'ctrl+Enter': review,
})

async function forget(slug: string): Promise<void> {
  await callApi(`/api/servers/${slug}`, { method: 'DELETE' })
  await house.load()
}
function askToForget(event: MouseEvent, slug: string): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `Forget ${slug}, with its drafts and history here? Its own files stay as they are.`,
    rejectLabel: 'Keep',
    acceptLabel: 'Forget',
    accept: () => void run(() => forget(slug)),
  })
}
</script>

<template>
  <HouseFrame title="Servers" :note="note">
    <template #actions>
      <span class="acts-line">
        <span v-if="updates > 0" class="upd fine"><i class="bar u" /> {{ counted(updates, 'update') }} waiting</span>
        <span v-if="errors > 0" class="err fine"><FindingMark kind="error" /> {{ counted(errors, 'error') }}</span>
        <BaseSegments v-model="view" :options="VIEWS" label="As a picture or as numbers" />
        <BaseSegments v-model="span" :options="SPANS" label="Length of the line" />
      </span>
    </template>
    <template #spine>
      <HouseSpine />
    </template>
    <Message v-if="problem || house.problem" severity="error">{{ problem || house.problem }}</Message>
    <div v-if="house.servers && servers.length === 0" class="state">
      <h2>No server is connected yet</h2>
      <p>Pasticcio works on a server’s own folder, on the machine it runs on. Adding one reads what is there and changes nothing.</p>
      <div class="acts">
        <NuxtLink v-if="session.isOwner" class="btn go" to="/servers/new">Add a server</NuxtLink>
        <span v-else class="muted">An owner can add one.</span>
      </div>
    </div>
    <div v-else-if="!house.servers && !house.problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
    <div v-else class="staves" tabindex="0" role="region" aria-label="All servers">
      <StaveRule v-if="some" :lines="lines" :from="some.from" :until="some.until" :caption="`a ${house.span}, in ${zoneOf()}`" />
      <ServerStaff
        v-for="server in servers"
        :key="server.slug"
        :server="server"
        :load="house.loads.get(server.slug) ?? null"
        :lines="lines"
        :view="view"
      />
      <p class="rest">
        <span class="key"><i class="sw-line" />ticks a second, the best at the upper line</span
        ><span class="key"><i class="sw-line slow" />under seven eighths of it</span><span class="key"><i class="sw-pl" />players</span
        ><span class="key"><i class="sw-mk">a</i>applied, installed, started, stopped</span>
      </p>
    </div>
    <template #margin>
      <aside class="margin" aria-label="The server in focus">
        <div class="titleline side"><h2>In the margin</h2></div>
        <section v-if="current" class="body note">
          <h3>{{ current.slug }}</h3>
          <dl class="facts">
            <dt>Folder</dt>
            <dd>
              <code>{{ current.folder }}</code>
            </dd>
            <dt v-if="current.memory !== null">Memory</dt>
            <dd v-if="current.memory !== null">{{ current.memory }} MB</dd>
          </dl>
          <ServerCosts v-if="current.problem === ''" />
          <ol
            v-if="current.about && (current.about.errors > 0 || current.about.updates.length > 0)"
            class="footnotes"
            aria-label="What waits"
          >
            <li v-if="current.about.errors > 0">
              <FindingMark kind="error" />
              <NuxtLink :to="`/s/${current.slug}/settings`">{{ counted(current.about.errors, 'error') }} in its settings</NuxtLink>
            </li>
            <li v-for="update in current.about.updates" :key="update.plugin">
              <i class="bar u" />
              <span
                >{{ update.plugin }} {{ update.to }} waits.
                <NuxtLink :to="`/s/${current.slug}/updates/${encodeURIComponent(update.plugin)}`">Open the plan</NuxtLink></span
              >
            </li>
          </ol>
          <div class="acts">
            <NuxtLink class="btn" :to="`/s/${current.slug}/plugins`">Open {{ current.slug }}</NuxtLink>
            <button v-if="session.isOwner" class="act" :aria-label="`Forget ${current.slug}`" @click="askToForget($event, current.slug)">
              Forget
            </button>
          </div>
          <p class="keys muted"><kbd>j</kbd> <kbd>k</kbd> server &ensp;<kbd>[</kbd> <kbd>]</kbd> mark &ensp;<kbd>Enter</kbd> open</p>
        </section>
      </aside>
    </template>
    <template v-if="staged.length > 0" #tray>
      <div class="tray" role="region" aria-label="Staged changes on all servers">
        <span class="lead"><i class="chg" />{{ counted(stagedCount, 'change') }} on {{ counted(staged.length, 'server') }}</span>
        <template v-for="{ slug, about } in staged" :key="slug"
          ><span class="v" /><span
            ><b>{{ slug }}</b> {{ about!.staged.changes }} in {{ counted(about!.staged.files, 'file') }},
            {{ TRAY_NEEDS[about!.after] }}</span
          ><span v-if="about!.staged.errors > 0" class="err"
            ><FindingMark kind="error" /> {{ counted(about!.staged.errors, 'error') }}</span
          ></template
        >
        <span class="v" /><span class="muted">one server at a time</span>
        <span class="push" />
        <button class="btn go" @click="review">Review {{ toReview?.slug }} <kbd>Ctrl Enter</kbd></button>
      </div>
    </template>
  </HouseFrame>
</template>

<style scoped>
.acts-line {
  display: inline-flex;
  align-items: center;
  gap: 14px;
}
.fine {
  font: var(--t-fine);
}
.staves {
  --stave-left: 236px;
}
.rest {
  padding: 10px 16px;
  font: var(--t-fine);
  color: var(--muted);
}
.key {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  margin-right: 18px;
}
.sw-line {
  width: 22px;
  border-top: 1.3px solid var(--crust);
}
.sw-line.slow {
  border-top: 2.2px solid var(--error);
}
.sw-pl {
  width: 14px;
  height: 10px;
  background: var(--fill-factory);
  border-bottom: 1px solid var(--field-rule);
}
.sw-mk {
  font: 600 11px/12px var(--mono);
  border: 1px solid var(--crust);
  border-radius: 2px;
  width: 14px;
  height: 14px;
  text-align: center;
  color: var(--crust);
}
.margin .body {
  padding-top: 10px;
}
.keys {
  margin-top: 16px;
  font: var(--t-fine);
}
code {
  font-size: 12px;
  overflow-wrap: anywhere;
}
</style>
