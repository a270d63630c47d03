<script setup lang="ts">
import type { EntryTemplate } from '~/drafts/templates'

/** A new entry, made from one that is there or one the plugin ships. */
const emit = defineEmits<{ done: [] }>()
const entries = useEntriesStore()
const drafts = useDraftsStore()
const template = shallowRef<EntryTemplate | null>(null)
const name = ref('')
/** Null where entries are called nothing. */
const suggested = ref<string | null>(null)
const options = computed(() => [
  { label: 'As the plugin ships it', items: entries.templates.filter(({ side }) => side === 'factory') },
  { label: 'Of yours', items: entries.templates.filter(({ side }) => side === 'mine') },
])
watch(
  () => entries.templates,
  (all) => (template.value = all.find(({ side }) => side === 'factory') ?? all[0] ?? null),
  { immediate: true },
)
watch(
  template,
  async (now) => {
    if (!now) return
    const mine = entries.templates.find((one) => one.side === 'mine' && one.name === now.name)
    suggested.value = mine ? ((await drafts.current?.engine.suggestedName(mine.pointer)) ?? null) : now.name
    name.value = suggested.value ?? ''
  },
  { immediate: true },
)
async function add(): Promise<void> {
  if (template.value && (await entries.add(template.value, suggested.value === null ? null : name.value.trim()))) emit('done')
}
</script>

<template>
  <p v-if="entries.templates.length === 0" class="muted">There is nothing here that a new entry could be made from.</p>
  <form v-else @submit.prevent="add">
    <FormLine label="Made from" field="entry-template">
      <Select
        v-model="template"
        input-id="entry-template"
        class="w4"
        :options="options.filter(({ items }) => items.length > 0)"
        option-label="name"
        option-group-label="label"
        option-group-children="items"
        data-key="pointer"
        aria-label="Made from"
      />
    </FormLine>
    <FormLine v-if="suggested !== null" label="Name" field="entry-name">
      <input id="entry-name" v-model="name" class="in w4" autofocus />
    </FormLine>
    <div class="acts">
      <button class="btn go" :disabled="!template || entries.isBusy || (suggested !== null && name.trim() === '')">Add it</button>
      <button type="button" class="btn quiet" @click="entries.asked = null">Never mind</button>
    </div>
  </form>
</template>
