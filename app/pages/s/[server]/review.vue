<script setup lang="ts">
import { pointerWords } from '~/utils/pointer-words'
import type { ApplyRow } from '~/utils/types'

/** What is staged, as a diff by file; from here it goes to the server. */
const tray = useTrayStore()
const server = useServerStore()
const session = useSessionStore()
const done = ref<ApplyRow | null>(null)
const blocked = computed(() => tray.blockingCount > 0 || tray.drifted.length > 0 || tray.isHeld)
const WORDS = {
  verified: 'Applied',
  written: 'Written',
  complained: 'The server complained',
  failed: 'Nothing was written',
  undone: 'Taken back',
  running: 'Working',
} as const

onMounted(() => tray.refresh())
async function apply(): Promise<void> {
  if (blocked.value || tray.applying || tray.isEmpty || !session.mayEdit) return
  done.value = await tray.apply()
}
async function goBack(): Promise<void> {
  if (!done.value) return
  done.value = await server.undo(done.value.id)
  await tray.refresh()
}
/** The setting for which a reload will not do, where the server else takes what is changed by one. */
const restartFor = computed(() => {
  const asks = tray.files.find(({ asks }) => asks && asks.applies !== 'reload')?.asks
  return asks ? pointerWords(asks.pointer, 'all of a file') : null
})
const whatWaits = computed(() =>
  [
    tray.files.length === 0 ? '' : `${counted(tray.changeCount, 'change')} in ${counted(tray.files.length, 'file')}`,
    tray.commands.length === 0 ? '' : counted(tray.commands.length, 'command'),
  ]
    .filter(Boolean)
    .join(', '),
)
const saying = computed(() =>
  server.state.status === 'running'
    ? `${counted(tray.commands.length, 'command')} ${tray.commands.length === 1 ? 'is' : 'are'} said to the console, and the answer read`
    : 'The server must run: commands can be said to no other',
)
const fileLink = (path: string): string => `/s/${server.slug}/settings/${path}`
useKeys({ 'ctrl+Enter': apply })
</script>

<template>
  <div class="page">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Review</h1>
          <span class="tally"
            ><template v-if="!tray.isEmpty">{{ whatWaits }}, nothing is written yet</template
            ><template v-else-if="done">{{ WORDS[done.status].toLowerCase() }}</template></span
          >
        </div>
      </div>
      <div class="scroll" tabindex="0">
        <Message v-if="tray.problem" severity="error">{{ tray.problem }}</Message>
        <div v-if="tray.isEmpty && !done" class="state">
          <h2>Nothing is staged</h2>
          <p>Change a setting, and it waits here until you apply it.</p>
          <div class="acts"><NuxtLink class="btn" :to="`/s/${server.slug}/plugins`">Go to Plugins</NuxtLink></div>
        </div>
        <div v-if="done" class="state">
          <h2>{{ WORDS[done.status] }}: {{ done.title }}</h2>
          <p :class="done.status === 'verified' ? 'good' : done.status === 'complained' ? 'problem' : ''" role="status">
            {{ done.outcome.message || 'The plugins took the new settings.' }}
          </p>
          <div class="acts">
            <button
              v-if="done.status === 'complained' || done.status === 'verified'"
              class="btn"
              :disabled="!session.mayEdit"
              @click="goBack"
            >
              <BaseIcon name="back" /> Go back to before
            </button>
            <NuxtLink v-if="done.outcome.complaints[0]?.path" class="btn go" :to="fileLink(done.outcome.complaints[0].path)"
              >Show line {{ done.outcome.complaints[0].line }}</NuxtLink
            >
            <NuxtLink class="btn quiet" :to="`/s/${server.slug}/history`">History</NuxtLink>
          </div>
        </div>
        <section v-for="item in tray.files" :key="item.path">
          <div class="grp">
            <h2>{{ item.plugin }}</h2>
            <code class="muted">{{ item.path.split('/').pop() }}</code><span v-if="item.text" class="r"
              ><NuxtLink :to="fileLink(item.path)">open</NuxtLink></span
            >
          </div>
          <StagedDiff v-if="item.text" :file="item" />
          <StagedWhole v-else :file="item" />
        </section>
        <StagedCommands v-if="tray.commands.length > 0" />
      </div>
    </section>
    <aside class="margin" aria-label="What applying does">
      <div class="titleline side"><h2>What will happen</h2></div>
      <div class="body" tabindex="0" role="group" aria-label="What will happen, step by step">
        <template v-if="!tray.isEmpty">
          <ol class="steps">
            <li v-if="tray.files.length === 0">{{ saying }}</li>
            <template v-else>
              <li>The files on the server are compared with what you began from</li>
              <li>Both are kept, so that History can go back</li>
              <li>
                {{ tray.files.length }}
                {{ tray.files.length === 1 ? 'file is written, in one step' : 'files are written, each in one step' }}
              </li>
              <li>
                {{
                  server.state.status === 'unattended'
                    ? 'The server restarts, since its console was lost, and the console is read'
                    : server.state.status === 'running' && tray.files.some(({ after }) => after !== 'reload')
                      ? 'The server is stopped first, and started again once they are written; then the console is read'
                      : server.state.status === 'running'
                        ? `${tray.plugins.join(', ')} ${tray.plugins.length === 1 ? 'reloads' : 'reload'}, and the console is read`
                        : 'The server is stopped; the settings count at its next start'
                }}<template v-if="restartFor && server.state.status === 'running'"
                  >: <code>{{ restartFor }}</code> counts no other way</template
                >
              </li>
              <li v-if="tray.commands.length > 0">{{ saying }}</li>
            </template>
          </ol>
          <p v-if="tray.blockingCount > 0" class="problem">
            {{ tray.blockingCount }} {{ tray.blockingCount === 1 ? 'mistake keeps' : 'mistakes keep' }} a file from being read. The sheet
            shows where; mend that first.
          </p>
          <OverruleErrors v-else-if="tray.held.length > 0" />
          <template v-if="tray.files.length > 0">
            <div class="h">Changes</div>
            <ChangeList :files="tray.files" />
          </template>
        </template>
        <template v-if="done"
          ><div class="h">Console</div>
          <ul class="told">
            <li v-for="line in done.outcome.lines" :key="line">{{ line }}</li>
          </ul></template
        >
      </div>
    </aside>
    <Teleport to="#page-tray">
      <div v-if="!tray.isEmpty" class="tray">
        <span class="lead"><i class="chg" /> {{ whatWaits }}</span>
        <BaseProgress v-if="tray.applying" class="wide" label="Applying" />
        <span class="push" />
        <NuxtLink v-if="tray.files[0]" class="btn quiet" :to="fileLink(tray.files[0].path)">Back to the sheet</NuxtLink>
        <button class="btn go" :disabled="blocked || tray.applying || !session.mayEdit" @click="apply">
          Apply to {{ server.slug }} <kbd>Ctrl Enter</kbd>
        </button>
      </div>
    </Teleport>
  </div>
</template>

<style scoped>
.steps {
  list-style: decimal;
  padding: 8px 0 0 18px;
  font: var(--t-small);
}
.steps li {
  padding: 3px 0;
}
.told {
  font: 400 11px/16px var(--mono);
  overflow-wrap: anywhere;
}
.wide {
  width: 160px;
}
</style>
