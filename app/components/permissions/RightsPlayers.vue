<script setup lang="ts">
import type { Term } from '@pasticcio/core'
import { differsWords, pastedLines, type SeenPlayer } from '~/utils/permission-people'
import { nodeWords } from '~/utils/permission-rows'

/** Players with all they may, and beside them ids or names that are pasted, to be given something together. */
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const known = useKnownStore()
const session = useSessionStore()
const words = ref('')
const rank = ref('')
const pasted = ref('')
const give = ref('')
const term = ref<Term | null>(null)
const ways = computed(() => permissions.answer.players)
const mayGive = computed(() => session.mayEdit && ways.value.by !== null)
/** So many are shown at once: what each may is reckoned node by node. */
const MOST = 200
const fitting = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return permissions.permissions.players.filter(
    (player) =>
      (rank.value === '' || permissions.book.groupsOf(player).includes(rank.value)) &&
      (wanted === '' || player.name.toLowerCase().includes(wanted) || player.id.includes(wanted)),
  )
})
const rows = computed(() => permissions.people(fitting.value.slice(0, MOST)))
const form = computed(() => (ways.value.id === null ? null : new RegExp(ways.value.id)))
const seen = computed<readonly SeenPlayer[]>(() => [
  ...(known.known.registries['players'] ?? []).map(({ id, name }) => ({ id, name: name ?? '' })),
  ...permissions.permissions.players.map(({ id, name }) => ({ id, name })),
])
const lines = computed(() => pastedLines(pasted.value, seen.value, form.value))
const good = computed(() => lines.value.filter(({ problem }) => problem === ''))
/** Nodes and groups that may be given to those who were pasted. */
async function giveAll(): Promise<void> {
  const [what = '', name = ''] = give.value.split(' ')
  if (name === '') return
  const ids = good.value.map(({ id }) => id)
  await changes.changePlayers(ids, what === 'group' ? 'group' : 'node', name, 'granted', what === 'group' ? null : term.value)
  if (permissions.problem === '') pasted.value = ''
}
function choose(id: string): void {
  permissions.player = id
  permissions.column = `player ${id}`
}
const move = (event: KeyboardEvent, by: number): void => {
  const line = (event.currentTarget as HTMLElement).closest('tr')
  const next = by > 0 ? line?.nextElementSibling : line?.previousElementSibling
  next?.querySelector('button')?.focus()
}
</script>

<template>
  <div class="people">
    <div class="sieve">
      <input v-model="words" class="in words" type="search" placeholder="name or id" aria-label="Name or id" />
      <select v-model="rank" class="in" aria-label="Group">
        <option value="">any group</option>
        <option v-for="{ name } in permissions.permissions.groups" :key="name">{{ name }}</option>
      </select>
      <span class="muted">{{ counted(fitting.length, 'player') }}</span>
    </div>
    <table v-if="rows.length > 0">
      <thead>
        <tr>
          <th scope="col">Player</th>
          <th scope="col">Id</th>
          <th scope="col">Groups</th>
          <th scope="col" class="n">May</th>
          <th scope="col">Beside the rank</th>
          <th scope="col">Alone</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.player.id" :class="{ on: permissions.player === row.player.id }">
          <th scope="row">
            <button
              class="who"
              @click="choose(row.player.id)"
              @keydown.down.prevent="move($event, 1)"
              @keydown.up.prevent="move($event, -1)"
            >
              {{ row.name }}
            </button>
            <span v-if="row.player.isOperator" class="muted alone">operator</span>
          </th>
          <td>
            <code class="muted">{{ row.player.id }}</code>
          </td>
          <td>{{ row.player.groups.join(', ') || `${permissions.permissions.everybody ?? 'none'}, as all` }}</td>
          <td class="n">{{ row.count }}</td>
          <td :title="[...row.more, ...row.less.map((node) => `-${node}`)].join(', ')">
            {{ row.player.isOperator ? 'all else, too' : differsWords(row) }}
          </td>
          <td>
            <code v-for="grant in row.player.grants.slice(0, 3)" :key="grant.node" class="alone"
              >{{ grant.isDenied ? '-' : '' }}{{ grant.node }}</code
            ><span v-if="row.player.grants.length > 3" class="muted">and {{ row.player.grants.length - 3 }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="fitting.length > MOST" class="none muted">The first {{ MOST }} are shown; name or group leave fewer.</p>
    <p v-if="fitting.length === 0" class="none muted">
      Nobody fits. Players are known once they stand in the file of {{ permissions.answer.plugin }}.
    </p>
    <section v-if="mayGive" class="paste" aria-label="Several at once">
      <h2>Several at once</h2>
      <label for="pasted-ids">Ids or names, one a line</label>
      <textarea id="pasted-ids" v-model="pasted" class="in" rows="3" spellcheck="false" />
      <ul v-if="lines.length > 0" aria-label="Who that is">
        <li v-for="line in lines" :key="line.text">
          <FindingMark :kind="line.problem !== '' ? 'error' : line.isSeen ? 'done' : 'warning'" />
          <code>{{ line.id }}</code> {{ line.name }}
          <span :class="line.problem === '' ? 'muted' : 'err'">{{ line.problem || (line.isSeen ? 'seen here' : 'never seen here') }}</span>
        </li>
      </ul>
      <form v-if="lines.length > 0" class="give" @submit.prevent="giveAll">
        <select v-model="give" class="in" aria-label="What to give them">
          <option value="">give them …</option>
          <optgroup v-if="ways.hasGroups" label="A group">
            <option v-for="{ name } in permissions.permissions.groups" :key="name" :value="`group ${name}`">{{ name }}</option>
          </optgroup>
          <optgroup label="What may be done">
            <option v-for="node in permissions.answer.nodes" :key="node.node" :value="`node ${node.node}`">{{ nodeWords(node) }}</option>
          </optgroup>
        </select>
        <TermField v-if="ways.units.length > 0 && give.startsWith('node')" v-model="term" :units="ways.units" />
        <button class="btn small" type="submit" :disabled="give === '' || good.length === 0">
          Give it to {{ counted(good.length, 'player') }}
        </button>
      </form>
    </section>
  </div>
</template>

<style scoped>
.people {
  flex: 1;
  min-height: 0;
  overflow: auto;
  font: var(--t-small);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 10px 4px 0;
  text-align: left;
  white-space: nowrap;
  border-bottom: 1px solid var(--hairline);
}
th:first-child {
  padding-left: 16px;
}
thead th {
  position: sticky;
  top: 0;
  font: italic 400 13px/20px var(--serif);
  color: var(--muted);
  background: var(--flour);
}
tbody th {
  font-weight: 400;
}
.on {
  background: var(--semolina);
}
.who {
  font-weight: 600;
}
.n {
  text-align: right;
  padding-right: 18px;
}
.alone {
  margin-right: 8px;
}
th .alone {
  margin: 0 0 0 8px;
}
.none,
.paste {
  padding: 10px 16px;
}
.paste h2 {
  font: var(--t-section);
}
.paste textarea {
  display: block;
  width: min(460px, 100%);
  margin: 4px 0;
  font: var(--t-value);
}
.paste li {
  display: flex;
  gap: 8px;
  align-items: center;
  line-height: 22px;
}
.give {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: baseline;
  margin-top: 8px;
}
.give > .in {
  width: 220px;
}
</style>
