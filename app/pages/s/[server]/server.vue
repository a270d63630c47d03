<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'

/** The server itself: its console, starting and stopping, and who may work on it. */
const server = useServerStore()
const confirm = useConfirm()
const session = useSessionStore()
const line = ref('')
const problem = ref('')
async function send(): Promise<void> {
  problem.value = ''
  try {
    await callApi(`${server.base}/console`, { body: { line: line.value } })
    line.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
const running = computed(() => server.state.status === 'running')
const isLost = computed(() => server.state.status === 'unattended')
/** Ending it comes second: it was asked to stop, or to start, and is not there yet. */
const mayEnd = computed(() => ['stopping', 'starting'].includes(server.state.status))
function askToEnd(event: MouseEvent): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `End ${server.slug} at once? What it has not saved is lost.`,
    rejectLabel: 'Wait for it',
    acceptLabel: 'End it now',
    accept: () => void server.control('kill'),
  })
}
const plugins = computed(() => server.overview?.plugins.filter(({ run }) => run !== null) ?? [])
const tally = computed(() =>
  (['loaded', 'failed', 'silent', 'waiting'] as const)
    .map((state) => ({ state, count: plugins.value.filter(({ run }) => run!.state === state).length }))
    .filter(({ count }) => count > 0)
    .map(({ state, count }) => `${count} ${state}`)
    .join(', '),
)
const shown = computed(() => server.lines.filter((item) => item.event?.type !== 'state'))
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Console</h1>
          <span class="tally">{{ server.slug }}, game {{ server.overview?.game }}</span>
        </div>
        <span class="push acts-line">
          <button
            v-if="server.state.status === 'stopped' || server.state.status === 'failed'"
            class="btn small"
            :disabled="!session.mayEdit || server.busy !== ''"
            @click="server.control('start')"
          >
            Start
          </button>
          <template v-else
            ><button v-if="running" class="btn small" :disabled="!session.mayEdit || server.busy !== ''" @click="server.control('restart')">
              Restart</button
            ><button class="btn small" :disabled="!session.mayEdit || server.busy === 'stop'" @click="server.control('stop')">Stop</button
            ><button v-if="mayEnd" class="btn small danger" :disabled="!session.mayEdit" @click="askToEnd">End it</button></template
          >
        </span>
      </div>
      <Message v-if="server.problem || problem" severity="error">{{ server.problem || problem }}</Message>
      <Message v-if="isLost" severity="warn"
        >This server runs on from before Pasticcio was ended, and its console was lost then. Stop it, which asks its processes to end;
        started again it has its console back.</Message
      >
      <BaseProgress v-if="server.busy" :label="server.busy" />
      <ConsoleLines class="scroll" :lines="shown" />
      <form class="say" @submit.prevent="send">
        <label class="muted" for="console-line">Say to the console</label
        ><InputText
          id="console-line"
          v-model="line"
          class="grow"
          :disabled="!running || !session.mayEdit"
          :placeholder="running ? 'plugins' : isLost ? 'its console was lost' : 'the server is not running'"
        /><button class="btn small" :disabled="!running || line.trim() === '' || !session.mayEdit">Send</button>
      </form>
    </section>
    <aside class="margin" aria-label="About this server">
      <div class="titleline side"><h2>About this server</h2></div>
      <div class="body">
        <dl class="facts">
          <dt>Family</dt>
          <dd>{{ server.overview?.title }}</dd>
          <dt>Game</dt>
          <dd>{{ server.overview?.game }}</dd>
          <dt>Folder</dt>
          <dd class="path">{{ server.overview?.folder }}</dd>
          <dt>Players</dt>
          <dd>{{ server.state.players ?? '–' }}</dd>
          <dt>Ticks/s</dt>
          <dd>{{ server.state.ticks?.toFixed(1) ?? '–' }}</dd>
          <dt>Memory</dt>
          <dd>{{ server.state.memory === null ? '–' : `${server.state.memory} MB` }}</dd>
        </dl>
        <template v-if="plugins.length > 0">
          <div class="h">
            Plugins since the start <span class="muted">{{ tally }}</span>
          </div>
          <template v-for="plugin in plugins" :key="plugin.name">
            <div v-if="plugin.run!.state === 'failed' || plugin.run!.state === 'silent'" class="run">
              <NuxtLink class="b" :to="`/s/${server.slug}/plugins/${encodeURIComponent(plugin.name)}`">{{ plugin.name }}</NuxtLink>
              <PluginRunNote :run="plugin.run!" />
            </div>
          </template>
        </template>
        <StartCommand v-if="session.isOwner" />
      </div>
    </aside>
  </div>
</template>

<style scoped>
.acts-line {
  display: inline-flex;
  gap: 8px;
}
.say {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 16px;
  border-top: 1px solid var(--hairline);
  font: var(--t-small);
}
.say .grow {
  flex: 1;
}
.run {
  padding: 4px 0;
}
.path {
  overflow-wrap: anywhere;
}
</style>
