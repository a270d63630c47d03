<script setup lang="ts">
import { NEEDS_EYES, rowId, type PlanGroup } from '~/utils/plan-groups'
import { shortVersion } from '~/utils/short-version'

/** Every decision of an update in groups, those that wait for somebody first. */
const plan = usePlanStore()
const session = useSessionStore()
const count = (...outcomes: string[]): number =>
  plan.groups.flatMap((group) => group.rows).filter((row) => outcomes.includes(row.decision.outcome)).length
const from = computed(() => shortVersion(plan.plan?.from ?? ''))
const to = computed(() => shortVersion(plan.plan?.to ?? ''))
const isOpen = (group: PlanGroup): boolean => !group.folded || plan.unfolded.has(group.id)
const clear = (group: PlanGroup): boolean => group.rows.some((row) => row.open && !NEEDS_EYES.includes(row.decision.outcome))
watch(
  () => plan.focus,
  () => void nextTick(() => document.querySelector('.cr.focus')?.scrollIntoView({ block: 'nearest' })),
)
</script>

<template>
  <div class="sums">
    <div :class="{ need: plan.plan!.open > 0 }">
      <b>{{ plan.plan!.open }}<FindingMark :kind="plan.plan!.open > 0 ? 'decision' : 'done'" /></b><span>need your decision</span>
    </div>
    <div>
      <b>{{ count('default-moved', 'kind-changed', 'scale-changed') }}<LayerMark factory yours update /></b><span>changed under you</span>
    </div>
    <div>
      <b>{{ count('moved') }}<BaseIcon name="arrow" /></b><span>renamed, moved along</span>
    </div>
    <div>
      <b>{{ count('added-by-update', 'offered') }}<LayerMark update /></b><span>new settings</span>
    </div>
    <div>
      <b>{{ count('kept-mine', 'kept-addition', 'same-change', 'stays-removed') }}<LayerMark factory yours /></b><span>kept as yours</span>
    </div>
  </div>
  <div class="cols">
    <span /><span>setting</span><span><i class="bar f" />factory {{ from }}</span
    ><span><i class="bar y" />yours</span><span><i class="bar u" />factory {{ to }}</span
    ><span /><span>in the new file</span>
  </div>
  <div class="scroll" role="grid" aria-label="Carry-forward plan">
    <template v-for="group in plan.groups" :key="group.id">
      <div class="grp" role="row">
        <div role="gridcell" class="grp-cell">
          <button v-if="group.folded" :aria-expanded="isOpen(group)" :aria-label="group.title" class="fold" @click="plan.fold(group.id)">
            <BaseIcon :name="isOpen(group) ? 'down' : 'right'" />
          </button>
          <h2>{{ group.title }}</h2>
          <span class="ct"
            >{{ group.rows.length
            }}<template v-if="group.id === 'decide'">, {{ group.rows.filter((row) => row.decided).length }} made</template></span
          >
          <span class="r"
            ><template v-if="group.id === 'decide'"
              ><button v-if="clear(group)" class="act" :disabled="!session.mayEdit || plan.working" @click="plan.keepAll">
                keep the clear ones as shown
              </button>
              next <kbd>.</kbd></template
            ><template v-else>{{ group.aside }}</template></span
          >
        </div>
      </div>
      <template v-if="isOpen(group)">
        <PlanRowLine
          v-for="row in group.rows"
          :key="rowId(row)"
          :row="row"
          :focused="plan.focus === rowId(row)"
          :told="group.id === 'decide' || group.id === 'told'"
          @click="plan.focus = rowId(row)"
          @focus="plan.focus = rowId(row)"
        />
      </template>
    </template>
    <div role="row">
      <span role="gridcell" class="rest"
        >Everything else is as shipped in both versions and follows {{ to }}, with its new comments and order.</span
      >
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: var(--plan-columns);
  align-items: center;
  padding-right: 12px;
  height: 24px;
  flex: none;
  font: var(--t-fine);
  color: var(--muted);
  border-bottom: 1px solid var(--hairline);
}
.sums {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  height: 60px;
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.sums > div {
  padding: 6px 0 0 16px;
  border-left: 1px solid var(--hairline);
}
.sums > div:first-child {
  border-left: 0;
}
.sums b {
  font: var(--t-figure);
  display: flex;
  align-items: center;
  gap: 8px;
}
.sums > div > span {
  font: var(--t-fine);
  color: var(--muted);
  display: block;
}
.sums .need b,
.sums .need > span {
  color: var(--error);
}
.cols span {
  display: flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
.grp-cell {
  flex: 1;
  display: flex;
  align-items: flex-end;
  gap: 8px;
}
.fold {
  align-self: center;
  width: 16px;
}
.rest {
  display: block;
  font: var(--t-fine);
  color: var(--muted);
  padding: 8px 16px 24px;
}
</style>
