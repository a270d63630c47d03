<script setup lang="ts">
import type { ListedFinding } from '~/stores/findings'

/** What is wrong, in groups of one cause each: where, what stands there, and what was meant. */
const emit = defineEmits<{ aside: [] }>()
const findings = useFindingsStore()
const session = useSessionStore()
const server = useServerStore()
const root = useTemplateRef<HTMLElement>('root')

/** Brings the line in focus into sight. */
function show(): void {
  root.value?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' })
}
defineExpose({ show })

const parts = ({ excerpt }: ListedFinding): readonly [string, string, string] => {
  if (!excerpt) return ['', '', '']
  const { text, from, to } = excerpt
  return [text.slice(0, from), text.slice(from, to), text.slice(to)]
}
const shortOf = ({ file, plugin }: ListedFinding): string => {
  const at = plugin === null ? -1 : file.indexOf(`/${plugin}/`)
  return at < 0 ? shortPath(file) : file.slice(at + plugin!.length + 2)
}
async function mendAll(list: readonly ListedFinding[]): Promise<void> {
  findings.focus = list[0]!.subject
  await findings.mend(list.filter(({ isMended }) => !isMended))
}
</script>

<template>
  <div ref="root">
    <section v-for="group in findings.groups" :key="group.id" :aria-label="group.title" :class="{ closed: !group.isOpen }">
      <div class="grp">
        <button class="fold" :aria-expanded="group.isOpen" @click="findings.toggle(group.id)">
          <i class="arrow" :class="{ down: group.isOpen }" aria-hidden="true" /><FindingMark
            v-if="group.id !== 'aside'"
            :kind="group.severity"
          />
          <h2>{{ group.title }}</h2>
          <span class="count">{{ group.findings.length }}</span>
        </button>
        <span class="about cut push">{{ group.about }}</span>
        <button v-if="group.isAlike && session.mayEdit" class="act b" @click="mendAll(group.findings)">
          Mend all {{ group.findings.length }} alike
        </button>
      </div>
      <ul v-if="group.isOpen">
        <li
          v-for="one in group.findings"
          :key="one.subject"
          :aria-current="findings.focus === one.subject"
          :class="{ on: findings.focus === one.subject, mended: one.isMended }"
        >
          <FindingMark :kind="one.isMended ? 'done' : one.severity" />
          <button class="who cut" :class="{ b: findings.focus === one.subject }" @click="findings.focus = one.subject">
            {{ one.plugin ?? one.file.split('/')[0] }}
          </button>
          <NuxtLink class="where cut" :to="{ path: `/s/${server.slug}/settings/${one.file}` }" :title="one.file"
            ><code>{{ shortOf(one) }} {{ one.line }}</code></NuxtLink
          >
          <code v-if="one.excerpt" class="what cut" :title="one.excerpt.text" @click="findings.focus = one.subject"
            >{{ parts(one)[0] }}<span class="bad" :class="one.severity">{{ parts(one)[1] }}</span
            >{{ parts(one)[2] }}</code
          ><span v-else class="what cut" @click="findings.focus = one.subject">{{ one.message }}</span>
          <span v-if="one.aside" class="do"
            ><button class="act b" :disabled="!session.mayEdit" @click="findings.takeUp(one.subject)">Take up again</button></span
          ><span v-else-if="one.fix && !one.isMended" class="do"
            ><span aria-hidden="true">→</span
            ><button class="act" :disabled="!session.mayEdit" :aria-label="`Mend: ${one.fix.label}`" @click="findings.mend([one])">
              <code>{{ one.fix.label }}</code>
            </button></span
          ><span v-else class="do"
            ><button
              v-if="!one.isMended && findings.focus === one.subject"
              class="act muted"
              :disabled="!session.mayEdit"
              @click="emit('aside')"
            >
              set aside
            </button></span
          >
          <p v-if="findings.focus === one.subject" class="says">{{ one.message }}</p>
          <p v-if="one.aside" class="says hand">“{{ one.aside.reason }}” {{ one.aside.by }}, {{ momentOf(one.aside.at) }}</p>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.grp {
  gap: 12px;
}
.about {
  font: var(--t-fine);
  line-height: 20px;
  color: var(--muted);
}
.closed .grp {
  min-height: 24px;
}
.fold {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-left: -12px;
}
.arrow {
  width: 6px;
  font: 400 11px/1 var(--mono);
}
.arrow::before {
  content: '›';
}
.arrow.down::before {
  content: '';
}
.count {
  font: var(--t-small);
  color: var(--muted);
}
.closed h2 {
  font: var(--t-body);
  font-weight: 700;
}
.grp .act {
  white-space: nowrap;
  font: var(--t-small);
  font-weight: 700;
  line-height: 20px;
}
li {
  display: grid;
  grid-template-columns: 24px 88px 128px minmax(0, 1fr) auto;
  align-items: center;
  min-height: var(--line);
  padding: 0 12px 0 16px;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
li.on {
  background: var(--semolina);
  box-shadow: inset 3px 0 0 var(--crust);
}
li.mended {
  color: var(--muted);
}
.where {
  padding-right: 8px;
}
.what {
  cursor: default;
}
.bad {
  text-decoration: underline wavy var(--error);
  text-decoration-thickness: 1px;
  text-underline-offset: 3px;
}
.bad.warning,
.bad.note {
  text-decoration-color: var(--warning);
}
.mended .bad {
  text-decoration: line-through;
}
.do {
  display: flex;
  gap: 6px;
  justify-content: flex-end;
  padding-left: 12px;
}
.says {
  grid-column: 2 / -1;
  font: var(--t-fine);
  color: var(--muted);
  padding-bottom: 5px;
}
.says.hand {
  font: italic 400 13px/18px var(--serif);
}
</style>
