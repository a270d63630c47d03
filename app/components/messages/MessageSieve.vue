<script setup lang="ts">
import { SURFACES } from '@pasticcio/core'
import type { Ground } from '~/utils/contrast'
import { SURFACE_WORDS } from '~/utils/message-words'

/** Which texts are shown: by where they are seen, by plugin and language, by words; and on what ground they are read. */
const messages = useMessagesStore()
const GROUNDS: readonly { readonly id: Ground | ''; readonly name: string }[] = [
  { id: '', name: 'own' },
  { id: 'dark', name: 'dark' },
  { id: 'light', name: 'light' },
]
const surfaces = computed(() =>
  SURFACES.map((id) => ({ id, count: messages.all.filter(({ surface }) => surface === id).length })).filter(({ count }) => count > 0),
)
const picks = computed(() => [
  { key: 'plugin' as const, label: 'Plugin', names: messages.plugins },
  ...(messages.spoken.length > 0 ? [{ key: 'language' as const, label: 'Language', names: messages.spoken }] : []),
])
function set<K extends keyof typeof messages.filter>(key: K, value: (typeof messages.filter)[K]): void {
  messages.filter = { ...messages.filter, [key]: value }
}
</script>

<template>
  <div class="strip" role="toolbar" aria-label="Where it is shown">
    <button :aria-pressed="messages.filter.surface === ''" @click="set('surface', '')">
      <span>{{ messages.all.length }}</span>all
    </button>
    <button v-for="{ id, count } in surfaces" :key="id" :aria-pressed="messages.filter.surface === id" @click="set('surface', id)">
      <span><SurfaceSign :surface="id" />{{ count }}</span
      >{{ SURFACE_WORDS[id][0] }}
    </button>
  </div>
  <div class="sieve">
    <select
      v-for="{ key, label, names } in picks"
      :key="key"
      class="in"
      :aria-label="label"
      :value="messages.filter[key]"
      @change="set(key, ($event.target as HTMLSelectElement).value)"
    >
      <option value="">any {{ key }}</option>
      <option v-for="name in names" :key="name">{{ name }}</option>
    </select>
    <input
      class="in words"
      type="search"
      placeholder="words in it"
      aria-label="Words in the text"
      :value="messages.filter.words"
      @input="set('words', ($event.target as HTMLInputElement).value)"
    />
    <label class="tick"
      ><input type="checkbox" :checked="messages.filter.onlyMine" @change="set('onlyMine', !messages.filter.onlyMine)" /> Only mine</label
    >
    <label class="tick"
      ><input type="checkbox" :checked="messages.filter.withFindings" @change="set('withFindings', !messages.filter.withFindings)" /> With
      findings, {{ messages.counts.findings }}</label
    >
    <BaseSegments v-model="messages.ground" class="push grounds" :options="GROUNDS" label="Ground of the readings" />
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 2px;
  padding: 0 12px;
  border-bottom: 1px solid var(--hairline);
  overflow-x: auto;
}
.strip button {
  display: grid;
  justify-items: start;
  min-width: 56px;
  padding: 3px 6px;
  font: var(--t-fine);
  color: var(--muted);
  border-bottom: 2px solid transparent;
}
.strip button span {
  display: flex;
  gap: 5px;
  align-items: center;
}
.strip [aria-pressed='true'] {
  color: var(--crust);
  font-weight: 700;
  border-bottom-color: var(--crust);
}
.words {
  width: 96px;
}
.sieve select {
  width: 112px;
}
.grounds {
  flex: none;
  white-space: nowrap;
}
</style>
