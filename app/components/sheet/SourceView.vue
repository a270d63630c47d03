<script setup lang="ts">
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState, RangeSetBuilder } from '@codemirror/state'
import {
  Decoration,
  EditorView,
  ViewPlugin,
  highlightActiveLine,
  keymap,
  lineNumbers,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { getNode, locate, parsePointer } from '@pasticcio/core'
import { HIGHLIGHTERS } from '~/utils/highlighters'

/** The source of the same draft the sheet shows; lines that are mine carry the saffron bar. */
const file = useFileStore()
const session = useSessionStore()
const host = ref<HTMLElement | null>(null)
let editor: EditorView | null = null

const look = HighlightStyle.define([
  {
    tag: [tags.propertyName, tags.definition(tags.propertyName), tags.definition(tags.variableName)],
    color: 'var(--crust)',
    fontWeight: '600',
  },
  { tag: [tags.comment, tags.lineComment], color: 'var(--muted)', fontStyle: 'italic' },
  { tag: [tags.number, tags.bool, tags.null, tags.keyword, tags.atom], color: 'var(--yours-edge)' },
  { tag: [tags.string, tags.quote], color: 'var(--update)' },
])

/** Marks the lines of settings that are mine. */
const mineLines = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = markMine(view)
    }
    update(change: ViewUpdate): void {
      if (change.docChanged || change.viewportChanged) this.decorations = markMine(change.view)
    }
  },
  { decorations: (plugin) => plugin.decorations },
)
function markMine(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>()
  const lines = [...new Set(file.rows.filter((row) => row.mine && row.line > 0 && row.type === 'setting').map((row) => row.line))].sort(
    (a, b) => a - b,
  )
  for (const line of lines)
    if (line <= view.state.doc.lines)
      builder.add(view.state.doc.line(line).from, view.state.doc.line(line).from, Decoration.line({ class: 'cm-mine' }))
  return builder.finish()
}

onMounted(() => {
  editor = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: file.text,
      extensions: [
        lineNumbers(),
        history(),
        highlightActiveLine(),
        lintGutter(),
        keymap.of([...defaultKeymap, ...historyKeymap, indentWithTab]),
        file.format ? HIGHLIGHTERS[file.format]() : [],
        syntaxHighlighting(look),
        mineLines,
        EditorState.readOnly.of(!session.mayEdit || file.view?.record === true),
        // the draft keeps its own line ends; the editor must not change them
        EditorState.lineSeparator.of(file.text.includes('\r\n') ? '\r\n' : '\n'),
        EditorView.updateListener.of((change) => {
          if (change.docChanged) file.setText(change.state.sliceDoc())
          if (change.selectionSet || change.docChanged) followCursor(change.state)
        }),
      ],
    }),
  })
  showFocus()
  showFindings()
})
onBeforeUnmount(() => editor?.destroy())

function followCursor(state: EditorState): void {
  const line = state.doc.lineAt(state.selection.main.head).number
  const row = file.rows.filter((item) => item.line > 0 && item.line <= line).at(-1)
  if (row && editor?.hasFocus) file.focus = row.pointer
}
function showFocus(): void {
  if (!editor || !file.document || editor.hasFocus) return
  const keys = parsePointer(file.focus) ?? []
  const at = locate(file.document, keys)?.entry.from ?? getNode(file.document, [])?.from ?? 0
  const place = Math.min(lengthInEditor(at), editor.state.doc.length)
  editor.dispatch({ selection: { anchor: place }, effects: EditorView.scrollIntoView(place, { y: 'center' }) })
}
/** The editor counts a line end as one character, whatever it is in the file. */
function lengthInEditor(offset: number): number {
  return file.text.slice(0, offset).replaceAll('\r\n', '\n').length
}
function showFindings(): void {
  if (!editor) return
  const length = editor.state.doc.length
  editor.dispatch(
    setDiagnostics(
      editor.state,
      file.findings.map((finding) => ({
        from: Math.min(lengthInEditor(finding.from), length),
        to: Math.min(Math.max(lengthInEditor(finding.to), lengthInEditor(finding.from)), length),
        severity: finding.severity === 'note' ? ('info' as const) : finding.severity,
        message: finding.message,
      })),
    ),
  )
}
watch(
  () => file.text,
  (text) => {
    if (editor && editor.state.sliceDoc() !== text) editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } })
  },
)
watch(() => file.focus, showFocus)
watch(() => file.findings, showFindings)
</script>

<template>
  <div ref="host" class="source" :aria-label="`Source of ${file.view?.path}`" />
</template>

<style>
.source {
  height: 100%;
  min-height: 0;
}
.source .cm-editor {
  height: 100%;
  background: var(--flour);
  color: var(--crust);
}
.source .cm-editor.cm-focused {
  outline: 0;
}
.source .cm-scroller {
  font: 400 12px/20px var(--mono);
  overflow: auto;
}
.source .cm-gutters {
  background: var(--flour);
  color: var(--muted);
  border-right: 1px solid var(--hairline);
  font-size: 11px;
}
.source .cm-activeLine,
.source .cm-activeLineGutter {
  background: var(--semolina);
}
.source .cm-mine {
  box-shadow: inset 3px 0 0 var(--yours);
}
.source .cm-cursor {
  border-left-color: var(--crust);
}
.source .cm-selectionBackground,
.source .cm-focused .cm-selectionBackground {
  background: var(--press) !important;
}
.source .cm-tooltip {
  background: var(--flour);
  border: 1px solid var(--crust);
  color: var(--crust);
  font: var(--t-small);
  max-width: 420px;
}
.source .cm-lintRange-error {
  background-image: none;
  text-decoration: underline wavy var(--error) 1px;
}
.source .cm-lintRange-warning {
  background-image: none;
  text-decoration: underline wavy var(--warning) 1px;
}
</style>
