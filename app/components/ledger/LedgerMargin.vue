<script setup lang="ts">
import { ruleWords } from '~/utils/rule-words'

/** What was pasted and waits, and the cell at the cursor with its layers. */
defineProps<{ locked: boolean }>()
const emit = defineEmits<{ go: [pointer: string] }>()
const ledger = useLedgerStore()
const tables = useLedgerTablesStore()
const drafts = useDraftsStore()
const preview = computed(() => ledger.pasted?.preview ?? null)
const near = computed(() => (preview.value?.unknown ?? []).filter(({ nearest }) => nearest !== null))
const useAll = (): void => ledger.useInstead(Object.fromEntries(near.value.map(({ id, nearest }) => [id, nearest!])))
const at = computed(() => ledger.inFocus)
const finding = computed(() => {
  const cell = at.value
  return cell ? tables.findingAt(cell.row, cell.column.id) : undefined
})
/** What the author says of the cell, and what it may be. */
const about = computedAsync(async () => {
  const cell = at.value
  if (!cell) return null
  return drafts.ask(cell.row.source.path, async ({ engine, draft }) => {
    const told = await engine.cellAbout(cell.row.pointer + cell.column.id)
    return { ...told, hasFactory: draft.view.factory !== null }
  })
}, null)
const followed = computed(() => {
  const cell = at.value
  return (cell && tables.follower?.follow(cell.row, cell.column.at)) ?? null
})
/** The same id in other files or sections. */
const elsewhere = computed(() => {
  const cell = at.value
  if (!cell || cell.row.isDefault || ledger.places.length < 2) return []
  const others = (ledger.table?.rows ?? []).filter((row) => row.id === cell.row.id && row.at !== cell.row.at)
  return others.map((row) => ({ place: row.place, text: row.cells[cell.column.at]?.text ?? 'none' })).slice(0, 12)
})
</script>

<template>
  <aside class="margin" aria-label="In the margin">
    <div class="body" tabindex="0" role="group" aria-label="About the ledger">
      <section v-if="preview" class="note" aria-label="What was pasted">
        <header>
          <h3>{{ counted(preview.matched + preview.unknown.length + preview.several.length, 'row') }} read</h3>
        </header>
        <p class="under">
          {{ preview.matched }} matched by id<template v-if="preview.unknown.length > 0"
            >, {{ counted(preview.unknown.length, 'unknown id') }}</template
          ><template v-if="preview.several.length > 0">, {{ counted(preview.several.length, 'id') }} in several files</template>.
          {{ counted(preview.changes.length, 'new value') }}, {{ preview.same }} the same already.
        </p>
        <ul v-if="preview.unknown.length > 0" class="unknown">
          <li v-for="item in preview.unknown.slice(0, 20)" :key="item.line">
            <code class="wrn cut">{{ item.id || 'no id' }}</code>
            <template v-if="item.nearest"
              >→ <code class="cut">{{ item.nearest }}</code><button class="act" @click="ledger.useInstead({ [item.id]: item.nearest! })">
                Use it
              </button></template
            ><span v-else class="muted">nothing like it here</span>
          </li>
        </ul>
        <p v-for="item in preview.several.slice(0, 8)" :key="item.line" class="under">
          <code>{{ item.id }}</code> is in {{ item.places.join(', ') }}
        </p>
        <div class="acts">
          <button class="btn small" :disabled="locked || preview.changes.length === 0" @click="ledger.takePaste()">
            Put {{ counted(preview.changes.length, 'new value') }} in the tray
          </button>
          <button v-if="near.length > 1" class="act" @click="useAll">Use all {{ near.length }}</button>
          <button v-if="preview.several.length > 0" class="act" @click="ledger.putIntoAll()">Into all files</button>
          <button class="act" @click="ledger.leave()">Leave it</button>
        </div>
      </section>
      <section v-if="at" class="note" aria-label="The cell at the cursor">
        <header>
          <h3 class="cut">{{ at.column.label }}</h3>
          <code class="cut">{{ at.row.id }}{{ at.column.key ? `.${at.column.key}` : '' }}</code>
        </header>
        <p v-if="about?.comment" class="comment">{{ about.comment }} <span class="src">the author</span></p>
        <dl v-if="about?.rule" class="layers">
          <div v-for="[name, words] in ruleWords(about.rule)" :key="name">
            <dt>{{ name }}</dt>
            <dd>{{ words }}</dd>
          </div>
        </dl>
        <p v-if="finding" :class="finding.severity === 'error' ? 'err' : 'wrn'">
          <FindingMark :kind="finding.severity === 'error' ? 'error' : 'warning'" /> {{ finding.message }}
        </p>
        <div class="h">Its layers</div>
        <dl class="layers">
          <div v-if="about?.hasFactory">
            <dt><i class="bar f" />factory</dt>
            <dd>{{ at.cell?.mine ? (at.cell.ships ?? 'none') : (at.cell?.text ?? 'none') }}</dd>
          </div>
          <div v-if="followed">
            <dt>as {{ followed.from }}</dt>
            <dd>{{ followed.cell.says ?? followed.cell.text }}</dd>
          </div>
          <div v-if="at.cell?.staged">
            <dt><i class="bar y" />on server</dt>
            <dd>{{ at.cell.was ?? 'none' }}</dd>
          </div>
          <div v-if="at.cell?.mine || at.cell?.staged || (at.cell && about && !about.hasFactory)" class="now">
            <dt><i class="bar y" />{{ at.cell?.staged ? 'in the tray' : 'on server' }}</dt>
            <dd>{{ at.cell?.text || 'empty' }}</dd>
          </div>
        </dl>
        <template v-if="elsewhere.length > 0">
          <div class="h">{{ at.row.id }} elsewhere</div>
          <dl class="layers">
            <div v-for="other in elsewhere" :key="other.place">
              <dt>{{ other.place }}</dt>
              <dd>{{ other.text }}</dd>
            </div>
          </dl>
        </template>
        <p v-if="at.cell && !at.cell.editable" class="under">
          {{ at.cell.kind === 'text' ? 'It is a secret.' : 'It has parts of its own.' }}
          <button class="act" @click="emit('go', at.row.pointer + at.column.id)">The sheet changes it</button>
        </p>
      </section>
    </div>
  </aside>
</template>

<style scoped>
.under {
  font: var(--t-fine);
  color: var(--muted);
  margin: 4px 0;
}
.unknown li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
  padding: 3px 0;
}
.unknown .act {
  margin-left: auto;
}
header {
  padding-top: 8px;
}
</style>
