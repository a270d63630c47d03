<script setup lang="ts">
import { LIKES, onlineOf, type FittedKind, type Like } from '@pasticcio/core'
import { amountWords } from '~/utils/economy-words'
import { ORIGIN_RULES, ORIGIN_WORDS } from '~/utils/origin-words'

/** Whom is reckoned with: how many of each kind there are, how long they play, and how many are online by that. */
const economy = useEconomyStore()
const session = useSessionStore()
const isChanging = ref(false)
const name = ref('')
const total = computed(() => economy.kinds.reduce((sum, { players }) => sum + players.value, 0))
const online = computed(() => economy.kinds.reduce((sum, kind) => sum + onlineOf(kind.kind), 0))

function set(kind: FittedKind, what: 'players' | 'hours', event: Event): void {
  const input = event.target as HTMLInputElement
  const text = input.value.trim()
  const value = text === '' ? null : Number(text)
  const most = what === 'hours' ? 24 : 1_000_000
  if (value === null || (value >= 0 && value <= most && (what === 'players' || value > 0))) {
    economy.setKind(kind.id, { [what]: value === null ? null : what === 'players' ? Math.round(value) : value })
    if (value !== null) return
  } else economy.problem = `“${text}” is no number of ${what} from 0 to ${most.toLocaleString('en')}.`
  void nextTick(() => (input.value = String(economy.kinds.find(({ id }) => id === kind.id)?.[what].value ?? '')))
}
function infer(kind: FittedKind, what: 'players' | 'hours', event: KeyboardEvent): void {
  event.preventDefault()
  economy.setKind(kind.id, { [what]: null })
}
function add(): void {
  if (name.value.trim() === '') return
  economy.addKind(name.value.trim())
  name.value = ''
}
</script>

<template>
  <div>
    <h3 class="sum">
      The people we reckon with <span>{{ counted(total, 'player') }}</span>
    </h3>
    <p class="comment">
      {{ amountWords(Number(online.toFixed(1))) }} are online in an average hour. Change a number and the page is reckoned anew.
    </p>
    <table class="figures flush" :class="{ changing: isChanging }">
      <thead>
        <tr>
          <th scope="col"><span class="sr">Kind</span></th>
          <th scope="col">players</th>
          <th scope="col" class="wide">hours a day</th>
          <th scope="col">online</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="kind in economy.kinds" :key="kind.id" :class="{ on: economy.focus === `kind ${kind.id}` }">
          <th scope="row" class="cut">
            <input
              v-if="isChanging"
              class="in name"
              :value="kind.name"
              :aria-label="`Name of ${kind.name}`"
              @change="economy.setKind(kind.id, { name: ($event.target as HTMLInputElement).value.trim() || kind.name })"
            /><template v-else>{{ kind.name }}</template>
          </th>
          <td v-for="what in ['players', 'hours'] as const" :key="what">
            <input
              class="in"
              :class="ORIGIN_RULES[kind[what].from]"
              inputmode="decimal"
              :value="kind[what].value"
              :disabled="!session.mayEdit"
              :aria-label="`${what === 'hours' ? 'Hours a day' : 'Players'} of ${kind.name}, ${ORIGIN_WORDS[kind[what].from]}`"
              @change="set(kind, what, $event)"
              @keydown.f="infer(kind, what, $event)"
            />
          </td>
          <td v-if="!isChanging" class="no">{{ amountWords(Number(onlineOf(kind.kind).toFixed(1))) }}</td>
          <td v-else class="no">
            <select
              class="in like"
              :value="kind.like"
              :aria-label="`What ${kind.name} are like`"
              @change="economy.setKind(kind.id, { like: ($event.target as HTMLSelectElement).value as Like })"
            >
              <option v-for="like in LIKES" :key="like" :value="like">{{ like }}</option>
            </select>
            <button v-if="economy.kinds.length > 1" class="act" :aria-label="`Take out ${kind.name}`" @click="economy.removeKind(kind.id)">
              ×
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="session.mayEdit" class="other">
      <template v-if="isChanging"
        ><input
          v-model="name"
          class="in"
          placeholder="one more kind"
          aria-label="Name of one more kind"
          @keydown.enter.prevent="add"
        /><button class="act" :disabled="name.trim() === ''" @click="add">add</button
        ><button class="act push" @click="isChanging = false">done</button></template
      >
      <button v-else class="act" @click="isChanging = true">other kinds of players</button>
      <span v-if="!economy.isKept" class="muted push" role="status">keeping …</span>
    </p>
  </div>
</template>

<style scoped>
th:first-child {
  width: 32%;
}
.wide {
  width: 27%;
}
.no {
  color: var(--muted);
}
td .in {
  width: 48px;
}
td .like {
  width: 72px;
}
.changing th:first-child {
  width: 27%;
}
.changing .wide {
  width: 19%;
}
.changing .in.t,
.changing .in.r,
.changing .in.i {
  width: 40px;
}
.name {
  width: 72px;
}
.other {
  display: flex;
  gap: 10px;
  margin: 4px 0 0;
  font: var(--t-small);
}
</style>
