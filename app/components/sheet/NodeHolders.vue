<script setup lang="ts">
import { onlyWords } from '~/utils/right-words'

/** Who holds the node that a setting asks for, and one more group that may: what it opens is given as one thing. */
const props = defineProps<{ node: string; locked: boolean }>()
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const server = useServerStore()
onMounted(() => permissions.load())
const groups = computed(() => permissions.columns.filter(({ group }) => group !== null))
const holders = computed(() => groups.value.filter(({ subject }) => permissions.book.may(subject, props.node)))
const others = computed(() => groups.value.filter(({ subject }) => !permissions.book.may(subject, props.node)))
const players = computed(() => permissions.permissions.players.filter(({ id }) => permissions.book.may({ player: id }, props.node)).length)
/** All nodes that the settings of the same entry ask for: what they open is given as one. */
const feature = computed(() => {
  const asked = permissions.answer.nodes.flatMap(({ node, asked: by }) =>
    by.map(({ file, pointer }) => ({ node, entry: entryOf(file, pointer) })),
  )
  const own = new Set(asked.filter(({ node }) => node === props.node).map(({ entry }) => entry))
  return [...new Set([props.node, ...asked.filter(({ entry }) => own.has(entry)).map(({ node }) => node)])]
})
const entryOf = (file: string, pointer: string): string => `${file} ${pointer.slice(0, pointer.lastIndexOf('/'))}`
const only = computed(() => permissions.answer.nodes.find(({ node }) => node === props.node)?.asked.flatMap((one) => one.only) ?? [])
async function give(name: string): Promise<void> {
  if (name !== '') await changes.change(name, feature.value, 'granted')
}
</script>

<template>
  <template v-if="groups.length > 0">
    <div class="h">
      Who may
      <NuxtLink class="push" :to="{ path: `/s/${server.slug}/permissions`, query: { node } }">why</NuxtLink>
    </div>
    <dl class="facts">
      <dt>Held by</dt>
      <dd>
        {{ holders.map(({ name }) => name).join(', ') || 'no group' }}
        <span v-if="permissions.permissions.players.length > 0" class="muted"
          >{{ players }} of {{ counted(permissions.permissions.players.length, 'player') }}</span
        >
      </dd>
      <template v-if="only.length > 0">
        <dt>Besides</dt>
        <dd>
          <span v-for="list in only" :key="list.pointer">{{ onlyWords(list) }} </span>
        </dd>
      </template>
      <template v-if="!locked && others.length > 0">
        <dt>Give {{ feature.length > 1 ? `all ${feature.length}` : 'it' }} to</dt>
        <dd>
          <select class="in" aria-label="Give it to a group" value="" @change="give(($event.target as HTMLSelectElement).value)">
            <option value="">a group …</option>
            <option v-for="{ id, name } in others" :key="id">{{ name }}</option>
          </select>
        </dd>
      </template>
    </dl>
    <p v-if="permissions.problem" class="wrn" role="alert"><FindingMark kind="warning" /> {{ permissions.problem }}</p>
  </template>
</template>
