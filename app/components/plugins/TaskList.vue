<script setup lang="ts">
import type { Task } from '~/utils/types'

/** What only a person can do, to be ticked off; it stays with the plugin. */
defineProps<{ tasks: readonly Task[] }>()
const emit = defineEmits<{ tick: [task: Task, done: boolean] }>()
const session = useSessionStore()
</script>

<template>
  <ul class="tasks">
    <li v-for="(task, i) in tasks" :key="task.task">
      <Checkbox
        binary
        :input-id="`task-${i}`"
        :model-value="task.doneBy !== null"
        :disabled="!session.mayEdit"
        @update:model-value="emit('tick', task, Boolean($event))"
      /><label :for="`task-${i}`">{{ task.task }}</label>
      <span class="muted fine">{{ task.doneBy ? `done by ${task.doneBy}, ${momentOf(task.doneAt ?? '')}` : '' }}</span>
    </li>
  </ul>
</template>

<style scoped>
.tasks li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: var(--line);
  padding: 2px 12px 2px 16px;
  font: var(--t-small);
}
.tasks label {
  flex: 1;
}
.fine {
  font: var(--t-fine);
}
</style>
