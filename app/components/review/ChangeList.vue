<script setup lang="ts">
import type { TrayFile } from '~/utils/types'

/** Every change that is staged, setting by setting. */
const props = defineProps<{ files: readonly TrayFile[] }>()
/** One line: a setting with what it holds before and after, or a file that is taken whole. */
interface Line {
  readonly id: string
  readonly path: string
  readonly kind: string
  readonly factory?: unknown
  readonly mine?: unknown
}
const changes = computed<readonly Line[]>(() =>
  props.files.flatMap((file) =>
    file.text
      ? file.changes.map((change) => ({ ...change, id: `${file.path} ${change.path}` }))
      : [{ path: `/${file.path.split('/').pop()}`, kind: 'taken whole', id: file.path }],
  ),
)
const more = computed(() => props.files.reduce((sum, file) => sum + (file.text ? file.count - file.changes.length : 0), 0))
</script>

<template>
  <dl class="changes">
    <template v-for="change in changes" :key="change.id">
      <dt>
        <code>{{ pointerWords(change.path) }}</code>
      </dt>
      <dd>
        <template v-if="change.kind === 'changed'"
          >{{ JSON.stringify(change.factory) }} → <b>{{ JSON.stringify(change.mine) }}</b></template
        ><template v-else>{{ change.kind === 'comment' ? 'own comment' : change.kind }}</template>
      </dd>
    </template>
  </dl>
  <p v-if="more > 0" class="muted">and {{ more }} more</p>
</template>

<style scoped>
.changes {
  font: var(--t-fine);
  margin-top: 4px;
}
.changes dt {
  color: var(--muted);
  padding-top: 6px;
  overflow-wrap: anywhere;
}
.changes dd {
  overflow-wrap: anywhere;
  font: 400 12px/16px var(--mono);
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 5px;
}
</style>
