<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'

/** What still holds the update, and the button that carries it out. */
const plan = usePlanStore()
const server = useServerStore()
const session = useSessionStore()
</script>

<template>
  <div v-if="plan.plan && !plan.done" class="tray">
    <span class="lead"><i class="chg" /> {{ plan.plan.plugin }} {{ shortVersion(plan.plan.to) }}</span
    ><span class="v" />
    <span v-if="plan.plan.open > 0" class="err"><FindingMark kind="decision" /> {{ counted(plan.plan.open, 'decision') }} open</span
    ><span v-else class="ok"><FindingMark kind="done" /> every decision is made</span><span class="v" />
    <span>then a restart of {{ server.slug }}</span>
    <BaseProgress v-if="plan.applying" class="wide" label="Updating" />
    <span class="push" />
    <button class="btn go" :disabled="!plan.ready || plan.applying || !session.mayEdit" @click="plan.apply">
      Apply the update <kbd>Ctrl Enter</kbd>
    </button>
  </div>
</template>

<style scoped>
.wide {
  width: 160px;
}
</style>
