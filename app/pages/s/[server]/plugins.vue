<script setup lang="ts">
import type { ApplyRow, InstallPlan, PantryPackage, SiteOffer } from '~/utils/types'

/** What is on the server, the pantry of packages, and what installing one would do. */
const server = useServerStore()
const session = useSessionStore()
const packages = ref<PantryPackage[]>([])
const offers = ref<SiteOffer[]>([])
const loading = ref(true)
const problem = ref('')
const chosen = ref<PantryPackage | null>(null)
const plan = ref<InstallPlan<number> | null>(null)
const working = ref('')
const done = ref<ApplyRow | null>(null)
const link = ref('')
const dragging = ref(false)
const picker = ref<HTMLInputElement | null>(null)
const since = ref(0)

const installed = computed(() => server.overview?.plugins ?? [])
const groups = computed(() =>
  [...new Set(packages.value.map((item) => item.name))].map((name) => ({
    name,
    versions: packages.value.filter((item) => item.name === name),
  })),
)
const fresh = computed(() =>
  offers.value.filter((offer) => !packages.value.some((item) => item.name === offer.name && item.version === offer.version)),
)
const followed = computed(() =>
  server.lines.filter((line) => line.seq > since.value && (line.level === 'error' || (line.event !== null && line.event.type !== 'state'))),
)

async function load(): Promise<void> {
  try {
    const answer = await callApi<{ packages: PantryPackage[]; offers: SiteOffer[] }>(`${server.base}/pantry`)
    packages.value = answer.packages
    offers.value = answer.offers
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    loading.value = false
  }
}
onMounted(load)

async function add(work: () => Promise<{ id: number }>, words: string): Promise<void> {
  working.value = words
  problem.value = ''
  try {
    const { id } = await work()
    await Promise.all([load(), server.refresh()])
    const found = packages.value.find((item) => item.id === id)
    if (found) await choose(found)
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    working.value = ''
  }
}
const fetchOffer = (offer: SiteOffer): Promise<void> =>
  add(() => callApi(`${server.base}/pantry/link`, { body: { link: offer.link } }), `Fetching ${offer.name} ${offer.version} …`)
