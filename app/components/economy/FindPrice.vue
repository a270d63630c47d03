<script setup lang="ts">
import { amountFor, hoursToAfford, priceFor, withAmount, type Moving } from '@pasticcio/core'
import { asWords, hoursWords } from '~/utils/economy-words'

/** One setting is found for a goal: what it has to be so that a kind of player affords something after so many hours. */
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const session = useSessionStore()
const kind = ref('')
const thing = ref('')
const count = ref('')
const hours = ref('')
const setting = ref('')

const things = computed(() => economy.things)
const settings = computed(() => economy.draft.streams.filter(isOwn))
const isOwn = ({ pointer, says, isOnce, amount, doing }: Moving): boolean =>
  pointer !== '' && !isOnce && says === amount && doing !== 'share' && doing !== 'loop'
const goal = computed(() => economy.goals[0])
const chosen = computed(() => ({
  kind: economy.kinds.find(({ id }) => id === (kind.value || goal.value?.kind)) ?? economy.kinds[0],
  thing: things.value.find(({ id }) => id === (thing.value || goal.value?.thing)) ?? things.value[0],
  setting:
    settings.value.find(({ id }) => id === setting.value) ?? settings.value.find(({ doing }) => doing === 'payout') ?? settings.value[0],
  count: Math.max(1, Math.round(Number(count.value || goal.value?.count)) || 1),
  hours: Number(hours.value || goal.value?.hours) || 0,
}))
/** As many decimals as the setting has, so that it can be written. */
const found = computed(() => {
  const { kind: who, thing: what, count: many, setting: by, hours: until } = chosen.value
  if (!who || !what || !by || until <= 0) return null
  // the thing's own price is one of what may be found, and is then no longer what it was
  const isPrice = by.id === what.id
  const exact = isPrice
    ? priceFor(economy.draft.streams, who.kind, until, what.price * many)
    : amountFor(economy.draft.streams, by.id, who.kind, what.price * many, until)
  if (exact === null) return null
  const decimals = (String(by.says).split('.')[1] ?? '').length
  const value = Number((isPrice ? exact / many : exact).toFixed(decimals))
  const price = (isPrice ? value : what.price) * many
  return { value, comes: hoursToAfford(withAmount(economy.draft.streams, by.id, value), who.kind, price) }
})
const isAtOnce = computed(() => {
  const { kind: who, thing: what, count: many } = chosen.value
  return who && what && hoursToAfford(economy.draft.streams, who.kind, what.price * many) === 0
})
const take = (): Promise<boolean> | undefined => {
  const { setting: by } = chosen.value
  return by && found.value
    ? changes.write([{ file: by.file, pointer: by.pointer, around: by.around, to: String(found.value.value) }])
    : undefined
}
</script>

<template>
  <div v-if="things.length > 0 && settings.length > 0">
    <h4 class="h rule">Find the price</h4>
    <p class="goal">
      <select v-model="kind" class="in" aria-label="Who">
        <option value="">{{ chosen.kind?.name }}</option>
        <option v-for="one in economy.kinds" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      afford
      <input v-model="count" class="in count" inputmode="numeric" :placeholder="String(chosen.count)" aria-label="How many of it" />
      <select v-model="thing" class="in" aria-label="What">
        <option value="">{{ asWords(chosen.thing?.name ?? '') }}</option>
        <option v-for="one in things" :key="one.id" :value="one.id">{{ asWords(one.name) }}, {{ one.plugin }}</option>
      </select>
      in
      <input
        v-model="hours"
        class="in hours"
        inputmode="decimal"
        :placeholder="String(chosen.hours)"
        aria-label="After how many hours of play"
      />
      hours if
      <select v-model="setting" class="in" aria-label="Which setting is found">
        <option value="">{{ chosen.setting?.name }}</option>
        <option v-for="one in settings" :key="one.id" :value="one.id">{{ one.name }}, {{ one.plugin }}</option>
      </select>
      {{ chosen.setting?.way === 'in' ? 'pays' : 'costs' }}
      <template v-if="found"
        ><b>{{ found.value }}</b
        ><span class="muted"> (now {{ chosen.setting?.says }})</span>, which comes to {{ hoursWords(found.comes) }}.
        <button v-if="session.mayEdit && found.value !== chosen.setting?.says" class="act" :disabled="changes.isBusy" @click="take">
          Put in the tray
        </button></template
      >
      <span v-else class="muted">… no value does it<template v-if="isAtOnce">: they afford it at once</template>.</span>
    </p>
  </div>
</template>

<style scoped>
.rule {
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
  margin: 10px 0 0;
}
.goal {
  font: var(--t-small);
  line-height: 24px;
  margin: 2px 0 0;
}
.goal .in {
  max-width: 110px;
}
.goal .count {
  width: 34px;
}
.goal .hours {
  width: 40px;
}
</style>
