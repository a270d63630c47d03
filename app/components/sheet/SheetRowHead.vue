<script setup lang="ts">
import type { EntryTold } from '~/drafts/operations'
import type { HeadRow } from '~/utils/sheet-rows'

/** The head of a section, or of one of many like entries with what can be done to it. */
const props = defineProps<{
  row: HeadRow
  focused: boolean
  locked: boolean
  naming: string | null
  /** What came of it as it was copied or renamed. */
  told: EntryTold | null
}>()
const emit = defineEmits<{
  ledger: []
  copy: []
  ask: [what: 'rename' | 'remove' | 'copy' | 'add']
  move: [by: 1 | -1]
  named: [name: string]
  cancel: []
}>()
const isEntry = computed(() => props.row.type === 'entry')
const name = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
watch(
  () => props.naming,
  async (given) => {
    if (given === null) return
    name.value = given
    await nextTick()
    field.value?.select()
  },
  { immediate: true },
)
</script>

<template>
  <div class="head" role="gridcell" :style="{ paddingLeft: `${46 + Math.max(0, row.depth - 1) * 12}px` }">
    <span v-if="isEntry" class="no">{{ row.line }}</span><LayerMark
      v-if="isEntry"
      class="lm-at"
      :factory="row.inFactory"
      :yours="row.mine"
      :update="row.update !== null"
    />
    <h2>{{ row.label }}</h2>
    <code v-if="!isEntry">{{ row.key }}</code>
    <span v-if="isEntry && focused && !locked" class="entry-acts">
      <button class="act" @click="emit('copy')">Duplicate</button><kbd>d</kbd
      ><button class="act" @click="emit('ask', 'rename')">Rename</button><kbd>r</kbd
      ><button class="act" @click="emit('ask', 'copy')">Copy to …</button
      ><button class="act" aria-label="Move up" title="Move up, Alt ↑" @click="emit('move', -1)">↑</button
      ><button class="act" aria-label="Move down" title="Move down, Alt ↓" @click="emit('move', 1)">↓</button
      ><button class="act" @click="emit('ask', 'remove')">Remove</button>
    </span>
    <button v-if="row.table && focused" class="act as-ledger" @click="emit('ledger')">As a ledger</button>
    <button v-if="row.table && focused && !locked && !isEntry" class="act as-ledger" @click="emit('ask', 'add')">Add …</button>
    <span class="r"
      >{{ counted(row.settings, 'setting') }}<template v-if="row.mineCount > 0">, {{ row.mineCount }} yours</template></span
    >
    <EntryNote v-if="told" :told="told" />
    <form v-if="naming !== null" class="naming" @submit.prevent="emit('named', name.trim())">
      <label>Name of the copy <input ref="field" v-model="name" class="in w3" @keydown.esc.stop="emit('cancel')" /></label
      ><button class="btn small">Duplicate</button>
    </form>
  </div>
</template>

<style scoped>
.head {
  min-height: var(--head);
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 5px 22px 2px 46px;
  border-bottom: 1px solid var(--hairline);
  position: relative;
  flex-wrap: wrap;
}
.head h2 {
  font: var(--t-section);
}
.head code {
  color: var(--muted);
}
.head .r {
  margin-left: auto;
  font: var(--t-fine);
  color: var(--muted);
}
.entry .head {
  border-bottom: 0;
  border-top: 1px solid var(--hairline);
  padding-left: 84px !important;
}
.section + .entry .head {
  border-top: 0;
}
.no {
  font: 400 11px/20px var(--mono);
  color: var(--muted);
  text-align: right;
  position: absolute;
  left: 0;
  width: 36px;
}
.lm-at {
  position: absolute;
  left: 48px;
  margin: 0;
  top: 6px;
}
.entry-acts {
  display: inline-flex;
  gap: 8px;
  font: var(--t-fine);
  align-items: baseline;
}
.as-ledger {
  font: var(--t-fine);
}
.naming {
  width: 100%;
  display: flex;
  gap: 8px;
  align-items: center;
  font: var(--t-small);
  padding: 2px 0 4px;
}
</style>
