<script setup lang="ts">
import type { Excerpt } from '~/utils/plan-excerpt'
import { brief, choiceWords, sentence, standingChoice, type PlanRow } from '~/utils/plan-groups'

/** One decision with its reason, the ways to decide it, and where it stands in the new file. */
const props = defineProps<{ row: PlanRow }>()
const plan = usePlanStore()
const session = useSessionStore()
const excerpt = shallowRef<Excerpt | null>(null)
// the readers of all formats come when a note first wants them, not before the page can be used
watch(
  [() => plan.plan, () => props.row],
  async ([whole, row]) => {
    const { excerptOf } = await import('~/utils/plan-excerpt')
    if (whole === plan.plan && row === props.row) excerpt.value = whole && excerptOf(whole, row)
  },
  { immediate: true },
)
</script>

<template>
  <section class="note focus-note">
    <header>
      <h3 class="cut">{{ row.decision.comment ? 'Your comment' : row.label }}</h3>
      <span class="push muted">{{ row.file }}</span>
    </header>
    <p class="comment">{{ sentence(row.decision.reason) }}.</p>
    <p v-if="row.decision.comment" class="mono-block">{{ row.decision.mine }}</p>
    <template v-if="(row.decision.options?.length ?? 0) > 1">
      <div class="h">What shall it be?</div>
      <div class="choices" role="radiogroup">
        <label v-for="option in row.decision.options" :key="option.id" :class="{ on: standingChoice(row) === option.id }">
          <input
            type="radio"
            name="choice"
            :checked="standingChoice(row) === option.id"
            :disabled="!session.mayEdit || plan.working"
            @change="plan.choose(row, option)"
          />
          <span
            ><b>{{ choiceWords(option.id)[0] }}</b
            ><code v-if="option.value !== undefined">{{ brief(option.value) }}</code
            >{{ choiceWords(option.id)[1] }}</span
          >
        </label>
      </div>
      <div class="acts">
        <button v-if="row.open" class="btn" :disabled="!session.mayEdit || plan.working" @click="plan.decide">
          Decide and go on <kbd>Enter</kbd></button
        ><button v-else-if="row.decided" class="btn quiet" :disabled="!session.mayEdit || plan.working" @click="plan.choose(row, null)">
          Take the decision back
        </button>
      </div>
    </template>
    <div v-else-if="row.open" class="acts">
      <button class="btn" :disabled="!session.mayEdit" @click="plan.choose(row, { id: 'drop' })">Seen, let it go</button>
    </div>
    <template v-if="excerpt">
      <div class="h">
        In the new {{ row.file }} <span class="push">of {{ excerpt.total }} lines</span>
      </div>
      <ol class="lines">
        <li v-for="line in excerpt.lines" :key="line.no" :class="{ here: line.here }">
          <span class="no">{{ line.no }}</span><span :class="{ cm: /^\s*#/.test(line.text) }">{{ line.text }}</span>
        </li>
      </ol>
    </template>
  </section>
</template>

<style scoped>
.focus-note header {
  font: var(--t-fine);
}
.mono-block {
  font: 400 12px/18px var(--mono);
  white-space: pre-wrap;
  margin-top: 6px;
}
.lines {
  margin-top: 4px;
  border-top: 1px solid var(--hairline);
  border-bottom: 1px solid var(--hairline);
  padding: 4px 0;
  font: 400 12px/18px var(--mono);
}
.lines li {
  display: grid;
  grid-template-columns: 34px 1fr;
  white-space: pre;
  overflow: hidden;
}
.lines .no {
  color: var(--muted);
  font-size: 11px;
  text-align: right;
  padding-right: 10px;
}
.lines .cm {
  color: var(--muted);
}
.lines .here {
  font-weight: 600;
  background: var(--wash-yours);
}
</style>
