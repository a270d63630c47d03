<script setup lang="ts">
import { NumberText, type Value } from '@pasticcio/core'
import type { SettingRow } from '~/utils/sheet-rows'

/** The control that fits a value. It changes the draft when it is left or confirmed, text while it is typed. */
const props = defineProps<{ row: SettingRow; disabled: boolean; bad: boolean }>()
const emit = defineEmits<{ set: [value: Value] }>()
const typed = ref(shown())
/** What was typed here and has not come back yet: the file answers a moment later, and must not undo what was typed since. */
let sent: string[] = []
watch(
  () => props.row.source,
  () => {
    const now = shown()
    const at = sent.indexOf(now)
    if (at < 0) typed.value = now
    sent = at < 0 ? [] : sent.slice(at + 1)
  },
)
function type(): void {
  sent.push(typed.value)
  emit('set', typed.value)
}

function shown(): string {
  return props.row.control === 'lines'
    ? (props.row.value as unknown[]).map(String).join('\n')
    : props.row.control === 'text' || props.row.control === 'block'
      ? String(props.row.value ?? '')
      : props.row.source
}
function setNumber(): void {
  const text = typed.value.trim()
  // what is no number is kept as typed, and found to be wrong, rather than thrown away
  emit('set', /^-?\d+(\.\d+)?$/.test(text) ? new NumberText(text) : text)
}
function nudge(by: 1 | -1): void {
  const decimals = /\.(\d+)/.exec(props.row.source)?.[1]?.length ?? 0
  const next = Number(props.row.source) + by * (decimals > 0 ? 10 ** -decimals : 1)
  if (Number.isFinite(next)) emit('set', new NumberText(next.toFixed(decimals)))
}
/** What is written as a number; what is none has no amount. */
const amount = computed(() => (typed.value.trim() !== '' && Number.isFinite(Number(typed.value)) ? Number(typed.value) : undefined))
const items = computed(() => (Array.isArray(props.row.value) ? props.row.value.map(String) : []))
const adding = ref('')
function typedItem(text: string): Value {
  return props.row.control === 'slots' ||
    (items.value.length > 0 && items.value.every((item) => /^-?\d+$/.test(item)) && /^-?\d+$/.test(text))
    ? new NumberText(text)
    : text
}
function addToken(): void {
  const text = adding.value.trim()
  adding.value = ''
  if (text !== '') emit('set', [...items.value.map(typedItem), typedItem(text)])
}
function toggleSlot(slot: number): void {
  const now = (props.row.value as number[]).filter((item) => item !== slot)
  const next = now.length === (props.row.value as number[]).length ? [...now, slot].sort((a, b) => a - b) : now
  emit('set', next)
}
const slotCount = computed(() => Math.max(9, Math.ceil((Math.max(0, ...items.value.map(Number)) + 1) / 9) * 9))
const choices = computed(() => [...new Set([...(props.row.rule?.choices ?? []), props.row.source])])
</script>

<template>
  <label v-if="row.control === 'switch'" class="sw" :class="{ muted: !row.value }">
    <ToggleSwitch
      :model-value="Boolean(row.value)"
      :disabled="disabled"
      :aria-label="row.label"
      @update:model-value="(value: boolean) => emit('set', value)"
    />{{ row.value ? 'on' : 'off' }}
  </label>
  <template v-else-if="row.control === 'number'">
    <input
      v-model="typed"
      class="in w1"
      :class="{ bad }"
      inputmode="decimal"
      role="spinbutton"
      :aria-valuenow="amount"
      :aria-valuetext="typed || 'empty'"
      :aria-valuemin="row.rule?.min"
      :aria-valuemax="row.rule?.max"
      :disabled="disabled"
      :aria-label="row.label"
      @change="setNumber"
      @keydown.up.prevent="nudge(1)"
      @keydown.down.prevent="nudge(-1)"
    />
    <span class="step"
      ><button tabindex="-1" :disabled="disabled" :aria-label="`${row.label} less`" @click="nudge(-1)"><BaseIcon name="minus" /></button
      ><button tabindex="-1" :disabled="disabled" :aria-label="`${row.label} more`" @click="nudge(1)"><BaseIcon name="plus" /></button
    ></span>
    <span v-if="row.rule?.max !== undefined && row.rule.max <= 1" class="unit">of {{ row.rule.max }}</span>
    <span v-else-if="row.rule?.unit" class="unit">{{ row.rule.unit }}s</span>
  </template>
  <Select
    v-else-if="row.control === 'choice'"
    :model-value="row.source"
    :options="choices"
    :disabled="disabled"
    :aria-label="row.label"
    append-to="body"
    @update:model-value="(value: string) => emit('set', value)"
  />
  <span v-else-if="row.control === 'tokens'" class="toks">
    <button
      v-for="(item, i) in items"
      :key="i"
      class="tok"
      :disabled="disabled"
      :aria-label="`Take out ${item}`"
      @click="emit('set', items.filter((_x, j) => j !== i).map(typedItem))"
    >
      {{ item }}
    </button>
    <input
      v-model="adding"
      class="in"
      style="width: 56px"
      :disabled="disabled"
      placeholder="+"
      :aria-label="`Add to ${row.label}`"
      @keydown.enter.prevent="addToken"
      @change="addToken"
    />
  </span>
  <span v-else-if="row.control === 'slots'" class="slots" role="group" :aria-label="row.label">
    <button
      v-for="slot in slotCount"
      :key="slot"
      role="checkbox"
      :aria-checked="items.includes(String(slot - 1))"
      :aria-label="`slot ${slot - 1}`"
      :disabled="disabled"
      @click="toggleSlot(slot - 1)"
    >
      {{ slot - 1 }}
    </button>
  </span>
  <textarea
    v-else-if="row.control === 'lines' || row.control === 'block'"
    v-model="typed"
    class="in"
    :rows="Math.min(6, typed.split('\n').length)"
    :disabled="disabled || (row.control === 'block' && typeof row.value !== 'string')"
    :aria-label="row.label"
    @change="emit('set', row.control === 'lines' ? typed.split('\n').filter((line) => line.trim() !== '') : typed)"
  />
  <code v-else-if="row.control === 'reference'" class="muted">{{ row.source }}</code>
  <input
    v-else
    v-model="typed"
    class="in w4"
    :class="{ bad }"
    :disabled="disabled"
    :aria-label="row.label"
    placeholder="empty"
    @input="type"
  />
</template>
