<script setup lang="ts">
/** The heads of a ledger's columns: a click puts the rows in order by one, with Shift by one more. */
defineProps<{ widths: string }>()
const ledger = useLedgerStore()
function sortBy(column: string | null, event: MouseEvent): void {
  const known = ledger.sort.find((key) => key.column === column)
  const next = { column, down: known ? !known.down : false }
  ledger.sort = event.shiftKey ? [...ledger.sort.filter((key) => key.column !== column), next] : [next]
}
const sortOf = (column: string | null): 'ascending' | 'descending' | 'none' => {
  const key = ledger.sort.find((one) => one.column === column)
  return !key ? 'none' : key.down ? 'descending' : 'ascending'
}
</script>

<template>
  <div class="heads tr" role="row" aria-rowindex="1" :style="{ gridTemplateColumns: widths }">
    <span role="columnheader"><span class="sr">Layers</span></span>
    <span role="columnheader" :aria-sort="sortOf(null)"
      ><button tabindex="-1" class="th" @click="sortBy(null, $event)"><b>id</b><code>&nbsp;</code></button></span
    >
    <span v-if="ledger.places.length > 1" role="columnheader"
      ><span class="th"><b>in</b><code>file</code></span></span
    >
    <span v-for="column in ledger.columns" :key="column.id" role="columnheader" :aria-sort="sortOf(column.id)"
      ><button tabindex="-1" class="th" :class="{ r: column.kind === 'number' }" @click="sortBy(column.id, $event)">
        <b class="cut">{{ column.label }}</b><code class="cut">{{ column.key || '&nbsp;' }}</code>
      </button></span
    >
  </div>
</template>

<style scoped>
.tr {
  display: grid;
  height: 24px;
  align-items: stretch;
  border-bottom: 1px solid var(--hairline);
  line-height: 23px;
}
.tr.on {
  background: var(--semolina);
}
.heads {
  position: sticky;
  top: 0;
  z-index: 2;
  height: 40px;
  background: var(--flour);
  border-bottom-color: var(--crust);
}
.th {
  width: 100%;
  height: 100%;
  display: grid;
  align-content: center;
  text-align: left;
  padding: 0 8px;
  font: var(--t-fine);
  line-height: 15px;
}
.th.r {
  text-align: right;
}
.th code {
  color: var(--muted);
}
[aria-sort='ascending'] b::after {
  content: ' ↑';
}
[aria-sort='descending'] b::after {
  content: ' ↓';
}
</style>
