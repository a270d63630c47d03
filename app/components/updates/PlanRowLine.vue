<script setup lang="ts">
import { brief, sentence, type PlanRow } from '~/utils/plan-groups'

/** One decision on its line: what was, what is yours, what the update ships, and what it comes to. */
const props = defineProps<{ row: PlanRow; focused: boolean; /** Whether its reason is told below. */ told: boolean }>()
const decision = computed(() => props.row.decision)
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
</script>

<template>
  <div class="cr" role="row" tabindex="0" :class="{ dec: told, focus: focused }" :aria-selected="focused">
    <span role="gridcell" class="mk"
      ><FindingMark v-if="row.open" kind="decision" /><FindingMark v-else-if="row.decided" kind="done" /><LayerMark
        v-else
        :factory="decision.factory !== undefined"
        :yours="decision.mine !== undefined && decision.outcome !== 'took-update'"
        :update="decision.update !== undefined && !same(decision.update, decision.factory)"
    /></span>
    <span role="rowheader" class="lb cut">{{ decision.comment ? 'Your comment' : row.label }}</span>
    <span role="gridcell" class="c f cut">{{ brief(decision.factory) }}</span><span role="gridcell" class="c y cut">{{
      brief(decision.mine)
    }}</span
    ><span role="gridcell" class="c u cut">{{
      decision.update === undefined ? (decision.comment ? '–' : 'gone') : brief(decision.update)
    }}</span>
    <BaseIcon name="arrow" />
    <span role="gridcell" class="res cut"
      ><template v-if="decision.result !== undefined"
        ><i class="bar" :class="same(decision.result, decision.update) ? 'u' : 'y'" />
        {{ decision.path.slice(1).split('/').slice(-2).join('.') }}: {{ brief(decision.result) }}</template
      ><span v-else class="say muted">not in the new file</span></span
    >
    <span v-if="told" role="gridcell" class="why cut"
      >{{ sentence(decision.reason)
      }}<template v-if="decision.confidence">, {{ Math.round(decision.confidence * 100) }} % sure</template></span
    >
  </div>
</template>

<style scoped>
.cr {
  display: grid;
  grid-template-columns: var(--plan-columns);
  align-items: center;
  padding-right: 12px;
  height: 24px;
  position: relative;
  width: 100%;
  cursor: pointer;
}
.cr > * {
  min-width: 0;
}
.cr .mk {
  margin-left: 16px;
  line-height: 0;
}
.cr .c {
  font: 400 12px/20px var(--mono);
  padding-right: 8px;
}
.cr .c.f {
  color: var(--muted);
}
.cr .c.y {
  font-weight: 600;
}
.cr .c.u {
  color: var(--update);
}
.cr .res {
  font: 400 12px/20px var(--mono);
}
.say {
  font: var(--t-small);
}
.cr.dec {
  height: 40px;
  grid-template-rows: 22px 18px;
}
.cr .why {
  grid-column: 2 / -1;
  font: var(--t-fine);
  color: var(--muted);
  margin-top: -3px;
}
.cr.focus {
  background: var(--semolina);
  box-shadow:
    inset 0 1px 0 var(--crust),
    inset 0 -1px 0 var(--hairline);
  outline: 0;
}
.cr.focus .lb {
  font-weight: 700;
}
</style>
