<script setup lang="ts">
/** What the selection comes to, and the keys. */
const ledger = useLedgerStore()
const amounts = computed(() =>
  ledger.selected.flatMap(({ cell }) => (cell?.kind === 'number' && Number.isFinite(Number(cell.text)) ? [Number(cell.text)] : [])),
)
const sum = computed(() => amounts.value.reduce((total, amount) => total + amount, 0))
/** With no more than two places, which is all that a look at it needs. */
const plain = (amount: number): string => String(Number(amount.toFixed(2)))
</script>

<template>
  <div class="foot">
    <span v-if="amounts.length > 1"
      ><em>Sum</em> {{ plain(sum) }} <em>mean</em> {{ plain(sum / amounts.length) }} <em>of</em> {{ amounts.length }}</span
    >
    <span class="push"><kbd>Enter</kbd> edit <kbd>Shift</kbd> arrows select <kbd>Ctrl D</kbd> fill down <kbd>*</kbd> reckon</span>
  </div>
</template>

<style scoped>
.foot {
  flex: none;
  height: 32px;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  border-top: 1px solid var(--hairline);
  font: var(--t-fine);
  color: var(--muted);
}
em {
  font-family: var(--serif);
}
</style>
