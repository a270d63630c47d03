<script setup lang="ts">
import { shortVersion } from '~/utils/short-version'
import { DOTS } from '@pasticcio/core'
import type { SheetRow } from '~/utils/sheet-rows'

/** Everything that belongs to the line in focus: the author's comment, its layers, and the file's findings. */
const props = defineProps<{ row: SheetRow | null; locked: boolean }>()
const emit = defineEmits<{ go: [pointer: string] }>()
const sheet = useSheetStore()
const known = useKnownStore()
const lines = computed(() => {
  const { row } = props
  if (!row || row.type !== 'setting') return []
  const staged = row.staged
  return [
    ...(row.factory !== null
      ? [{ mark: 'f', name: `factory ${shortVersion(sheet.view?.version ?? '')}`, value: row.factory, now: false }]
      : []),
    ...(row.onServer !== null && (staged || row.mine) ? [{ mark: 'y', name: 'on server', value: row.onServer, now: false }] : []),
    ...(staged ? [{ mark: 'y', name: 'in the tray', value: row.control === 'secret' ? DOTS : row.source, now: true }] : []),
    ...(row.update !== null
      ? [{ mark: 'u', name: `update ${shortVersion(sheet.view?.update?.version ?? '')}`, value: row.update, now: false }]
      : []),
  ]
})
/** The texts of a setting that look another way to players than they are written. */
const specimen = computed(() => {
  const { row } = props
  if (row?.type !== 'setting' || !['text', 'block', 'lines', 'tokens'].includes(row.control)) return []
  const texts = (Array.isArray(row.value) ? row.value : [row.value]).filter((text) => typeof text === 'string')
  return texts.some((text) => known.markup.isMarked(text)) ? texts : []
})
const shownFindings = computed(() => sheet.findings.slice(0, 6))
const moreFindings = computed(() => Math.max(sheet.findings.length, sheet.snapshot?.findingCount ?? 0) - shownFindings.value.length)
</script>

<template>
  <section v-if="row" class="note" aria-label="Note to the line in focus">
    <header>
      <h3 class="cut">{{ row.label }}</h3>
      <code class="cut">{{ row.keys.join('.') }}</code><span v-if="row.line > 0" class="push">line {{ row.line }}</span>
    </header>
    <p v-if="row.comment" class="comment">{{ row.comment }} <span class="src">the author</span></p>
    <p v-else class="comment muted">The author says nothing about it.</p>
    <template v-if="row.type === 'setting'">
      <TextSpecimen v-if="specimen.length > 0" :texts="specimen" />
      <LazyNodeHolders
        v-if="row.rule?.means === 'node' && typeof row.value === 'string' && row.value !== ''"
        :node="row.value"
        :locked="locked"
      />
      <RuleNote :row="row" :locked="locked" />
      <div class="h">
        Its layers
        <button v-if="row.mine && row.inFactory && !locked" class="act push" @click="sheet.toFactory(row.pointer)">back to factory</button
        ><kbd v-if="row.mine && row.inFactory && !locked">f</kbd>
      </div>
      <dl class="layers">
        <div v-for="line in lines" :key="line.name" :class="{ now: line.now }">
          <dt><i class="bar" :class="line.mark" />{{ line.name }}</dt>
          <dd>{{ line.value || 'empty' }}</dd>
        </div>
      </dl>
      <p v-if="!row.inFactory && sheet.view?.factory !== null" class="under">You added it; the plugin does not ship it.</p>
    </template>
    <template v-else-if="row.type === 'removed'">
      <div class="h">Its layers</div>
      <dl class="layers">
        <div>
          <dt><i class="bar f" />factory</dt>
          <dd>{{ row.factory }}</dd>
        </div>
      </dl>
      <div class="acts"><button class="btn" :disabled="locked" @click="sheet.toFactory(row.pointer)">Put it back</button></div>
    </template>
    <template v-else-if="row.type === 'off'">
      <p class="under">It stands in a comment, so the plugin’s own counts.</p>
      <div class="acts">
        <button class="btn" :disabled="locked" @click="sheet.turnOn(row.pointer)">Set it to {{ row.source || 'that' }}</button>
      </div>
    </template>
    <p v-else-if="row.mineCount > 0" class="under">{{ row.mineCount }} of {{ row.settings }} settings in it are yours.</p>
  </section>
  <ol v-if="shownFindings.length > 0" class="footnotes" aria-label="Findings in this file">
    <li v-for="finding in shownFindings" :key="finding.code + finding.from">
      <FindingMark :kind="finding.severity" />
      <span
        ><button class="act" @click="emit('go', finding.pointer)">Line {{ finding.line }}</button>: {{ finding.message }}
        <br v-if="finding.fix && !locked" /><button v-if="finding.fix && !locked" class="act" @click="sheet.applyFix(finding)">
          {{ finding.fix.label }}
        </button></span
      >
    </li>
    <li v-if="moreFindings > 0">
      <span /><span class="muted">and {{ moreFindings }} more</span>
    </li>
  </ol>
</template>

<style scoped>
header .push {
  font: var(--t-fine);
  color: var(--muted);
}
.under {
  font: var(--t-fine);
  color: var(--muted);
  margin-top: 6px;
}
</style>
