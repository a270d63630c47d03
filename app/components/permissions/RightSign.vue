<script setup lang="ts">
import type { PermissionCell } from '@pasticcio/core'
import { rightWords } from '~/utils/right-words'

/**
 * Where a right comes from, as a sign of 16 by 12: a bar where it is said here, an elbow where a parent says it, cut in three by a
 * wildcard, struck where it is denied, a thread where everyone has it, a bar with a ring for operators, a point for nothing.
 */
const props = defineProps<{ cell: PermissionCell; labelled?: boolean }>()
const kind = computed(() => {
  const { by, isWildcard, may } = props.cell
  if (by === 'nothing') return 'point'
  if (by === 'default') return 'thread'
  if (by === 'operator') return 'operator'
  return `${by}${isWildcard ? '-many' : ''}${may ? '' : ' denied'}`
})
const isElbow = computed(() => kind.value.startsWith('parent'))
const isMany = computed(() => kind.value.includes('-many'))
const isDenied = computed(() => kind.value.endsWith('denied'))
</script>

<template>
  <svg
    class="sign"
    :class="{ denied: isDenied }"
    viewBox="0 0 16 12"
    :role="labelled ? 'img' : undefined"
    :aria-label="labelled ? rightWords(cell) : undefined"
    :aria-hidden="labelled ? undefined : 'true'"
  >
    <circle v-if="kind === 'point'" cx="8" cy="6" r="1.2" class="faint" />
    <path v-else-if="kind === 'thread'" d="M0 6H16" class="line" />
    <template v-else-if="kind === 'operator'">
      <path d="M2 6H11" class="bar" />
      <circle cx="13.5" cy="6" r="2" class="ring" />
    </template>
    <path v-else-if="isElbow" d="M4 1V8H13" class="elbow" :stroke-dasharray="isMany ? '2.4 1.6' : undefined" />
    <path v-else d="M2 6H14" class="bar" :stroke-dasharray="isMany ? '3 1.5' : undefined" />
    <path v-if="isDenied" d="M4 11L12 1" class="strike" />
  </svg>
</template>

<style scoped>
.sign {
  width: 16px;
  height: 12px;
  stroke: currentColor;
  fill: none;
  display: block;
}
.denied {
  color: var(--error);
}
.faint {
  fill: var(--muted);
  stroke: none;
}
.line {
  stroke-width: 1.5;
}
.bar {
  stroke-width: 5;
}
.elbow {
  stroke-width: 2;
}
.ring {
  stroke-width: 1.5;
}
.strike {
  stroke-width: 1.5;
}
</style>
