<script setup lang="ts">
/** The whole file seen from the side of the book: what is mine, what an update changes, and where mistakes are. */
const file = useFileStore()
const total = computed(() => Math.max(1, file.index.lineCount))
const at = (line: number): string => `${((line - 1) / total.value) * 100}%`
const ticks = computed(() => file.rows.filter((row) => row.line > 0 && row.type === 'setting'))
</script>

<template>
  <div class="edge" aria-hidden="true">
    <template v-for="row in ticks" :key="row.pointer"
      ><i v-if="row.mine" class="y" :style="{ top: at(row.line) }" /><i v-if="row.update !== null" class="u" :style="{ top: at(row.line) }"
    /></template>
    <i
      v-for="finding in file.findings"
      :key="finding.code + finding.from"
      class="e"
      :class="finding.severity"
      :style="{ top: at(finding.line) }"
    />
  </div>
</template>

<style scoped>
.edge {
  position: absolute;
  top: var(--title);
  bottom: 0;
  width: var(--edge);
  right: 0;
  border-left: 1px solid var(--hairline);
  pointer-events: none;
  background: var(--flour);
}
.edge i {
  position: absolute;
  right: 2px;
  height: 2px;
  width: 5px;
}
.y {
  background: var(--yours);
}
.u {
  background: var(--update);
  right: 7px !important;
}
.e {
  width: 8px !important;
  height: 4px !important;
  background: var(--warning);
}
.e.error {
  background: var(--error);
}
</style>
