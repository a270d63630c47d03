<script setup lang="ts">
import type { ShownPart, ShownStep } from '~/utils/types'

/** Everything that would be done, numbered in its order, and at last what makes it count. */
const install = useInstallStore()
const server = useServerStore()
const session = useSessionStore()
const plan = computed(() => install.plan!)
const numbered = computed(() => {
  let number = plan.value.framework.part ? 1 : 0
  return plan.value.steps.map((step) => ({ step, parts: step.parts.map((part) => ({ part, number: ++number })) }))
})
const last = computed(() => numbered.value.flatMap(({ parts }) => parts).length + (plan.value.framework.part ? 1 : 0) + 1)
const because = ({ because: why, requiredBy, replaces }: ShownStep): string =>
  [
    why === 'required' ? `because ${requiredBy} needs it` : why === 'companion' ? `comes with ${requiredBy}` : '',
    replaces ? `in place of ${replaces.version}` : '',
  ]
    .filter(Boolean)
    .join(', ')
const counting = computed(() => {
  const isUp = server.state.status === 'running'
  if (isUp && plan.value.after === 'load') return `Load it into ${server.slug}, which runs on`
  return `${isUp ? 'Restart' : 'Start'} ${server.slug} and read the console`
})
const framework = computed(() => plan.value.framework.part as ShownPart | null)
</script>

<template>
  <section v-if="framework" class="plan-part">
    <div class="grp">
      <span class="plan-no">1</span>
      <h3>Switch on what loads plugins</h3>
      <code>{{ framework.path }}</code>
    </div>
    <TextDiff v-for="text in framework.texts" :key="text.path" :before="text.before ?? ''" :after="text.after ?? ''" />
  </section>
  <section v-for="{ step, parts } in numbered" :key="step.name">
    <div v-if="plan.steps.length > 1" class="grp plugin">
      <h2>{{ step.name }} {{ step.version }}</h2>
      <span class="r">{{ because(step) }}</span>
      <button v-if="step.because === 'companion'" class="act" @click="install.toggle('without', step.name)">leave it out</button>
    </div>
    <p v-if="step.from === 'site'" class="plan-line">
      <BaseProgress v-if="install.fetching" :label="`Fetching ${install.fetching} from the plugin site`" />
      <template v-else>
        A plugin site has it. What it brings stands here once it is in the pantry.
        <button v-if="session.mayEdit" class="act" @click="install.fetchAgain">fetch it</button>
      </template>
    </p>
    <PlanPart v-for="({ part, number }, i) in parts" :key="i" :step="step" :part="part" :number="number" />
  </section>
  <p v-for="name in install.without" :key="name" class="plan-line">
    {{ name }} is left out. <button class="act" @click="install.toggle('without', name)">take it along</button>
  </p>
  <div v-if="plan.places" class="plan-line field">
    <label for="place" class="b">Into the place</label>
    <Select
      input-id="place"
      :model-value="install.place"
      :options="[...plan.places]"
      placeholder="choose one"
      @update:model-value="install.setPlace(String($event))"
    />
  </div>
  <div class="grp">
    <span class="plan-no">{{ last }}</span>
    <h3>{{ counting }}</h3>
    <span class="r">up to 10 s, then it counts as silent; going back takes out all of it</span>
  </div>
</template>

<style scoped>
.plugin {
  background: var(--semolina);
  height: 32px;
}
</style>
