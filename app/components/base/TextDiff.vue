<script setup lang="ts">
import { structuredPatch } from 'diff'

/** Two texts compared line by line, with some lines around each change. */
const props = defineProps<{ before: string; after: string }>()
interface Line {
  readonly kind: 'add' | 'del' | 'same' | 'gap'
  readonly left: number | null
  readonly right: number | null
  readonly text: string
}
const lines = computed<Line[]>(() => {
  const patch = structuredPatch('a', 'b', props.before, props.after, '', '', { context: 2 })
  return patch.hunks.flatMap((hunk, i) => {
    let left = hunk.oldStart
    let right = hunk.newStart
    const rows = hunk.lines
      .filter((line) => !line.startsWith('\\'))
      .map((line): Line => {
        const text = line.slice(1).replace(/\r$/, '')
        if (line[0] === '+') return { kind: 'add', left: null, right: right++, text }
        if (line[0] === '-') return { kind: 'del', left: left++, right: null, text }
        return { kind: 'same', left: left++, right: right++, text }
      })
    return i > 0 ? [{ kind: 'gap' as const, left: null, right: null, text: '' }, ...rows] : rows
  })
})
</script>

<template>
  <ol class="diff">
    <li v-for="(line, i) in lines" :key="i" :class="line.kind">
      <template v-if="line.kind === 'gap'">…</template>
      <template v-else
        ><span class="no">{{ line.left }}</span
        ><span class="no">{{ line.right }}</span
        ><span class="sign" aria-hidden="true">{{ line.kind === 'add' ? '+' : line.kind === 'del' ? '−' : '' }}</span
        ><span
          ><span class="sr">{{ line.kind === 'add' ? 'added: ' : line.kind === 'del' ? 'taken out: ' : '' }}</span
          >{{ line.text }}</span
        ></template
      >
    </li>
    <li v-if="lines.length === 0" class="gap">The two read the same.</li>
  </ol>
</template>
