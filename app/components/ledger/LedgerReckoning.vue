<script setup lang="ts">
import type { Reckoning } from '@pasticcio/core'

/** Arithmetic over the selection: what it would make of each cell is shown at once, and nothing is staged before Enter. */
const ledger = useLedgerStore()
const does = ref<Reckoning['does']>('times')
const by = ref('1')
const step = ref('')
const least = ref('')
const most = ref('')
const first = useTemplateRef<HTMLInputElement>('first')
const KINDS: readonly { readonly id: Reckoning['does']; readonly name: string }[] = [
  { id: 'times', name: '×' },
  { id: 'add', name: '+' },
  { id: 'set', name: 'set' },
]
watch([does, by, step, least, most], () => {
  ledger.reckoning = { does: does.value, by: by.value, step: step.value, least: least.value, most: most.value }
})
onMounted(() => {
  first.value?.focus()
  first.value?.select()
})
</script>

<template>
  <form
    class="reckoning"
    aria-label="Reckon with the selection"
    @submit.prevent="ledger.takeReckoning()"
    @keydown.esc.prevent.stop="ledger.leave()"
  >
    <div class="fields">
      <b>{{ counted(ledger.selected.length, 'cell') }}</b>
      <BaseSegments v-model="does" :options="KINDS" label="What is done" />
      <input ref="first" v-model="by" class="in w0" inputmode="decimal" aria-label="By how much" />
      <label>round to <input v-model="step" class="in w0" inputmode="decimal" placeholder="any" /></label>
      <label>least <input v-model="least" class="in w0" inputmode="decimal" placeholder="any" /></label>
      <label>most <input v-model="most" class="in w0" inputmode="decimal" placeholder="any" /></label>
    </div>
    <div class="does">
      <button class="btn small" type="submit" :disabled="ledger.reckoned.changes.length === 0">Put in the tray <kbd>Enter</kbd></button>
      <button class="act" type="button" @click="ledger.leave()">Leave</button>
    </div>
    <span class="says" :class="{ err: ledger.reckoned.problem }" role="status">
      <template v-if="ledger.reckoned.problem">{{ ledger.reckoned.problem }}</template>
      <template v-else
        >{{ counted(ledger.reckoned.changes.length, 'change')
        }}<template v-if="ledger.reckoned.following > 0"
          >; {{ ledger.reckoned.following }} follow their category<template v-if="!ledger.isForAll">
            and stay, <button type="button" class="act" @click="ledger.isForAll = true">change those too</button></template
          ></template
        ><template v-if="ledger.reckoned.said > 0">; {{ ledger.reckoned.said }} with a meaning of their own stay</template
        ><template v-if="ledger.reckoned.left > 0">; {{ ledger.reckoned.left }} hold no plain number and stay</template></template
      >
    </span>
  </form>
</template>

<style scoped>
.reckoning {
  flex: none;
  min-height: 48px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 2px 12px;
  padding: 6px 16px;
  background: var(--semolina);
  border-top: 1px solid var(--hairline);
  font: var(--t-small);
}
.fields,
.does {
  display: flex;
  align-items: center;
  gap: 12px;
}
.fields {
  flex-wrap: wrap;
}
.says {
  grid-column: 1 / -1;
  color: var(--muted);
}
.says.err {
  color: var(--error);
}
</style>
