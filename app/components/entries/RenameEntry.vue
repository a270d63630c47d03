<script setup lang="ts">
/** A new name for an entry, with what refers to it listed first. */
const emit = defineEmits<{ done: [] }>()
const entries = useEntriesStore()
const name = ref(entries.asked?.name ?? '')
const files = computed(() => new Set(entries.chosen.map((at) => entries.references?.[at]?.file)).size)
const isReady = computed(() => entries.references !== null && name.value.trim() !== '' && name.value.trim() !== entries.asked?.name)
async function rename(): Promise<void> {
  if (isReady.value && (await entries.rename(name.value.trim()))) emit('done')
}
</script>

<template>
  <form @submit.prevent="rename">
    <FormLine label="New name" field="entry-name" help="Also put wherever the entry repeats its own name: texts, nodes, commands.">
      <input id="entry-name" v-model="name" class="in w4" autofocus aria-describedby="entry-name-help" />
    </FormLine>
    <ReferenceList pick />
    <div class="acts">
      <button class="btn go" :disabled="!isReady || entries.isBusy">
        Rename it<template v-if="entries.chosen.length > 0"
          >, and {{ counted(entries.chosen.length, 'place') }} in {{ counted(files, 'file') }}</template
        >
      </button>
      <button type="button" class="btn quiet" @click="entries.asked = null">Never mind</button>
    </div>
  </form>
</template>
