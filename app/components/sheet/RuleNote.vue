<script setup lang="ts">
import type { Rule, RuleSource } from '@pasticcio/core'
import { ruleWords } from '~/utils/rule-words'
import type { SettingRow } from '~/utils/sheet-rows'

/** What is known of a setting and from where, the most trusted first; and what somebody says it is. */
const props = defineProps<{ row: SettingRow; locked: boolean }>()
const sheet = useSheetStore()
const { problem, run } = useTask()
const asking = ref(false)
const NAMES: Readonly<Record<RuleSource, string>> = {
  yours: 'yours',
  declared: 'a description',
  comment: 'the author’s words',
  seen: 'the factory copy',
}
const NAMED = Object.keys(NAMES)
const own = computed(() => props.row.rules.find(({ source }) => source === 'yours'))
const words = computed(() => (props.row.rule ? ruleWords(props.row.rule) : []))
const sources = computed(() =>
  props.row.rules
    .filter(({ source, means }) => source !== undefined && (means !== undefined || source !== 'seen'))
    .sort((a, b) => NAMED.indexOf(a.source!) - NAMED.indexOf(b.source!)),
)
const agrees = (rule: Rule): boolean => rule.means === undefined || rule.means === props.row.rule?.means

watch(
  () => props.row.pointer,
  () => (asking.value = false),
)
async function give(rule: Rule): Promise<void> {
  if (await run(() => sheet.giveRule(rule))) asking.value = false
}
</script>

<template>
  <div class="h">
    Its rule
    <template v-if="!locked"
      ><button v-if="own" class="act push" @click="run(() => sheet.dropRule(own!.path))">take mine back</button
      ><button v-else class="act push" :aria-expanded="asking" @click="asking = !asking">
        {{ asking ? 'never mind' : 'say what it is' }}
      </button></template
    >
  </div>
  <dl v-if="words.length > 0" class="facts">
    <template v-for="[name, said] in words" :key="name"
      ><dt>{{ name }}</dt>
      <dd>{{ said }}</dd></template
    >
  </dl>
  <p v-else-if="!asking" class="under">Nothing is known but that it is {{ typeof row.value === 'number' ? 'a number' : 'a value' }}.</p>
  <p v-if="sources.length > 0" class="under">
    Known from
    <template v-for="(rule, i) in sources" :key="i"
      >{{ i > 0 ? ', ' : '' }}{{ NAMES[rule.source!] }}{{ agrees(rule) ? '' : ' (not heard)' }}</template
    >.
  </p>
  <LazyRuleForm v-if="asking && !locked" :row="row" @give="give" />
  <p v-if="problem" class="under" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
</template>

<style scoped>
.under {
  font: var(--t-fine);
  color: var(--muted);
  margin-top: 4px;
}
</style>
