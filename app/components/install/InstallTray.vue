<script setup lang="ts">
/** What would be written in all, and the button that does it. */
const install = useInstallStore()
const server = useServerStore()
const session = useSessionStore()
const parts = computed(() => install.plan?.steps.flatMap((step) => step.parts) ?? [])
const files = computed(() => parts.value.reduce((sum, { puts }) => sum + puts, 0))
const changed = computed(() => new Set(parts.value.flatMap(({ texts }) => texts.map(({ path }) => path))).size)
const tasks = computed(() => install.plan?.steps.reduce((sum, step) => sum + step.tasks.length, 0) ?? 0)
const word = computed(() => {
  if (server.state.status !== 'running') return 'start'
  return install.plan?.after === 'load' && !install.plan.framework.part ? 'load' : 'restart'
})
useKeys({ 'ctrl+Enter': () => void install.install() })
</script>

<template>
  <div v-if="install.plan && install.main && !install.done" class="tray">
    <span class="lead"><i class="chg" /> {{ install.main.name }} {{ install.main.version }}</span
    ><span class="v" />
    <span>{{ counted(files, 'file') }} put</span>
    <span v-if="changed > 0">{{ counted(changed, 'file') }} changed</span>
    <template v-if="tasks > 0"
      ><span class="v" /><span class="wrn"><FindingMark kind="warning" /> {{ counted(tasks, 'thing') }} left to you</span></template
    >
    <BaseProgress v-if="install.working" class="wide" label="Installing" />
    <span class="push" />
    <NuxtLink class="btn quiet" :to="`/s/${server.slug}/plugins`">Put aside</NuxtLink>
    <NuxtLink
      v-if="install.replaces"
      class="btn go"
      :to="`/s/${server.slug}/updates/${install.replaces.name}?package=${install.replaces.id}`"
      >Plan the update</NuxtLink
    >
    <button v-else class="btn go" :disabled="!install.ready || install.working || !session.mayEdit" @click="install.install">
      Install and {{ word }} <kbd>Ctrl Enter</kbd>
    </button>
  </div>
</template>

<style scoped>
.wide {
  width: 140px;
}
</style>
