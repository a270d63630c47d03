<script setup lang="ts">
import DOMPurify from 'dompurify'
import { marked } from 'marked'

/** What an author wrote, as Markdown; nothing in it runs, and pictures and styles from elsewhere are left out. */
const props = defineProps<{ text: string; more?: string; empty: string }>()
const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
/** Where it cannot be cleaned it is shown as it was written. */
function clean(text: string): string {
  if (!DOMPurify.isSupported || !hasWholeTree()) return escaped(text)
  return DOMPurify.sanitize(withoutHandlers(marked.parse(text, { async: false, gfm: true })), {
    FORBID_TAGS: ['style', 'img', 'form', 'input', 'iframe', 'svg', 'math', 'video', 'audio'],
    FORBID_ATTR: ['style', 'class', 'id', 'name'],
  })
}
/** Attributes of tags that would run something: they are taken out anyhow, and a browser tells of each it only reads. */
const HANDLER = /(<[a-z][^<>]*?)\son[a-z]+\s*=\s*(?:"[^"]*"|'[^']*'|[^\s"'<>]*)/gi
function withoutHandlers(html: string): string {
  // of each tag one at a time
  for (let before = '', now = html; ; now = before.replace(HANDLER, '$1')) {
    if (now === before) return now
    before = now
  }
}
/** Whether what cleans works here: it needs a browser's own reading of HTML. */
const hasWholeTree = (): boolean => DOMPurify.sanitize('<p><b odd=x>y</b></p><script>z</' + 'script>') === '<p><b>y</b></p>'
const html = computed(() => clean([props.text, props.more ?? ''].filter(Boolean).join('\n\n---\n\n')))
</script>

<template>
  <p v-if="html === ''" class="nothing muted">{{ empty }}</p>
  <!-- eslint-disable-next-line vue/no-v-html -- cleaned above -->
  <div v-else class="prose" v-html="html" />
</template>

<style scoped>
.nothing {
  padding: 12px 16px;
}
.prose {
  max-width: 680px;
  padding: 12px 16px 32px;
  overflow-wrap: anywhere;
}
.prose :deep(h1),
.prose :deep(h2),
.prose :deep(h3) {
  font: var(--t-section);
  margin: 16px 0 4px;
}
.prose :deep(h1) {
  font: var(--t-title);
}
.prose :deep(p),
.prose :deep(ul),
.prose :deep(ol),
.prose :deep(pre) {
  margin: 6px 0;
}
.prose :deep(ul),
.prose :deep(ol) {
  padding-left: 18px;
  list-style: disc;
}
.prose :deep(hr) {
  border: 0;
  border-top: 1px solid var(--hairline);
  margin: 20px 0;
}
</style>
