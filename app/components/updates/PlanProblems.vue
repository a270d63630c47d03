<script setup lang="ts">
import type { UpdatePlan } from '~/utils/types'

/** What stands against an update as a whole. */
defineProps<{ plan: UpdatePlan; problem: string }>()
</script>

<template>
  <Message v-if="problem" severity="error">{{ problem }}</Message>
  <p v-for="item in plan.problems" :key="item" class="problem">{{ item }}</p>
  <p v-if="plan.staged.length > 0" class="problem">
    {{ plan.staged[0]!.split('/').pop() }} has changes in the tray. Apply or discard them first, so that they are carried too.
  </p>
  <p v-if="plan.rewritten.length > 0" class="problem mild">
    Changed here by hand, and replaced by the update: {{ plan.rewritten.join(', ') }}. What they hold is kept in History.
  </p>
  <p v-if="plan.files.some((item) => !item.baseline)" class="problem">
    There is no factory copy of the old version, so everything that differs from the update is taken for yours.
  </p>
</template>
