<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import type { LineRow } from '~/utils/sheet-rows'

/** One setting on its line: number, layers, name, key, control, and what there is to say about it. */
const props = defineProps<{
  row: LineRow
  locked: boolean
  /** The worst finding here, with its first sentence. */
  finding: { readonly severity: 'error' | 'warning'; readonly words: string } | null
}>()
const emit = defineEmits<{ set: [value: Value]; turnOn: [] }>()
const factory = computed(() => (props.row.type === 'off' ? '' : props.row.factory || 'empty'))
const waits = computed(() => (props.row.type === 'setting' ? props.row.waits : null))
</script>

<template>
  <div class="ln" :class="{ waits, tall: row.type === 'setting' && row.control === 'picture' }">
    <span class="no">{{ row.type === 'off' ? '#' : '' }}{{ row.line || '' }}</span
    ><span role="gridcell" class="lm-at"><LayerMark :factory="row.inFactory" :yours="row.mine" :update="row.update !== null" /></span>
    <span role="rowheader" class="lb cut" :style="{ paddingLeft: `${Math.max(0, row.depth - 1) * 12}px` }" :title="row.label">{{
      row.label
    }}</span><code class="ky cut">{{ row.key }}</code>
    <span v-if="row.type === 'removed'" role="gridcell" class="ct muted">you took it out</span>
    <span v-else-if="row.type === 'off'" role="gridcell" class="ct">
      <span class="unset" aria-hidden="true" /><span class="muted">not set</span
      ><button
        class="act"
        :disabled="locked"
        :aria-label="`Set ${row.label} to ${row.source || 'what stands there'}`"
        @click="emit('turnOn')"
      >
        set to {{ row.source || 'what stands there' }}
      </button>
    </span>
    <span v-else role="gridcell" class="ct"
      ><SettingControl :row="row" :disabled="locked" :bad="finding?.severity === 'error'" @set="(value) => emit('set', value)"
    /></span>
    <span role="gridcell" class="nt cut">
      <template v-if="finding"
        ><FindingMark :kind="finding.severity" /><span class="w" :class="finding.severity === 'error' ? 'err' : 'wrn'">{{
          finding.words
        }}</span></template
      >
      <span v-else-if="waits" class="w">{{ waits }}</span>
      <template v-else
        ><template v-if="row.mine && row.inFactory"
          ><i class="bar f" /><span class="cut">{{ factory }}</span></template
        ><template v-if="row.update !== null"
          ><i class="bar u" /><span class="upd cut">{{ row.update || 'empty' }}</span></template
        ></template
      >
    </span>
  </div>
</template>

<style scoped>
.ln {
  min-height: var(--line);
  display: grid;
  grid-template-columns: 36px 36px 176px 100px minmax(210px, 1.1fr) minmax(0, 1fr);
  align-items: center;
  padding-right: 22px;
}
.no {
  font: 400 11px/20px var(--mono);
  color: var(--muted);
  text-align: right;
}
.lm-at {
  margin-left: 12px;
  line-height: 0;
}
.ky {
  color: var(--muted);
  padding-right: 6px;
}
.ct {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.nt {
  font: var(--t-key);
  color: var(--muted);
  display: flex;
  align-items: center;
  gap: 5px;
  padding-left: 8px;
}
.nt .w {
  font: var(--t-fine);
  overflow: hidden;
  text-overflow: ellipsis;
}
.ct :deep(.unit.cut) {
  flex-shrink: 100;
}
/* as high as it will be once its picture is here */
.tall .ct {
  min-height: 50px;
}
/* beside what the factory and an update have there is room for the file's own unit */
.setting:not(.wide) .ct :deep(.more) {
  display: none;
}
.waits .lb,
.off .lb {
  color: var(--muted);
}
.waits :deep(.in) {
  border-bottom-style: dotted;
  color: var(--muted);
}
.unset {
  width: 26px;
  height: 14px;
  flex: none;
  border: 1px dashed var(--field-rule);
  border-radius: 7px;
}
.removed .lb {
  text-decoration: line-through;
  color: var(--muted);
}
.focus .lb {
  font-weight: 700;
}
.focus .ln {
  min-height: 28px;
}
.wide .ct {
  grid-column: 5 / 7;
}
.wide .nt {
  display: none;
}
.wide .ct :deep(textarea.in),
.wide .ct :deep(.at .in) {
  width: 100%;
}
.wide .ct :deep(.at) {
  flex: 1;
}
/* beside the source there is no room for keys, which the source shows anyway */
@container (max-width: 720px) {
  .ln {
    grid-template-columns: 36px 34px minmax(90px, 140px) minmax(0, 1fr) minmax(0, 120px);
    padding-right: 12px;
  }
  .ky {
    display: none;
  }
  .ct {
    flex-wrap: wrap;
  }
  .ct :deep(.in) {
    max-width: 100%;
  }
  .wide .ct {
    grid-column: 4 / 6;
  }
}
</style>
