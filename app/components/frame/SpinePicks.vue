<script setup lang="ts">
/** One plugin of a station that shows what is of it alone. */
export interface SpinePick {
  readonly name: string
  readonly yours: boolean
  readonly update: boolean
  readonly count: number
  readonly worst?: 'error' | 'warning' | null
}
/** In the place of a server’s plugins and files: the plugins by what they have for this station, one of which may be looked at alone. */
const props = defineProps<{ title: string; unit: string; picks: readonly SpinePick[] }>()
const chosen = defineModel<string>({ required: true })
const choose = (name: string): void => void (chosen.value = chosen.value === name ? '' : name)
</script>

<template>
  <h2>
    {{ props.title }}<span>{{ unit }}</span>
  </h2>
  <ul class="plugins">
    <li v-for="{ name, yours, update, count, worst } in picks" :key="name">
      <button :class="{ open: chosen === name }" :aria-pressed="chosen === name" @click="choose(name)">
        <LayerMark factory :yours="yours" :update="update" /> <span class="cut">{{ name }}</span>
        <span class="n"><FindingMark v-if="worst" :kind="worst" />{{ count || 'none' }}</span>
      </button>
    </li>
  </ul>
</template>
