<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'

/** What is staged, what is wrong with it, and what it needs. Pages may bring a tray of their own. */
const server = useServerStore()
const tray = useTrayStore()
const session = useSessionStore()
const sheet = useSheetStore()
const route = useRoute()
const onReview = computed(() => route.path.endsWith('/review'))
const confirm = useConfirm()
const names = computed(() =>
  tray.files
    .flatMap((item) =>
      !item.text
        ? [item.path.split('/').pop()!]
        : item.changes.map((change) => change.path.split('/').slice(-2).filter(Boolean).join('.') || 'own comment'),
    )
    .slice(0, 4),
)

async function discard(): Promise<void> {
  // what was typed a moment ago is discarded too, and not saved after all
  await sheet.draft?.flush()
  await tray.discard()
  await sheet.reload()
}
function askToDiscard(event: MouseEvent): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: 'Discard all of it?',
    rejectLabel: 'Keep',
    acceptLabel: 'Discard',
    accept: () => void discard(),
  })
}
async function goBack(): Promise<void> {
  const { complained } = server
  if (!complained) return
  await server.undo(complained.id)
  await tray.refresh()
  await sheet.reload()
}
const whatItNeeds = computed(() => {
  if (tray.files.length === 0) return server.state.status === 'running' ? 'said to the console' : 'the server must run for it'
  if (server.state.status === 'unattended') return 'needs a restart, since its console was lost'
  const stops = tray.files.some(({ after }) => after !== 'reload')
  if (server.state.status === 'running' && stops) return 'stop, write, start'
  return server.state.status === 'running' ? `needs reload of ${tray.plugins.join(', ')}` : 'the server is stopped'
})
</script>

<template>
  <footer class="tray-slot">
    <div v-if="server.complained" class="tray complaint" role="alert">
      <FindingMark kind="error" /><span class="lead">The server complained</span>
      <span class="cut">{{ server.complained.outcome.message }}</span>
      <NuxtLink
        v-if="server.complaints[0]?.path && !route.path.includes(server.complaints[0].path)"
        class="act push"
        :to="`/s/${server.slug}/settings/${server.complaints[0].path}`"
        >Show line {{ server.complaints[0].line }}</NuxtLink
      >
      <button
        class="btn"
        :class="{ push: !server.complaints[0]?.path || route.path.includes(server.complaints[0].path) }"
        :disabled="!session.mayEdit"
        @click="goBack"
      >
        <BaseIcon name="back" /> Go back to before
      </button>
    </div>
    <div id="page-tray" />
    <div v-if="!tray.isEmpty && !onReview" class="tray" role="region" aria-label="Tray">
      <span class="lead"
        ><i class="chg" />
        <template v-if="tray.files.length > 0"
          >{{ counted(tray.changeCount, 'change') }} in {{ counted(tray.files.length, 'file') }}</template
        ><template v-else>{{ counted(tray.commands.length, 'command') }}</template></span
      >
      <span class="v" />
      <span v-if="tray.files.length > 0" class="list cut"
        ><code v-for="name in names" :key="name">{{ name }}</code
        ><span v-if="tray.changeCount > names.length">and {{ tray.changeCount - names.length }} more</span></span
      >
      <template v-if="tray.commands.length > 0"
        ><span v-if="tray.files.length > 0" class="v" /><span class="cut said"
          ><template v-if="tray.files.length > 0">{{ counted(tray.commands.length, 'command') }} </template
          ><code v-for="{ id, command } in tray.commands.slice(0, 2)" :key="id">›_ {{ command }}</code></span
        ></template
      >
      <template v-if="tray.errorCount > 0"
        ><span class="v" /><NuxtLink class="err" :to="`/s/${server.slug}/findings`"
          ><FindingMark kind="error" /> {{ counted(tray.errorCount, 'error')
          }}{{ tray.isHeld ? (tray.errorCount === 1 ? ' holds it' : ' hold it') : '' }}</NuxtLink
        ></template
      >
      <span class="v" />
      <span class="cut">{{ whatItNeeds }}</span>
      <span class="push" />
      <button class="btn quiet" :disabled="!session.mayEdit" @click="askToDiscard">Discard</button>
      <NuxtLink class="btn go" :to="`/s/${server.slug}/review`">Review &amp; apply <kbd>Ctrl Enter</kbd></NuxtLink>
    </div>
    <ConfirmPopup />
  </footer>
</template>

<style scoped>
.said code {
  margin-left: 8px;
}
</style>
