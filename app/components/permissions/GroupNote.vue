<script setup lang="ts">
import type { PermissionGroup } from '@pasticcio/core'

/** A group: what it is before names, whom it inherits from, and a copy of it under another name. */
const props = defineProps<{ group: PermissionGroup }>()
const permissions = usePermissionsStore()
const session = useSessionStore()
const server = useServerStore()
const name = ref('')
const parents = computed(() => props.group.inherits.map((one) => one.name))
/** Groups it may inherit from without going round. */
const free = computed(() =>
  permissions.permissions.groups.filter(
    (one) => one.name !== props.group.name && !parents.value.includes(one.name) && !permissions.book.inherits(one.name, props.group.name),
  ),
)
const isTaken = computed(() => permissions.permissions.groups.some((one) => one.name === name.value))
async function copy(): Promise<void> {
  await permissions.copy(props.group, name.value)
  if (permissions.problem === '') permissions.column = `group ${name.value}`
  name.value = ''
}
</script>

<template>
  <div class="h">
    The group {{ group.name }}
    <NuxtLink class="push" :to="{ path: `/s/${server.slug}/settings/${permissions.answer.file}`, query: { at: group.pointer } }"
      >line {{ permissions.answer.lines[group.pointer] }}</NuxtLink
    >
  </div>
  <dl class="facts">
    <dt>Prefix</dt>
    <dd><TextRuns v-if="group.prefix" :text="group.prefix" plugin="" /><span v-else class="muted">none</span></dd>
    <dt>Inherits from</dt>
    <dd>
      <span v-for="parent in parents" :key="parent" class="parent"
        >{{ parent }}
        <button
          v-if="session.mayEdit"
          class="act"
          :aria-label="`inherit from ${parent} no more`"
          @click="permissions.inherit(group, parent)"
        >
          take out
        </button></span
      ><span v-if="parents.length === 0" class="muted">nobody</span>
      <select
        v-if="session.mayEdit && free.length > 0"
        class="in"
        aria-label="Inherit from one more"
        value=""
        @change="permissions.inherit(group, ($event.target as HTMLSelectElement).value)"
      >
        <option value="">and from …</option>
        <option v-for="one in free" :key="one.name">{{ one.name }}</option>
      </select>
    </dd>
  </dl>
  <form v-if="session.mayEdit" class="copy" @submit.prevent="copy">
    <label for="group-copy">A copy called</label>
    <input id="group-copy" v-model.trim="name" class="in" autocomplete="off" />
    <button class="act" type="submit" :disabled="name === '' || isTaken">copy</button>
  </form>
  <p v-if="isTaken" class="wrn"><FindingMark kind="warning" /> {{ name }} is there already.</p>
</template>

<style scoped>
.parent {
  display: flex;
  gap: 8px;
}
.copy {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font: var(--t-small);
}
.copy .in {
  width: 96px;
}
</style>
