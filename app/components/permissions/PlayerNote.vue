<script setup lang="ts">
import type { PermissionPlayer, Term } from '@pasticcio/core'
import { differsWords } from '~/utils/permission-people'
import { settingLink } from '~/utils/pointer-words'

/** One player: groups, what is said of nobody else with how long, and what is given or taken, as a command or in the file. */
const props = defineProps<{ player: PermissionPlayer; node: string }>()
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const session = useSessionStore()
const server = useServerStore()
const person = computed(() => permissions.people([props.player])[0] ?? null)
const ways = computed(() => permissions.answer.players)
const mayChange = computed(() => session.mayEdit && ways.value.by !== null)
const own = computed(() => props.player.grants.find(({ node }) => node === props.node) ?? null)
const free = computed(() => permissions.permissions.groups.filter(({ name }) => !props.player.groups.includes(name)))
const term = ref<Term | null>(null)
const change = (node: string, word: 'granted' | 'denied' | null): Promise<void> =>
  changes.changePlayer(props.player.id, 'node', node, word, word === null ? null : term.value)
const join = (group: string, isIn: boolean): Promise<void> => changes.changePlayer(props.player.id, 'group', group, isIn ? 'granted' : null)
const line = computed(() => ways.value.lines[props.player.pointer])
</script>

<template>
  <p v-if="mayChange" class="mend">
    <button v-if="!own || own.isDenied" class="btn small" @click="change(node, 'granted')">
      Grant it to {{ player.name || player.id }} <kbd>+</kbd>
    </button>
    <button v-if="own" class="act" @click="change(node, null)">say nothing of it <kbd>0</kbd></button>
    <button v-if="ways.hasDeny && (!own || !own.isDenied)" class="act" @click="change(node, 'denied')">deny it <kbd>-</kbd></button>
    <TermField v-if="ways.units.length > 0" v-model="term" :units="ways.units" />
  </p>
  <p v-if="mayChange" class="muted small">
    {{ ways.by === 'commands' ? 'Said to the console when it is applied.' : 'Written to the file of players.' }}
  </p>
  <p v-else class="muted small">What is {{ player.name || player.id }}’s alone is changed by {{ permissions.answer.plugin }} itself.</p>
  <div class="h">
    The player {{ player.name || player.id }}
    <NuxtLink v-if="line" class="push" :to="settingLink(server.slug, ways.file ?? '', player.pointer)">line {{ line }}</NuxtLink>
  </div>
  <dl class="facts">
    <dt>Id</dt>
    <dd>
      <code>{{ player.id }}</code> <PlayerSeen :id="player.id" />
    </dd>
    <dt>May</dt>
    <dd v-if="person">
      {{ counted(person.count, 'thing') }}, {{ player.isOperator ? 'and all else, as an operator' : differsWords(person) }}
    </dd>
    <dt>In groups</dt>
    <dd>
      <span v-for="name in player.groups" :key="name" class="one"
        >{{ name }}
        <button v-if="mayChange && ways.hasGroups" class="act" :aria-label="`out of ${name}`" @click="join(name, false)">
          take out
        </button></span
      >
      <span v-if="player.groups.length === 0" class="muted">none; counts as {{ permissions.permissions.everybody ?? 'nobody' }}</span>
      <select
        v-if="mayChange && ways.hasGroups && free.length > 0"
        class="in"
        aria-label="Into one more group"
        value=""
        @change="join(($event.target as HTMLSelectElement).value, true)"
      >
        <option value="">and in …</option>
        <option v-for="{ name } in free" :key="name">{{ name }}</option>
      </select>
    </dd>
    <dt>Alone</dt>
    <dd>
      <span v-for="grant in player.grants" :key="grant.node" class="one"
        ><code>{{ grant.isDenied ? '-' : '' }}{{ grant.node }}</code
        ><span v-if="grant.until" class="muted">until {{ untilWords(grant.until) }}</span
        ><button v-if="mayChange" class="act" :aria-label="`say nothing of ${grant.node}`" @click="change(grant.node, null)">
          clear
        </button></span
      >
      <span v-if="player.grants.length === 0" class="muted">nothing</span>
    </dd>
  </dl>
</template>

<style scoped>
.mend {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: baseline;
  margin: 8px 0 2px;
}
.small {
  font: var(--t-fine);
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
</style>
