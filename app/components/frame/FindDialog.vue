<script setup lang="ts">
import { formatOf, formatPointer, isContainer, parse, plainLabel, type Document, type Node, type SecretMask } from '@pasticcio/core'
import type { FileView } from '~/utils/types'
import { shortSource } from '~/utils/sheet-rows'
import { maskOf } from '~/utils/secret-mask'

/** Finds a setting in all files of this server, by name, key, value or comment. */
interface Hit {
  readonly path: string
  readonly pointer: string
  readonly label: string
  readonly value: string
  readonly search: string
}
let files = new Map<string, FileView>()
const known = new Map<string, SecretMask>()
const visible = defineModel<boolean>('visible', { required: true })
const server = useServerStore()
const router = useRouter()
const query = ref('')
const all = shallowRef<Hit[]>([])
const chosen = ref(0)
const loading = ref(false)
const problem = ref('')
const hits = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  const found = words.length === 0 ? [] : all.value.filter((hit) => words.every((word) => hit.search.includes(word))).slice(0, 30)
  return found.map((hit) => ({ ...hit, value: String(masks(hit.path).value(hit.value, hit.pointer)) }))
})
watch(query, () => (chosen.value = 0))
watch(visible, (open) => open && void load(), { immediate: true })

async function load(): Promise<void> {
  query.value = ''
  loading.value = true
  problem.value = ''
  try {
    const views = await callApi<FileView[]>(`${server.base}/files`)
    files = new Map(views.map((view) => [view.path, view]))
    known.clear()
    all.value = views.flatMap(hitsIn)
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    loading.value = false
  }
}

/** What is secret is told of the files that something is found in only. */
function masks(path: string): SecretMask {
  const view = files.get(path)!
  const mask = known.get(path) ?? maskOf(view, [view.draft?.text ?? view.text])
  known.set(path, mask)
  return mask
}
function hitsIn(view: FileView): Hit[] {
  const format = formatOf(view.path)
  if (!format) return []
  const document = parse(view.draft?.text ?? view.text, format, view.reading)
  const found: Hit[] = []
  walk(document, document.root, [], view.path, found)
  return found
}
function walk(document: Document, node: Node, keys: readonly string[], path: string, found: Hit[]): void {
  if (node.type !== 'map') return
  for (const entry of node.entries) {
    const at = [...keys, entry.key]
    const value = isContainer(entry.value) && entry.value.type === 'map' ? '' : shortSource(document, entry.value)
    const label = plainLabel(entry.key)
    found.push({ path, pointer: formatPointer(at), label, value, search: `${label} ${at.join('.')} ${value} ${path}`.toLowerCase() })
    walk(document, entry.value, at, path, found)
  }
}
function go(hit: Hit | undefined): void {
  if (!hit) return
  visible.value = false
  void router.push({ path: `/s/${server.slug}/settings/${hit.path}`, query: { at: hit.pointer } })
}
</script>

<template>
  <BaseDialog v-model:visible="visible" title="Find a setting on this server">
    <input
      v-model="query"
      class="in find-in"
      autofocus
      placeholder="name, key, value or plugin"
      aria-label="What to find"
      role="combobox"
      aria-autocomplete="list"
      aria-controls="found-settings"
      :aria-expanded="hits.length > 0"
      :aria-activedescendant="hits.length > 0 ? `found-${chosen}` : undefined"
      @keydown.down.prevent="chosen = Math.min(chosen + 1, hits.length - 1)"
      @keydown.up.prevent="chosen = Math.max(chosen - 1, 0)"
      @keydown.enter.prevent="go(hits[chosen])"
    />
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <p v-else-if="loading" class="muted note">Reading the settings …</p>
    <p v-else-if="query !== '' && hits.length === 0" class="muted note">
      Nothing on this server matches. Try part of the name, or a value.
    </p>
    <ul v-show="hits.length > 0" id="found-settings" role="listbox" aria-label="Settings that fit">
      <li
        v-for="(hit, i) in hits"
        :id="`found-${i}`"
        :key="hit.path + hit.pointer"
        role="option"
        :aria-selected="i === chosen"
        @click="go(hit)"
        @mousemove="chosen = i"
      >
        <span>{{ hit.label }}</span><code class="cut">{{ pointerWords(hit.pointer) }}</code
        ><code class="cut v">{{ hit.value }}</code
        ><span class="muted">{{ shortPath(hit.path) }}</span>
      </li>
    </ul>
  </BaseDialog>
</template>

<style scoped>
.find-in {
  width: 100%;
  height: 28px;
  font-size: 14px;
  margin: 8px 0;
}
.note {
  font: var(--t-small);
  padding: 4px 0;
}
li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1.4fr) minmax(0, 1fr) auto;
  gap: 8px;
  height: 24px;
  align-items: center;
  padding: 0 4px;
  cursor: pointer;
  font: var(--t-small);
}
li[aria-selected='true'] {
  background: var(--semolina);
}
code {
  color: var(--muted);
}
</style>
