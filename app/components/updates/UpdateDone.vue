<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'
import type { ApplyRow } from '~/utils/types'

/** How an update went, and the way back. */
defineProps<{ done: ApplyRow }>()
const plan = usePlanStore()
const server = useServerStore()
const session = useSessionStore()
</script>

<template>
  <div class="titleline">
    <div class="name">
      <h1>{{ done.title }}</h1>
    </div>
  </div>
  <div class="state">
    <h2>{{ done.status === 'verified' ? 'Updated, and the server took it' : 'The server complained' }}</h2>
    <p :class="done.status === 'verified' ? 'good' : 'problem'" role="status">
      {{
        done.outcome.message ||
        `${plan.plan?.plugin} ${shortVersion(plan.plan?.to ?? '')} is loaded with your settings carried forward. The files and the package as they were are in History.`
      }}
    </p>
    <div class="acts">
      <button class="btn" :disabled="!session.mayEdit" @click="plan.goBack">
        <BaseIcon name="back" /> Go back to {{ shortVersion(plan.plan?.from ?? '') }}</button
      ><NuxtLink class="btn" :to="`/s/${server.slug}/history`">History</NuxtLink>
    </div>
    <ul class="told">
      <li v-for="line in done.outcome.lines" :key="line">{{ line }}</li>
    </ul>
  </div>
</template>

<style scoped>
.told {
  font: 400 11px/16px var(--mono);
  color: var(--muted);
  margin-top: 16px;
}
</style>
