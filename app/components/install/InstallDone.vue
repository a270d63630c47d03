<script setup lang="ts">
import type { ApplyRow } from '~/utils/types'

/** What came of an installation, and where to go on. */
const props = defineProps<{ done: ApplyRow }>()
const install = useInstallStore()
const server = useServerStore()
const session = useSessionStore()
const pantry = usePantryStore()
const isFine = computed(() => props.done.status === 'verified')
const names = computed(() => install.plan?.steps.map(({ name }) => name) ?? [])
async function goBack(): Promise<void> {
  await server.undo(props.done.id)
  await install.open(install.packages)
}
</script>

<template>
  <div class="state">
    <h2>
      {{ isFine ? `${names.join(', ')} ${names.length === 1 ? 'is' : 'are'} loaded.` : 'It is in its place, and something is not right' }}
    </h2>
    <p :class="isFine ? 'good' : 'problem'" role="status">
      {{ done.outcome.message || 'The console said so. What was written is kept as its factory copy.' }}
    </p>
    <div class="acts">
      <NuxtLink v-if="install.main" class="btn" :to="pantry.settingsLink(install.main.name)">Open its settings</NuxtLink>
      <NuxtLink v-if="install.main" class="btn quiet" :to="`/s/${server.slug}/plugins/${encodeURIComponent(install.main.name)}`"
        >About it</NuxtLink
      >
      <button class="btn quiet" :disabled="!session.mayEdit" @click="goBack"><BaseIcon name="back" /> Go back to before</button>
    </div>
  </div>
</template>
