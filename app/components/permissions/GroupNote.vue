<script setup lang="ts">
import type { PermissionGroup } from '@pasticcio/core'
import { settingLink } from '~/utils/pointer-words'

/** A group: how its players are called, whom it inherits from, and a copy, another name, or its end. */
const props = defineProps<{ group: PermissionGroup }>()
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const entries = useEntriesStore()
const session = useSessionStore()
const server = useServerStore()
const name = ref('')
const asks = ref(false)
const parents = computed(() => props.group.inherits.map((one) => one.name))
/** Groups it may inherit from without going round. */
const free = computed(() =>
  permissions.permissions.groups.filter(
    (one) => one.name !== props.group.name && !parents.value.includes(one.name) && !permissions.book.inherits(one.name, props.group.name),
  ),
)
const isTaken = computed(() => permissions.permissions.groups.some((one) => one.name === name.value))
const members = computed(() => permissions.permissions.players.filter(({ groups }) => groups.includes(props.group.name)))
watch(
  () => props.group.name,
  () => (asks.value = false),
)
/** A player of the group as chat shows him. */
const preview = computed(() => ({
  surface: 'chat' as const,
  texts: [`${props.group.prefix} ${members.value[0]?.name || '{player}'}${props.group.suffix}: …`],
  turn: 'together' as const,
  pointer: props.group.pointer,
  plugin: permissions.answer.plugin,
  file: permissions.answer.file ?? '',
  dress: { colour: '', style: '', filled: null, icon: '', comes: null, goes: null },
  opens: '',
  letters: null,
}))

async function make(how: 'copy' | 'add'): Promise<void> {
  if (await changes[how](props.group, name.value)) permissions.column = `group ${name.value}`
  name.value = ''
}
const rename = (): unknown => entries.ask('rename', props.group.pointer, props.group.name, permissions.answer.file ?? '')
async function remove(): Promise<void> {
  if (await changes.remove(props.group)) permissions.column = permissions.columns[0]?.id ?? ''
  asks.value = false
}
const typed = (event: Event): string => (event.target as HTMLInputElement).value
function setWeight(event: Event): void {
  const weight = Number(typed(event))
  if (typed(event) !== '' && Number.isFinite(weight) && weight !== props.group.weight) void changes.setWeight(props.group, weight)
}
</script>

<template>
  <div class="h">
    The group {{ group.name }}
    <NuxtLink class="push" :to="settingLink(server.slug, permissions.answer.file ?? '', group.pointer)"
      >line {{ permissions.answer.lines[group.pointer] }}</NuxtLink
    >
  </div>
  <ReadingView class="preview" :message="preview" ground="dark" />
  <dl class="facts">
    <template v-for="what in ['prefix', 'suffix'] as const" :key="what">
      <dt>
        <label :for="`group-${what}`">{{ what === 'prefix' ? 'Prefix' : 'Suffix' }}</label>
      </dt>
      <dd>
        <input
          v-if="session.mayEdit"
          :id="`group-${what}`"
          class="in mono"
          :value="group[what]"
          autocomplete="off"
          @change="typed($event) !== group[what] && changes.setWords(group, what, typed($event))"
        /><code v-else>{{ group[what] || 'nothing' }}</code>
      </dd>
    </template>
    <dt><label for="group-weight">Weight</label></dt>
    <dd>
      <input
        v-if="session.mayEdit"
        id="group-weight"
        class="in w1"
        inputmode="numeric"
        :value="group.weight ?? ''"
        autocomplete="off"
        @change="setWeight"
      /><code v-else>{{ group.weight ?? '–' }}</code>
    </dd>
    <dt>Inherits from</dt>
    <dd>
      <span v-for="parent in parents" :key="parent" class="parent"
        >{{ parent }}
        <button v-if="session.mayEdit" class="act" :aria-label="`inherit from ${parent} no more`" @click="changes.inherit(group, parent)">
          take out
        </button></span
      ><span v-if="parents.length === 0" class="muted">nobody</span>
      <select
        v-if="session.mayEdit && free.length > 0"
        class="in"
        aria-label="Inherit from one more"
        value=""
        @change="changes.inherit(group, typed($event))"
      >
        <option value="">and from …</option>
        <option v-for="one in free" :key="one.name">{{ one.name }}</option>
      </select>
    </dd>
  </dl>
  <template v-if="session.mayEdit">
    <form class="copy" @submit.prevent="make('copy')">
      <label for="group-copy">One more, called</label>
      <input id="group-copy" v-model.trim="name" class="in" autocomplete="off" />
      <button class="act" type="submit" :disabled="name === '' || isTaken">copy</button>
      <button class="act" type="button" :disabled="name === '' || isTaken" @click="make('add')">empty</button>
    </form>
    <p v-if="isTaken" class="wrn"><FindingMark kind="warning" /> {{ name }} is there already.</p>
    <p class="acts">
      <button class="act" @click="rename">another name …</button>
      <button v-if="!asks" class="act" @click="asks = true">take it out …</button>
    </p>
    <div v-if="asks" class="asks" role="group" :aria-label="`Take out ${group.name}`">
      <p>
        {{ group.name }} goes, also from those that inherit from it and from the order of promotion<template v-if="members.length > 0"
          >; {{ counted(members.length, 'player') }} of it {{ members.length === 1 ? 'is' : 'are' }} then in no group of this name</template
        >.
      </p>
      <button class="btn small" @click="remove">Take it out</button> <button class="act" @click="asks = false">Keep it</button>
    </div>
  </template>
</template>

<style scoped>
.preview {
  margin: 4px 0;
}
.facts .in.mono {
  width: 100%;
  font: var(--t-value);
}
.parent {
  display: flex;
  gap: 8px;
}
.copy {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font: var(--t-small);
}
.copy .in {
  width: 96px;
}
.acts {
  display: flex;
  gap: 16px;
  padding: 6px 0;
}
.asks {
  padding: 6px 0;
  font: var(--t-small);
}
</style>
