<script setup lang="ts">
import type { TableFound } from '@pasticcio/core'

/** Which table is shown, what of it, and which columns. */
const props = defineProps<{ tables: readonly TableFound[] }>()
const ledger = useLedgerStore()
const isOpen = ref(false)
const options = computed(() =>
  props.tables.map(({ pointer, size }) => ({ pointer, name: `${pointer.slice(1).replaceAll('/', '.') || 'the whole file'}  ${size}` })),
)
const all = computed(() => (ledger.table?.columns ?? []).filter(({ id }) => id !== ledger.table?.idColumn))
function toggle(id: string): void {
  ledger.hidden = ledger.hidden.includes(id) ? ledger.hidden.filter((one) => one !== id) : [...ledger.hidden, id]
  ledger.select(ledger.cursor)
}
</script>

<template>
  <div class="tools">
    <Select
      v-if="tables.length > 1"
      :model-value="ledger.pointer"
      :options="options"
      option-label="name"
      option-value="pointer"
      aria-label="What the ledger shows"
      append-to="body"
      @update:model-value="(pointer: string) => ledger.open(pointer)"
    />
    <label class="sw"><ToggleSwitch v-model="ledger.onlyMine" aria-label="Only mine" />Only mine</label>
    <input v-model="ledger.filter" class="in w3" placeholder="id or value" aria-label="Show rows with" />
    <span class="count">{{ ledger.shown.rows.length }} of {{ ledger.table?.rows.length ?? 0 }}</span>
    <span class="columns push" @keydown.esc.stop="isOpen = false">
      <button class="act" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        {{ ledger.columns.length }} of {{ counted(all.length, 'column') }}
      </button>
      <span v-if="isOpen" class="panel" role="group" aria-label="Columns that are shown">
        <label v-for="column in all" :key="column.id"
          ><input type="checkbox" :checked="!ledger.hidden.includes(column.id)" @change="toggle(column.id)" /> {{ column.label }}
          <code>{{ column.key }}</code></label
        >
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
  gap: 14px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-small);
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
  white-space: nowrap;
  line-height: 24px;
}
.panel code {
  color: var(--muted);
}
</style>
