<script setup lang="ts">
import { SECONDS, type Meaning, type Rule } from '@pasticcio/core'
import { plural } from '~/utils/counted'
import { fieldsOf, partsOf, rareFieldsOf, textsOf } from '~/utils/rule-form'
import { MEANING_WORDS } from '~/utils/rule-words'
import type { SettingRow } from '~/utils/sheet-rows'

/** What somebody says a setting is: its meaning, and what goes with it. */
const props = defineProps<{ row: SettingRow }>()
const emit = defineEmits<{ give: [rule: Rule] }>()
const known = useKnownStore()
const server = useServerStore()
const uid = useId()
const means = ref<Meaning>(props.row.rule?.means ?? (typeof props.row.value === 'number' ? 'number' : 'text'))
const unit = ref(props.row.rule?.unit ?? 'second')
const registry = ref(props.row.rule?.registry ?? 'items')
const texts = reactive({ ...textsOf(props.row.rule) })
/** What is said of one entry of a group holds for all of them. */
const path = computed(() => props.row.rules[0]?.path ?? props.row.pointer)
/** What is said more rarely is shown when asked for, or where it is said. */
const isMore = ref(rareFieldsOf(means.value).some(({ name }) => texts[name]))
const fields = computed(() => [...fieldsOf(means.value), ...(isMore.value ? rareFieldsOf(means.value) : [])])

function give(): void {
  emit('give', {
    path: path.value,
    means: means.value,
    ...(means.value === 'duration' ? { unit: unit.value } : {}),
    ...(means.value === 'id' || means.value === 'amount' ? { registry: registry.value } : {}),
    ...partsOf(means.value, texts, server.overview?.plugins.map(({ name }) => name) ?? []),
  })
}
</script>

<template>
  <form class="rule" :aria-label="`What ${row.label} is`" @submit.prevent="give">
    <label :for="`${uid}-means`">It is</label>
    <select :id="`${uid}-means`" v-model="means" class="in">
      <option v-for="(words, name) in MEANING_WORDS" :key="name" :value="name">{{ words }}</option>
    </select>
    <template v-if="means === 'duration'">
      <label :for="`${uid}-unit`">in</label>
      <select :id="`${uid}-unit`" v-model="unit" class="in">
        <option v-for="(_size, name) in SECONDS" :key="name" :value="name">{{ plural(String(name)) }}</option>
      </select>
    </template>
    <template v-if="means === 'id' || means === 'amount'">
      <label :for="`${uid}-of`">of the</label>
      <select :id="`${uid}-of`" v-model="registry" class="in">
        <option v-for="(_list, name) in known.known.registries" :key="name" :value="name">{{ name }}</option>
      </select>
    </template>
    <template v-for="field in fields" :key="field.name">
      <label :for="`${uid}-${field.name}`">{{ field.label }}</label>
      <select v-if="field.options" :id="`${uid}-${field.name}`" v-model="texts[field.name]" class="in">
        <option value="">{{ field.placeholder }}</option>
        <option v-for="(words, name) in field.options" :key="name" :value="name">{{ words }}</option>
      </select>
      <input
        v-else
        :id="`${uid}-${field.name}`"
        v-model="texts[field.name]"
        class="in"
        :inputmode="field.kind === 'number' ? 'decimal' : 'text'"
        :placeholder="field.placeholder"
      />
    </template>
    <div class="ends">
      <button class="btn small" type="submit">Say so</button>
      <button v-if="!isMore" class="act" type="button" @click="isMore = true">more to say</button>
    </div>
  </form>
</template>

<style scoped>
.rule {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 4px 8px;
  align-items: baseline;
  padding: 6px 0;
  font: var(--t-small);
}
.rule label {
  color: var(--muted);
}
.rule .ends {
  grid-column: 2;
  display: flex;
  align-items: baseline;
  gap: 10px;
  margin-top: 4px;
}
</style>
