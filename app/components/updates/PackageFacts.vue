<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'
import type { UpdatePlan } from '~/utils/types'

/** What an update is made of, what it asks for and what it writes. */
const props = defineProps<{ plan: UpdatePlan }>()
const written = computed(() => props.plan.files.filter((item) => item.result !== item.mine).map((item) => item.path.split('/').pop()!))
</script>

<template>
  <dl class="facts before">
    <dt>Package</dt>
    <dd>{{ plan.plugin.toLowerCase() }}-{{ shortVersion(plan.to) }}, in the pantry</dd>
    <dt>Asks for</dt>
    <dd v-for="item in plan.requires" :key="item.name">
      {{ item.name }} {{ item.range }}, you have {{ item.have ?? 'none' }} <FindingMark :kind="item.fits ? 'done' : 'error'" />
    </dd>
    <dd v-if="plan.requires.length === 0">nothing</dd>
    <dt>Writes</dt>
    <dd>
      {{ written.join(', ') || 'no settings' }}
    </dd>
    <dt>Backup</dt>
    <dd>these files and the {{ shortVersion(plan.from) }} package, first</dd>
  </dl>
</template>

<style scoped>
.facts.before {
  padding: 12px 0;
  margin: 0;
  grid-template-columns: 56px 1fr;
  gap: 4px 8px;
  border-bottom: 1px solid var(--crust);
}
.facts.before dd {
  grid-column: 2;
}
</style>
