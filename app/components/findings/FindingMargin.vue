<script setup lang="ts">
import type { Value } from '@pasticcio/core'
import { CAUSES } from '@pasticcio/core'

/** The finding in focus: what is wrong and what to do, with its setting to be changed in place. */
const findings = useFindingsStore()
const session = useSessionStore()
const sheet = useSheetStore()
const server = useServerStore()
const body = useTemplateRef<HTMLElement>('body')
const reason = ref('')
const isPutting = ref(false)
const one = computed(() => findings.current)
const isText = computed(() => one.value !== null && one.value.excerpt !== null)
const at = computed(() => {
  const shown = findings.shown.findIndex(({ subject }) => subject === findings.focus)
  return shown < 0 ? '' : `${shown + 1} of ${findings.shown.length}`
})
/** The finding whose setting the sheet stands at: that of the last one is not shown for the next. */
const placed = ref('')
const row = computed(() =>
  placed.value === one.value?.subject && sheet.inFocus?.type === 'setting' && sheet.inFocus.pointer === sheet.focus ? sheet.inFocus : null,
)

watch(
  () => [findings.focus, one.value?.line] as const,
  async () => {
    isPutting.value = false
    reason.value = placed.value = ''
    const { value } = one
    if (!value || !isText.value || value.isMended) return
    if (sheet.view?.path !== value.file) await sheet.open(value.file)
    if (one.value?.subject !== value.subject) return
    const pointer = await sheet.pointerAtLine(value.line)
    if (one.value?.subject !== value.subject || pointer === '') return
    sheet.focus = pointer
    placed.value = value.subject
  },
  { immediate: true },
)

/** Into the margin: to what mends it, or to the setting itself. */
function enter(): void {
  const find = (selector: string): HTMLElement | null => body.value?.querySelector<HTMLElement>(selector) ?? null
  // what mends it comes first, though it stands below the setting
  const to = find('.do .btn:not(:disabled)') ?? find('.place input, .place button, .place textarea, .place select')
  to?.focus()
}
async function put(): Promise<void> {
  isPutting.value = true
  await nextTick()
  body.value?.querySelector<HTMLElement>('#aside-reason')?.focus()
}
defineExpose({ enter, put })

async function set(value: Value): Promise<void> {
  if (row.value && (await sheet.set(row.value.pointer, value))) await findings.follow()
}
async function setAside(): Promise<void> {
  if (!one.value || reason.value.trim() === '') return
  await findings.setAside(one.value.subject, reason.value)
  isPutting.value = false
}
const known = computed(() => {
  const { severity, code } = one.value ?? { severity: 'note' as const, code: 'syntax' as const }
  const how =
    severity === 'error'
      ? 'It is declared, or cannot be otherwise, so that it holds the tray.'
      : 'It is told from what the plugin ships and says, so that it only warns.'
  return `${CAUSES[code].says} ${severity === 'note' ? '' : how}`.trim()
})
</script>

<template>
  <aside class="margin" aria-label="About this finding">
    <div class="titleline side">
      <h2>In the margin</h2>
      <span class="push muted">{{ at }}</span>
    </div>
    <div ref="body" class="body note">
      <template v-if="one">
        <h3>{{ CAUSES[one.code].title }}</h3>
        <p class="lead">
          <NuxtLink :to="{ path: `/s/${server.slug}/settings/${one.file}`, query: row ? { at: row.pointer } : {} }"
            >Line {{ one.line }} of {{ shortPath(one.file) }}</NuxtLink
          >. {{ one.message }}
        </p>
        <p v-if="one.isMended" class="good" role="status"><FindingMark kind="done" /> Mended in the draft. <kbd>u</kbd> takes it back.</p>
        <ul v-if="one.related?.length" class="related">
          <li v-for="other in one.related" :key="other.file + other.from">
            <NuxtLink :to="`/s/${server.slug}/settings/${other.file}`">{{ shortPath(other.file) }}</NuxtLink> {{ other.why }}
          </li>
        </ul>
        <template v-if="row && !one.isMended">
          <div class="h">
            The setting
            <NuxtLink class="push" :to="{ path: `/s/${server.slug}/settings/${one.file}`, query: { at: row.pointer } }"
              >in the sheet</NuxtLink
            >
          </div>
          <div class="place">
            <span class="cut name"
              ><LayerMark :factory="row.inFactory" :yours="row.mine" :update="row.update !== null" /> {{ row.label }}</span
            >
            <SettingControl :row="row" :disabled="!session.mayEdit" :bad="one.severity === 'error'" @set="set" />
          </div>
          <p v-if="row.comment" class="comment">{{ row.comment }} <span class="src">the author</span></p>
        </template>
        <div v-if="!one.isMended" class="do acts">
          <button v-if="one.fix" class="btn" :disabled="!session.mayEdit" @click="findings.mend([one])">
            Mend this one: <code>{{ one.fix.label }}</code>
          </button>
        </div>
        <template v-if="findings.alike.length > 1">
          <div class="h">Mend all {{ findings.alike.length }} alike <span class="push muted">one undo takes all back</span></div>
          <FindingAlike :key="one.cause" :findings="findings.alike" :locked="!session.mayEdit" @mend="findings.mend" />
        </template>
        <dl class="facts">
          <dt>Known by</dt>
          <dd>{{ known }}</dd>
          <template v-if="!one.isMended && !one.aside">
            <dt>If it is meant</dt>
            <dd>
              <button v-if="!isPutting" class="act b" :disabled="!session.mayEdit" @click="put">Set aside with a reason …</button>
              <form v-else class="reason" @submit.prevent="setAside">
                <label for="aside-reason">Why it may stay</label>
                <input id="aside-reason" v-model="reason" class="in" maxlength="500" @keydown.esc="isPutting = false" />
                <button class="btn" :disabled="reason.trim() === ''">Set aside</button>
              </form>
            </dd>
          </template>
        </dl>
        <p class="keys muted"><kbd>.</kbd> next <kbd>Enter</kbd> into the margin <kbd>x</kbd> set aside <kbd>w</kbd> why not?</p>
      </template>
      <p v-else class="muted">Nothing is in focus.</p>
    </div>
  </aside>
</template>

<style scoped>
.lead {
  font: var(--t-small);
  margin-top: 4px;
}
.related {
  margin-top: 6px;
  font: var(--t-fine);
}
.place {
  display: grid;
  grid-template-columns: minmax(0, 92px) minmax(0, 1fr);
  gap: 8px;
  align-items: start;
  padding: 6px 0;
}
.place .name {
  line-height: 24px;
}
.reason {
  display: grid;
  gap: 6px;
  font: var(--t-fine);
}
.facts {
  margin-top: 14px;
}
.keys {
  margin-top: 14px;
  font: var(--t-fine);
}
.good {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 8px;
}
</style>
