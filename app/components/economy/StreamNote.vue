<script setup lang="ts">
import { movedByAll, type Moving } from '@pasticcio/core'
import { amountWords, asWords, groupWords, percentWords, streamWords } from '~/utils/economy-words'
import { settingLink } from '~/utils/pointer-words'

/** The settings behind what is looked at in the flow, each with what it moves, to be changed here. */
const economy = useEconomyStore()
const changes = useEconomyChangesStore()
const server = useServerStore()
const session = useSessionStore()
const group = computed(() => economy.flow.groups.find(({ id }) => id === economy.focus) ?? null)
const moved = (stream: Moving): number => movedByAll(stream, economy.people)
const streams = computed(() => [...(group.value?.streams ?? [])].sort((a, b) => moved(b) - moved(a)))
const isOwn = ({ pointer, says, doing }: Moving): boolean =>
  pointer !== '' && says > 0 && doing !== 'loop' && doing !== 'tax' && doing !== 'sells'
const saysOf = ({ share, amount }: Moving): string => (share !== null ? percentWords(share) : amountWords(amount))
const write = ({ file, pointer, around, name, says }: Moving, event: Event): Promise<void> =>
  changes.type(event.target as HTMLInputElement, { file, pointer, around }, { what: 'amount', name: asWords(name), says })
</script>

<template>
  <div v-if="group" class="note">
    <h3 class="sum">
      {{ groupWords(group).title }} <span>{{ amountWords(Math.round(group.draft)) }} an hour</span>
    </h3>
    <p class="comment">{{ groupWords(group).under }}</p>
    <table class="figures flush">
      <thead>
        <tr>
          <th scope="col">setting</th>
          <th scope="col">amount</th>
          <th scope="col">an hour</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="stream in streams" :key="stream.id + stream.activity">
          <th scope="row" class="cut">
            <NuxtLink v-if="stream.pointer" :to="settingLink(server.slug, stream.file, stream.pointer)">{{
              streamWords(stream)
            }}</NuxtLink><template v-else>{{ asWords(stream.name) }}, {{ counted(stream.settings, 'price') }}</template>
            <small v-if="economy.lineOf(stream.file, stream.pointer)" class="muted"
              >&ensp;line {{ economy.lineOf(stream.file, stream.pointer) }}</small
            >
          </th>
          <td>
            <input
              v-if="isOwn(stream) && session.mayEdit"
              class="in"
              inputmode="decimal"
              :value="stream.says"
              :disabled="changes.isBusy"
              :aria-label="`How much: ${streamWords(stream)}`"
              @change="write(stream, $event)"
              @keydown.enter.prevent="write(stream, $event)"
            /><template v-else>{{ saysOf(stream) }}</template>
          </td>
          <td class="no">{{ amountWords(Math.round(moved(stream))) }}</td>
        </tr>
      </tbody>
    </table>
    <p><button class="act" @click="economy.focus = ''">all of it</button></p>
  </div>
</template>

<style scoped>
th:first-child {
  width: 62%;
}
td .in {
  width: 52px;
}
.no {
  color: var(--muted);
}
</style>
