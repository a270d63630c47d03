<script setup lang="ts">
import type { Step } from '@pasticcio/core'
import { settingLink } from '~/utils/pointer-words'
import { stepWords } from '~/utils/right-words'
import { nodeWords } from '~/utils/permission-rows'

/** Why somebody may or may not, step by step, what mends it, and what the node is for. */
const permissions = usePermissionsStore()
const changes = useRightChangesStore()
const server = useServerStore()
const session = useSessionStore()
const node = computed(() => permissions.current)
const column = computed(() => permissions.currentColumn)
const cell = computed(() => (node.value && column.value ? permissions.book.cell(column.value.subject, node.value.node) : null))
const group = computed(() => column.value?.group ?? null)
const own = computed(() => group.value?.grants.find((grant) => grant.node === node.value?.node) ?? null)
const deciding = computed(() => permissions.steps.find(({ decides }) => decides) ?? null)
const player = computed(() => {
  const { subject } = column.value ?? {}
  return subject && 'player' in subject ? (permissions.playerBy(subject.player) ?? null) : null
})
const findings = computed(() => permissions.answer.findings.filter(({ message }) => node.value && message.includes(node.value.node)))
/** The denial in another group that decides, where taking it out is what helps. */
const denial = computed(() => {
  const { grant, word, speaker, name } = deciding.value ?? {}
  return grant && word === 'denied' && speaker === 'group' && name !== group.value?.name ? { name: name!, node: grant.node } : null
})
/** What the server said of it; null where it was not asked. */
const said = computed(() => {
  const nodes = column.value && permissions.told[column.value.name]
  return nodes && node.value ? nodes.includes(node.value.node) : null
})
/** What its files say that it read. */
const standing = computed(
  () => column.value && node.value && (permissions.before ?? permissions.book).may(column.value.subject, node.value.node),
)
const isOwn = ({ speaker }: Step): boolean => speaker === 'player'
const lineOf = (step: Step): number | undefined =>
  (isOwn(step) ? permissions.answer.players.lines : permissions.answer.lines)[step.grant?.pointer ?? '']
const link = (step: Step): ReturnType<typeof settingLink> =>
  settingLink(server.slug, (isOwn(step) ? permissions.answer.players.file : permissions.answer.file) ?? '', step.grant?.pointer ?? '')
const change = (to: 'granted' | 'denied' | null): unknown =>
  group.value && node.value && changes.change(group.value.name, node.value.node, to)
</script>

<template>
  <aside class="margin" aria-label="Why">
    <div class="titleline side"><h2>In the margin</h2></div>
    <div v-if="node && column && cell" class="body note">
      <header>
        <h3>
          Why may {{ column.name }} {{ cell.may ? '' : 'not ' }}<span class="what">{{ nodeWords(node).toLowerCase() }}</span
          >?
        </h3>
      </header>
      <ol class="steps" aria-label="Step by step">
        <li v-for="(step, i) in permissions.steps" :key="i" :class="{ decides: step.decides, no: !step.may }">
          <span class="n">{{ i + 1 }}</span>
          <span class="says"
            >{{ stepWords(step, node.plugin) }}
            <NuxtLink v-if="step.grant && lineOf(step)" :to="link(step)" class="where"
              ><code>{{ step.grant.isDenied ? '-' : '' }}{{ step.grant.node }}</code> line {{ lineOf(step) }}</NuxtLink
            ><span v-else-if="step.grant && step.speaker === 'player'" class="said muted">not said to the console yet</span></span
          >
          <b>{{ step.may ? 'yes' : 'no' }}</b>
        </li>
      </ol>
      <p v-if="session.mayEdit && group" class="mend">
        <button v-if="denial" class="btn small" @click="changes.change(denial.name, denial.node, null)">
          Take out {{ denial.name }}’s denial
        </button>
        <button v-if="!own || own.isDenied" class="btn small" @click="change('granted')">Grant it to {{ group.name }} <kbd>+</kbd></button>
        <button v-if="own" class="act" @click="change(null)">say nothing of it <kbd>0</kbd></button>
        <button v-if="!own || !own.isDenied" class="act" @click="change('denied')">deny it <kbd>-</kbd></button>
      </p>
      <template v-else-if="player">
        <p v-if="denial && session.mayEdit" class="mend">
          <button class="btn small" @click="changes.change(denial.name, denial.node, null)">Take out {{ denial.name }}’s denial</button>
        </p>
        <p v-if="permissions.answer.canAsk && session.mayEdit" class="mend">
          <button class="act" @click="permissions.ask(column.name)">ask the server</button>
          <span v-if="said !== null" role="status"
            ><FindingMark v-if="said !== standing" kind="warning" /> it says: {{ said ? 'may' : 'may not' }},
            {{ said === standing ? 'and so say its files' : 'its files say another thing' }}</span
          >
        </p>
        <PlayerNote :player="player" :node="node.node" />
      </template>
      <NodeNote :node="node" />
      <GroupNote v-if="group" :group="group" />
      <ol v-if="findings.length > 0" class="footnotes" aria-label="Findings about it">
        <li v-for="finding in findings" :key="finding.subject">
          <FindingMark :kind="finding.severity" /><span>{{ finding.message }}</span>
        </li>
      </ol>
    </div>
  </aside>
</template>

<style scoped>
h3 {
  white-space: normal;
}
.steps {
  list-style: none;
  margin: 4px 0 8px;
  padding: 0;
  font: var(--t-small);
}
.steps li {
  display: grid;
  grid-template-columns: 16px 1fr auto;
  gap: 6px;
  padding: 3px 0;
  border-bottom: 1px solid var(--hairline);
}
.steps .n,
.steps b {
  font-weight: 400;
  color: var(--muted);
}
.steps .decides {
  margin: 0 -16px;
  padding: 3px 16px;
  background: var(--semolina);
  box-shadow: inset 3px 0 var(--crust);
}
.steps .decides.no {
  background: var(--wash-error);
  box-shadow: inset 3px 0 var(--error);
}
.steps .decides b {
  font-weight: 700;
  color: var(--crust);
}
.said {
  display: block;
  font: var(--t-fine);
}
.where {
  display: flex;
  justify-content: space-between;
  font: var(--t-fine);
}
.mend {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: baseline;
  margin: 8px 0;
}
</style>
