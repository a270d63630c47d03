<script setup lang="ts">
import type { RemovalPlan } from '~/utils/types'

/** What taking a plugin out would do: what goes, what stays, and the choice of its settings. */
defineProps<{ plan: RemovalPlan }>()
const keep = defineModel<'keep' | 'archive'>({ required: true })
const CHOICES = [
  { id: 'keep' as const, title: 'Leave them where they are', words: 'Installed again, it finds what you had set.' },
  {
    id: 'archive' as const,
    title: 'Take them out, too',
    words: 'They are kept in History for good, and come back when this is taken back.',
  },
]
</script>

<template>
  <div class="grp">
    <h2>Its settings and records</h2>
    <span class="ct">{{ plan.settings.length }}</span>
  </div>
  <fieldset class="choices">
    <legend class="sr">What becomes of its settings and records</legend>
    <label v-for="choice in CHOICES" :key="choice.id" :class="{ on: keep === choice.id }">
      <input v-model="keep" type="radio" name="keep" :value="choice.id" /><span
        ><b>{{ choice.title }}</b
        >{{ choice.words }}</span
      >
    </label>
  </fieldset>
  <template
    v-for="list in [
      { title: 'Files that go', paths: plan.removed },
      { title: 'Changed by somebody, and left where they are', paths: [...plan.changed, ...plan.left] },
    ]"
    :key="list.title"
  >
    <div v-if="list.paths.length > 0" class="grp">
      <h2>{{ list.title }}</h2>
      <span class="ct">{{ list.paths.length }}</span>
    </div>
    <ul class="paths">
      <li v-for="path in list.paths" :key="path">
        <code>{{ path }}</code>
      </li>
    </ul>
  </template>
  <template v-for="text in plan.texts" :key="text.path">
    <div class="grp">
      <h2>Taken out of</h2>
      <code>{{ text.path }}</code>
    </div>
    <TextDiff :before="text.before ?? ''" :after="text.after ?? ''" />
  </template>
</template>

<style scoped>
.choices {
  margin: 6px 16px;
  border: 0;
  padding: 0;
}
.paths {
  padding: 4px 16px 8px;
  columns: 2;
  font: var(--t-fine);
}
</style>
