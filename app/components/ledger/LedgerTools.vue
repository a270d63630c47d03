<script setup lang="ts">
import type { LedgerView } from '~/stores/ledger-tables'

/** Which table is shown, over what, what of it, and which columns. */
const emit = defineEmits<{ open: [view: LedgerView]; save: []; load: [text: string] }>()
const ledger = useLedgerStore()
const tables = useLedgerTablesStore()
const isOpen = ref(false)
const file = useTemplateRef<HTMLInputElement>('file')
const nameOf = (pointer: string): string => pointerWords(pointer, 'the whole file')
const options = computed(() => [
  ...tables.sets.map(({ pattern, pointers, size }) => ({
    id: `0${pattern}`,
    name: `all ${pointers.length} of ${nameOf(pattern)}  ${size}`,
    view: { pointer: pattern, isOverFiles: false },
  })),
  ...tables.options.map(({ pointer, size }) => ({
    id: `0${pointer}`,
    name: `${nameOf(pointer)}  ${size}`,
    view: { pointer, isOverFiles: false },
  })),
  ...(tables.files.length > 1
    ? tables.options.map(({ pointer }) => ({
        id: `1${pointer}`,
        name: `${nameOf(pointer)} in all ${tables.files.length} files here`,
        view: { pointer, isOverFiles: true },
      }))
    : []),
])
const shown = computed(() => `${tables.view.isOverFiles ? 1 : 0}${tables.view.pointer}`)
const all = computed(() => (ledger.table?.columns ?? []).filter(({ id }) => id !== ledger.table?.idColumn))
const places = computed(() => [{ id: '', name: 'all of them' }, ...ledger.places.map((id) => ({ id, name: id }))])
function toggle(id: string): void {
  ledger.hidden = ledger.hidden.includes(id) ? ledger.hidden.filter((one) => one !== id) : [...ledger.hidden, id]
  ledger.select(ledger.cursor)
}
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text !== undefined) emit('load', text)
}
</script>

<template>
  <div class="tools">
    <Select
      v-if="options.length > 1"
      class="which"
      :model-value="shown"
      :options="options"
      option-label="name"
      option-value="id"
      aria-label="What the ledger shows"
      append-to="body"
      @update:model-value="(id: string) => emit('open', options.find((option) => option.id === id)!.view)"
    />
    <Select
      v-if="ledger.places.length > 1"
      v-model="ledger.place"
      class="where"
      :options="places"
      option-label="name"
      option-value="id"
      aria-label="Which of them"
      placeholder="all of them"
      append-to="body"
    />
    <label class="sw"><ToggleSwitch v-model="ledger.onlyMine" aria-label="Only mine" />Only mine</label>
    <label v-if="tables.findings.size > 0" class="sw"
      ><ToggleSwitch v-model="ledger.withFindings" aria-label="With findings" />Findings</label
    >
    <label v-if="tables.absent.length > 0" class="sw"
      ><ToggleSwitch v-model="tables.isWhole" aria-label="All the game knows" />All items</label
    >
    <input v-model="ledger.filter" class="in find" placeholder="id or value" aria-label="Show rows with" />
    <span class="count">{{ ledger.shown.rows.length - ledger.defaults.length }} of {{ ledger.table?.rows.length ?? 0 }}</span>
    <span class="columns push" @keydown.esc.stop="isOpen = false">
      <button class="act" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        {{ ledger.columns.length }} of {{ counted(all.length, 'column') }}
      </button>
      <span v-if="isOpen" class="panel" role="group" aria-label="Columns that are shown, and files">
        <label v-for="column in all" :key="column.id"
          ><input type="checkbox" :checked="!ledger.hidden.includes(column.id)" @change="toggle(column.id)" /> {{ column.label }}
          <code>{{ column.key }}</code></label
        >
        <span class="files">
          <button class="act" @click="emit('save')">Save as CSV</button>
          <button class="act" @click="file?.click()">Read a CSV file …</button>
          <input ref="file" class="sr" type="file" accept=".csv,.tsv,text/csv" tabindex="-1" aria-label="A CSV file" @change="read" />
        </span>
      </span>
    </span>
  </div>
</template>

<style scoped>
.tools {
  height: 36px;
  flex: none;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
  white-space: nowrap;
}
.which {
  flex: 0 1 auto;
  min-width: 130px;
  max-width: 220px;
}
.where {
  flex: none;
  width: 104px;
}
.find {
  flex: 1 1 60px;
  min-width: 56px;
  max-width: 180px;
}
.count {
  color: var(--muted);
}
.columns {
  position: relative;
}
.panel {
  position: absolute;
  right: 0;
  top: 24px;
  z-index: 30;
  display: grid;
  max-height: 320px;
  overflow: auto;
  min-width: 220px;
  padding: 6px 10px;
  background: var(--flour);
  border: 1px solid var(--crust);
  border-radius: var(--radius);
}
.panel label {
  display: flex;
  gap: 6px;
  align-items: baseline;
  line-height: 24px;
}
.panel code {
  color: var(--muted);
}
.files {
  display: flex;
  gap: 14px;
  padding-top: 6px;
  margin-top: 4px;
  border-top: 1px solid var(--hairline);
}
</style>
