<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import type { Cleared, StorageSizes } from '~/utils/types'

/** What Pasticcio's own data take on the disk, and what of it can go. */
const toast = useToast()
const sizes = ref<StorageSizes | null>(null)
const { busy, problem, run } = useTask()

async function load(): Promise<void> {
  sizes.value = await callApi<StorageSizes>('/api/storage')
}
onMounted(() => run(load))

const clear = (): Promise<boolean> =>
  run(async () => {
    const { changes, contents, bytes } = await callApi<Cleared>('/api/storage/clear', { method: 'POST' })
    const summary =
      changes + contents === 0
        ? 'There was nothing to clear.'
        : `Cleared ${counted(changes, 'change')} and ${counted(contents, 'file')} nobody needs; ${bytesOf(bytes)} less on the disk.`
    toast.add({ severity: 'success', summary, life: 8000 })
    await load()
  })

const rows = computed(() => {
  const all = sizes.value
  if (!all) return []
  return [
    {
      what: 'Packages',
      why: 'The pantry of all servers. A package that is on no server can be taken out on the page Plugins.',
      size: all.packages,
    },
    { what: 'Factory copies', why: 'What each version of a plugin ships, which your settings are compared with.', size: all.factory },
    { what: 'Drafts', why: 'What is staged and not applied yet.', size: all.drafts },
    {
      what: 'History',
      why: `${counted(all.changes, 'change')}, each with its files before and after. Of each server the last ${all.keptChanges} are kept, those you keep for good, and the last of each file.`,
      size: all.history,
    },
    { what: 'Not needed', why: 'What nothing refers to any more. It goes by itself within the hour.', size: all.unused },
  ]
})
</script>

<template>
  <HouseFrame title="Storage" :note="sizes ? `${bytesOf(sizes.database)} on the disk` : ''">
    <template #actions>
      <button class="btn small" :disabled="busy !== '' || !sizes" @click="clear">Clear now</button>
    </template>
    <div class="sheet-page wide">
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div v-if="!sizes && !problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
      <template v-else-if="sizes">
        <DataTable :value="rows" data-key="what" aria-label="What is kept">
          <Column header="What" row-header field="what" />
          <Column header="Size">
            <template #body="{ data }"
              ><span class="size">{{ bytesOf(data.size) }}</span></template
            >
          </Column>
          <Column header="What for" field="why" />
        </DataTable>
        <p class="muted room">
          {{ bytesOf(sizes.free) }} of the database are free for what comes next. The game servers’ own files are not part of this.
        </p>
      </template>
    </div>
  </HouseFrame>
</template>

<style scoped>
/* here the last column is for reading, and holds nothing to press */
.sheet-page :deep(td:last-child) {
  text-align: left;
}
.room {
  margin-top: 12px;
}
.size {
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
</style>
