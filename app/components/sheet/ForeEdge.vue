<script setup lang="ts">
/** The whole file seen from the side of the book: what is mine, what an update changes, and where mistakes are. */
const sheet = useSheetStore()
/** More marks than this cannot be told apart on a screen. */
const STEPS = 400
const total = computed(() => Math.max(1, sheet.snapshot?.lineCount ?? 1))
const step = (line: number): number => Math.floor(((line - 1) / total.value) * STEPS)
const stepsOf = (lines: Iterable<number>): number[] => [...new Set([...lines].map(step))]
const at = (where: number): string => `${(where / STEPS) * 100}%`
const mine = computed(() => stepsOf(sheet.mineLines))
const updates = computed(() => stepsOf(sheet.updateLines))
const findings = computed(() => new Map(sheet.findings.toReversed().map((finding) => [step(finding.line), finding.severity])))
</script>

<template>
  <div class="edge" aria-hidden="true">
    <i v-for="where in mine" :key="`y${where}`" class="y" :style="{ top: at(where) }" />
    <i v-for="where in updates" :key="`u${where}`" class="u" :style="{ top: at(where) }" />
    <i v-for="[where, severity] in findings" :key="`e${where}`" class="e" :class="severity" :style="{ top: at(where) }" />
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
