<script setup lang="ts">
import type { Survey } from '~/utils/types'

/** What lies in a server's folder: family, game, plugins, settings, and what cannot be compared. */
const props = defineProps<{ survey: Survey; busy: boolean }>()
defineEmits<{ family: [id: string] }>()
const chosen = computed(() => props.survey.families.find((item) => item.family === props.survey.family) ?? null)
const families = computed(() => props.survey.families.map(({ family, title }) => ({ id: family, name: title })))
</script>

<template>
  <section aria-label="What was found">
    <h2>What is there</h2>
    <FormLine label="Family" field="family">
      <Select
        label-id="family"
        :model-value="survey.family"
        :options="families"
        option-label="name"
        option-value="id"
        placeholder="choose one"
        aria-label="Family"
        :disabled="busy"
        @update:model-value="$emit('family', $event)"
      />
      <p v-if="chosen" class="signs">
        <span
          ><FindingMark :kind="chosen.hasVersionFile ? 'done' : 'warning'" /> <code>{{ chosen.versionFile }}</code>
          {{ chosen.hasVersionFile ? 'is there' : 'is missing' }}</span
        >
        <span
          ><FindingMark :kind="chosen.hasFolder ? 'done' : 'warning'" /> <code>{{ chosen.folder }}/</code>
          {{ chosen.hasFolder ? counted(chosen.packages, 'package') : 'is missing' }}</span
        >
      </p>
      <p v-else class="signs">
        Nothing here looks like a server of a family Pasticcio knows. Check the folder, or choose the family yourself.
      </p>
    </FormLine>
    <template v-if="chosen">
      <dl class="facts found">
        <dt>Game</dt>
        <dd>{{ survey.game }}</dd>
        <dt>Plugins</dt>
        <dd>
          {{ survey.plugins.length === 0 ? 'none yet' : survey.plugins.map((item) => `${item.name} ${item.version}`).join(', ') }}
        </dd>
        <dt>Settings</dt>
        <dd>{{ counted(survey.settingsFiles, 'file') }}</dd>
        <template v-if="survey.withoutFactory.length > 0">
          <dt>Without factory copy</dt>
          <dd>
            {{ counted(survey.withoutFactory.length, 'file') }}: these can be edited, but not compared with what the plugin ships.
            <details>
              <summary>Which</summary>
              <ul>
                <li v-for="path in survey.withoutFactory" :key="path">
                  <code>{{ path }}</code>
                </li>
              </ul>
            </details>
          </dd>
        </template>
        <template v-if="survey.strangers.length > 0">
          <dt>Not read</dt>
          <dd>
            <span v-for="path in survey.strangers" :key="path"
              ><FindingMark kind="warning" /> <code>{{ path }}</code> looks like a package and is none.
            </span>
          </dd>
        </template>
      </dl>
    </template>
  </section>
</template>

<style scoped>
.signs {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  font: var(--t-fine);
  margin-top: 6px;
}
.signs code,
.found code {
  font-size: 12px;
}
.found {
  grid-template-columns: 120px minmax(0, 1fr);
  font: var(--t-small);
  overflow-wrap: anywhere;
}
summary {
  cursor: pointer;
}
</style>
