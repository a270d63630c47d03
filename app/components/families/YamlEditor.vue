<script setup lang="ts">
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands'
import { syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view'
import type { FamilyFault } from '~/utils/types'
import { highlighterOf } from '~/utils/highlighters'
import { sourceLook } from '~/utils/source-look'

/** A description as YAML; what is wrong in it stands at its line. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ faults: readonly FamilyFault[]; readOnly: boolean; label: string }>()
const host = useTemplateRef<HTMLElement>('host')
let editor: EditorView | null = null

onMounted(() => {
  editor = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: text.value,
      extensions: [
        EditorView.cspNonce.of(cspNonce()),
        EditorView.contentAttributes.of({ 'aria-label': props.label, tabindex: '0' }),
        lineNumbers(),
        history(),
        highlightActiveLine(),
        lintGutter(),
        keymap.of([...defaultKeymap, ...historyKeymap, indentWithTab]),
        highlighterOf('yaml', 0),
        syntaxHighlighting(sourceLook),
        EditorState.readOnly.of(props.readOnly),
        EditorView.updateListener.of((change) => change.docChanged && (text.value = change.state.doc.toString())),
      ],
    }),
  })
  showFaults()
})
onBeforeUnmount(() => editor?.destroy())
watch(text, (now) => {
  if (editor && now !== editor.state.doc.toString()) editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: now } })
})
watch(() => props.faults, showFaults)

function showFaults(): void {
  if (!editor) return
  const { doc } = editor.state
  const marks = props.faults.map(({ line, message }) => {
    const { from, to } = doc.line(Math.min(Math.max(line, 1), doc.lines))
    return { from, to, severity: 'error' as const, message }
  })
  editor.dispatch(setDiagnostics(editor.state, marks))
}
/** Goes to where a key of the description stands. */
function goTo(key: string): void {
  if (!editor) return
  const at = new RegExp(`^${key}:`, 'm').exec(editor.state.doc.toString())
  if (at) editor.dispatch({ selection: { anchor: at.index }, effects: EditorView.scrollIntoView(at.index, { y: 'start' }) })
  editor.focus()
}
defineExpose({ goTo })
</script>

<template>
  <div ref="host" class="source" />
</template>
