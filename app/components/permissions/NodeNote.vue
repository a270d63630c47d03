<script setup lang="ts">
import type { ShownNode } from '~/utils/types'
import { pointerWords, settingLink, shortPath } from '~/utils/pointer-words'
import { onlyWords } from '~/utils/right-words'

/** A node: what it is for, what asks for it, and who may do what it opens. */
const props = defineProps<{ node: ShownNode }>()
const permissions = usePermissionsStore()
const server = useServerStore()
const isLong = ref(false)
const MOST = 12
const holders = computed(() => permissions.columns.filter(({ group, subject }) => group && permissions.book.may(subject, props.node.node)))
const people = computed(() => permissions.permissions.players.filter(({ id }) => permissions.book.may({ player: id }, props.node.node)))
const shown = computed(() => (isLong.value ? people.value : people.value.slice(0, MOST)))
/** Those who may only for a time. */
const terms = computed(() =>
  permissions.permissions.players.flatMap(({ id, name, grants }) => {
    const grant = grants.find((one) => one.node === props.node.node && one.until !== null)
    return grant ? [{ id, name: name || id, until: grant.until! }] : []
  }),
)
const settings = (file: string, at: string): ReturnType<typeof settingLink> => settingLink(server.slug, file, at)
function show(id: string): void {
  permissions.player = id
  permissions.column = `player ${id}`
}
</script>

<template>
  <div class="h">
    The node <span class="push muted">{{ node.plugin || 'nobody declares it' }}</span>
  </div>
  <p>
    <code>{{ node.node }}</code>
  </p>
  <p v-if="node.says" class="comment">{{ node.says }} <span class="src">the author</span></p>
  <dl class="facts">
    <dt>Asked for by</dt>
    <dd>
      <template v-if="node.asked.length > 0">
        <span v-for="one in node.asked.slice(0, 6)" :key="one.file + one.pointer" class="asking"
          >{{ pointerWords(one.pointer) }}
          <NuxtLink :to="settings(one.file, one.pointer)"
            ><code>{{ shortPath(one.file).split('/').pop() }}:{{ one.line }}</code></NuxtLink
          ><span v-for="list in one.only" :key="list.pointer" class="only"
            >{{ onlyWords(list) }} <NuxtLink :to="settings(one.file, list.pointer)">line {{ list.line }}</NuxtLink></span
          ></span
        >
      </template>
      <span v-else class="muted">no setting; its plugin may ask for it by itself</span>
    </dd>
    <dt>Held by</dt>
    <dd>{{ holders.map(({ name, players }) => `${name} ${players}`).join(', ') || 'no group' }}</dd>
    <dt>Who can</dt>
    <dd>
      {{ people.length }} of {{ counted(permissions.permissions.players.length, 'player') }}<template v-if="people.length > 0">: </template
      ><template v-for="({ id, name }, i) in shown" :key="id"
        ><button class="act" @click="show(id)">{{ name || id }}</button>{{ i < shown.length - 1 ? ', ' : '' }}</template
      ><button v-if="people.length > MOST && !isLong" class="act" @click="isLong = true">&nbsp;and {{ people.length - MOST }} more</button>
    </dd>
    <template v-if="terms.length > 0">
      <dt>For a time</dt>
      <dd>
        <span v-for="one in terms" :key="one.id" class="asking">{{ one.name }}, until {{ untilWords(one.until) }}</span>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
.asking,
.only {
  display: block;
}
.only {
  font: var(--t-fine);
  color: var(--muted);
}
</style>