async function addLink(): Promise<void> {
  await add(() => callApi(`${server.base}/pantry/link`, { body: { link: link.value.trim() } }), 'Fetching the package …')
  if (!problem.value) link.value = ''
}
async function upload(files: FileList | null | undefined): Promise<void> {
  dragging.value = false
  for (const item of files ?? [])
    await add(
      () => callApi(`${server.base}/pantry/upload?name=${encodeURIComponent(item.name)}`, { bytes: item }),
      `Reading ${item.name} …`,
    )
}
async function choose(item: PantryPackage): Promise<void> {
  chosen.value = item
  done.value = null
  plan.value = null
  try {
    plan.value = await callApi<InstallPlan<number>>(`${server.base}/installs/plan?package=${item.id}`)
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
async function install(): Promise<void> {
  if (!chosen.value) return
  since.value = server.lines.at(-1)?.seq ?? 0
  working.value = `Installing ${chosen.value.name} ${chosen.value.version} …`
  problem.value = ''
  try {
    done.value = await callApi<ApplyRow>(`${server.base}/installs`, { body: { packageId: chosen.value.id } })
    server.complained = done.value.status === 'complained' ? done.value : null
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    working.value = ''
    await server.refresh()
  }
}
const versionOn = (name: string): string | null => installed.value.find((item) => item.name === name)?.version ?? null
const blocked = computed(() => plan.value?.problems.some((item) => item.severity === 'error') ?? true)
const replaces = computed(() => plan.value?.steps.find((step) => step.replaces !== null) ?? null)
const settingsLink = (name: string): string => {
  const path = installed.value.find((item) => item.name === name)?.files.find((file) => !file.record)?.path
  return path ? `/s/${server.slug}/settings/${path}` : `/s/${server.slug}/settings`
}
</script>

<template>
  <div
    class="page"
    @dragover.prevent="dragging = true"
    @dragleave.self="dragging = false"
    @drop.prevent="upload($event.dataTransfer?.files)"
  >
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Plugins</h1>
          <span class="tally">game {{ server.overview?.game }}, {{ installed.length }} on {{ server.slug }}</span>
        </div>
      </div>
      <div class="scroll">
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div class="grp">
          <h2>On this server</h2>
          <span class="ct">{{ installed.length }}</span><span class="r">settings, yours, findings</span>
        </div>
        <ul class="rows">
          <li v-for="item in installed" :key="item.name" class="plug">
            <LayerMark factory :yours="item.mine > 0" :update="item.update !== null" />
            <NuxtLink :to="settingsLink(item.name)" class="b cut">{{ item.name }}</NuxtLink><code>{{ item.version }}</code
            ><span class="muted cut">{{ item.summary }}</span>
            <span class="fine"
              ><template v-if="item.mine > 0"><i class="bar y" /> {{ item.mine }} yours</template
              ><span v-else class="muted">as shipped</span></span
            >
            <NuxtLink v-if="item.update" class="upd fine" :to="`/s/${server.slug}/updates/${item.name}`"
              ><i class="bar u" /> {{ item.update.to }} in the pantry</NuxtLink
            ><span v-else />
          </li>
        </ul>
        <p v-if="installed.length === 0 && server.overview" class="state">
          There is no plugin on this server yet. Take one from the pantry below.
        </p>
        <div class="grp">
          <h2>Pantry</h2>
          <span class="ct">{{ packages.length }} packages</span><span class="r">kept for installing</span>
        </div>
        <div v-if="loading" class="skeleton" aria-busy="true"><i v-for="n in 4" :key="n" :style="{ width: `${80 - n * 9}%` }" /></div>
        <ul class="rows">
          <li v-for="group in groups" :key="group.name" class="pack">
            <span class="b cut">{{ group.name }}</span><span class="muted cut">{{ group.versions.at(-1)?.summary }}</span>
            <span class="versions">
              <button
                v-for="item in group.versions"
                :key="item.id"
                class="tokbtn"
                :aria-label="`${item.name} ${item.version}`"
                :aria-pressed="chosen?.id === item.id"
                @click="choose(item)"
              >
                <code>{{ item.version }}</code><span class="fine">{{
                  versionOn(item.name) === item.version ? 'on the server' : versionOn(item.name) ? 'update' : 'install'
                }}</span>
              </button>
            </span>
          </li>
        </ul>
        <div class="drop" :class="{ dragging }">
          <span class="b">Add to the pantry</span>
          <span
            >Drop a package, <button class="act" :disabled="!session.mayEdit" @click="picker?.click()">choose a file</button>, or paste a
            link:</span
          >
          <form @submit.prevent="addLink">
            <input v-model="link" class="in w4" placeholder="link" aria-label="Link to a package" :disabled="!session.mayEdit" />
            <button class="btn small" :disabled="link.trim() === '' || !session.mayEdit">Fetch</button>
          </form>
          <input
            ref="picker"
            type="file"
            class="sr"
            aria-label="Package file"
            @change="upload(($event.target as HTMLInputElement).files)"
          />
        </div>
        <template v-if="fresh.length > 0">
          <div class="grp">
            <h2>At the plugin site</h2>
            <span class="ct">{{ fresh.length }}</span>
          </div>
          <ul class="rows">
            <li v-for="offer in fresh" :key="offer.link" class="pack">
              <span class="b cut">{{ offer.name }}</span><span class="muted cut">{{ offer.summary }}</span>
              <span class="versions"
                ><button
                  class="tokbtn"
                  :aria-label="`Put ${offer.name} ${offer.version} into the pantry`"
                  :disabled="!session.mayEdit || working !== ''"
                  @click="fetchOffer(offer)"
                >
                  <code>{{ offer.version }}</code><span class="fine">to the pantry</span>
                </button></span
              >
            </li>
          </ul>
        </template>
      </div>
    </section>
    <aside class="margin" aria-label="What installing does">
      <div class="titleline side">
        <h2>{{ chosen ? 'What will happen' : 'In the margin' }}</h2>
      </div>
      <div class="body">
        <div v-if="working" class="progress" role="progressbar" :aria-label="working" />
        <p v-if="working" class="under">{{ working }}</p>
        <p v-if="!chosen && !working" class="comment muted">
          Choose a version in the pantry to see where its file would go, what it needs, and whether it fits the game, before anything is
          done.
        </p>
        <section v-if="chosen && plan" class="note">
          <header>
            <h3>{{ chosen.name }} {{ chosen.version }}</h3>
          </header>
          <p class="comment">
            {{ chosen.summary }} <span class="src">{{ chosen.authors.join(', ') }}</span>
          </p>
          <dl class="facts">
            <dt>Game</dt>
            <dd>
              for {{ chosen.game }}, this server runs {{ plan.gameVersion }}
              <FindingMark :kind="plan.problems.some((item) => item.code === 'game-version') ? 'error' : 'done'" />
            </dd>
            <dt>Asks for</dt>
            <dd>
              {{
                Object.entries(chosen.requires)
                  .map(([name, range]) => `${name} ${range}`)
                  .join(', ') || 'no other plugin'
              }}
            </dd>
            <dt>From</dt>
            <dd>{{ chosen.origin }}</dd>
          </dl>
          <p v-for="item in plan.problems" :key="item.message" class="problem" :class="{ good: item.code === 'installed-already' }">
            {{ item.message }}
          </p>
          <template v-if="plan.steps.length > 0 && !done">
            <div class="h">In this order</div>
            <ol class="steps">
              <li v-for="step in plan.steps" :key="step.plugin">
                <span class="b">{{ step.plugin }} {{ step.version }}</span> to <code>{{ step.path }}</code><span
                  v-if="step.requiredBy"
                  class="muted"
                >
                  because {{ step.requiredBy }} needs it</span
                ><span v-if="step.replaces" class="muted"> in place of {{ step.replaces }}</span>
              </li>
              <li v-if="plan.restart">
                {{
                  server.state.status === 'running'
                    ? `The server restarts; ${server.state.players ?? 0} players leave and come back`
                    : 'The server starts'
                }}
              </li>
              <li>The console is read: loaded, or why not</li>
              <li>The settings it writes are kept as the factory copy</li>
            </ol>
            <div class="acts">
              <NuxtLink v-if="replaces" class="btn go" :to="`/s/${server.slug}/updates/${chosen.name}?package=${chosen.id}`"
                >Plan the update</NuxtLink
              >
              <button v-else class="btn go" :disabled="blocked || working !== '' || !session.mayEdit" @click="install">
                Install and {{ server.state.status === 'running' ? 'restart' : 'start' }}
              </button>
            </div>
          </template>
          <template v-if="done">
            <p class="verdict" :class="done.status === 'verified' ? 'good' : 'problem'" role="status">
              {{ done.status === 'verified' ? `${chosen.name} ${chosen.version} is loaded.` : done.outcome.message }}
            </p>
            <div v-if="done.status === 'verified'" class="acts">
              <NuxtLink class="btn" :to="settingsLink(chosen.name)">Open its settings</NuxtLink>
            </div>
          </template>
          <template v-if="working || done"
            ><div class="h">Console</div>
            <ConsoleLines :lines="followed" small
          /></template>
        </section>
      </div>
    </aside>
  </div>
</template>

<style scoped>
.plug,
.pack {
  display: grid;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
}
.plug {
  grid-template-columns: 18px 110px 50px minmax(0, 1fr) 90px 130px;
}
.pack {
  grid-template-columns: 138px minmax(0, 1fr) auto;
}
.fine {
  font: var(--t-fine);
}
.versions {
  display: flex;
  gap: 8px;
}
.tokbtn {
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
  padding: 2px 8px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
}
.tokbtn:hover:not(:disabled) {
  background: var(--semolina);
}
.tokbtn[aria-pressed='true'] {
  background: var(--crust);
  color: var(--flour);
}
.tokbtn code {
  font-size: 12px;
}
.drop {
  margin: 12px 16px;
  padding: 10px 14px;
  border: 1px dashed var(--field-rule);
  border-radius: var(--radius);
  display: flex;
  gap: 14px;
  align-items: center;
  font: var(--t-small);
  flex-wrap: wrap;
}
.drop.dragging {
  background: var(--wash-yours);
  border-style: solid;
  border-color: var(--crust);
}
.drop form {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
.note header {
  padding-top: 8px;
}
.steps {
  list-style: decimal;
  padding-left: 18px;
  font: var(--t-small);
  margin-top: 4px;
}
.steps li {
  padding: 3px 0;
}
.steps code {
  font-size: 12px;
  overflow-wrap: anywhere;
}
.under {
  font: var(--t-fine);
  color: var(--muted);
  padding: 6px 0;
}
.verdict {
  margin-top: 10px;
}
.problem {
  margin-top: 8px;
}
</style>
